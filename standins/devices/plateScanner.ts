import { randomUUID } from 'node:crypto';
import type { Fineness } from '../../src/lib/core/devices/deviceKind';
import { halved } from '../../src/lib/core/raster/pyramid';
import type { Raster } from '../../src/lib/core/raster/raster';
import type { Slot } from '../../src/lib/core/tray/slot';
import type { TakenPicture } from './pictures';
import { type Armed, type DemoCommand, SpeakingDevice, sleep } from './speakingDevice';

/** The first is the usual one. */
export const finenesses: readonly Fineness[] = [
  { id: 'usual', words: 'Usual', pitchMm: 0.04, secondsPerPlate: 4 },
  { id: 'fine', words: 'Fine', pitchMm: 0.02, secondsPerPlate: 8 },
  { id: 'quick', words: 'Quick', pitchMm: 0.08, secondsPerPlate: 2 }
];

const armingMs = 60;
/** What is shown while it reads is no wider than this, and comes so many lines at a time. */
const shownPx = 128;
const linesAtOnce = 8;

interface Plate {
  number: string;
  /** Put in a second time: it was wiped when it was read. */
  wiped: boolean;
}

/** The same picture at a coarser pitch. */
function coarser(picture: TakenPicture, pitchMm: number): TakenPicture {
  let { raster } = picture;
  let pitch = picture.pitchMm!;
  while (pitch < pitchMm * 0.75) {
    raster = halved(raster);
    pitch *= 2;
  }
  const { buffer, byteOffset, byteLength } = raster.data;
  return { raster, bytes: new Uint8Array(buffer, byteOffset, byteLength), pitchMm: pitch };
}

/** As it is shown while it comes: small, and one byte a sample. */
function shownOf(whole: Raster): Raster {
  let raster = whole;
  while (raster.width > shownPx) raster = halved(raster);
  return {
    ...raster,
    bitsStored: 8,
    data: Uint8Array.from(raster.data, (each) => each >> (whole.bitsStored - 8))
  };
}

/** Reads plates one after the other, each shown line by line; those that are put in wait until it is ready. */
export class PlateScanner extends SpeakingDevice {
  private waiting: Plate[] = [];
  private reading = false;
  private restIsWanted = true;
  private former: { series: string; slot: Slot } | null = null;
  private lastPlate = 100;
  private restAt: NodeJS.Timeout | null = null;

  protected async arm(instruction: Armed): Promise<void> {
    this.armed = instruction;
    this.restIsWanted = false;
    if (instruction.slot) this.former = { series: instruction.series, slot: instruction.slot };
    if (this.restAt) clearTimeout(this.restAt);
    if (this.reading) return;
    this.setLamp('arming');
    await sleep(armingMs);
    if (this.armed !== instruction) return;
    this.waitForPlates();
  }

  private waitForPlates(): void {
    this.setLamp('ready', this.waiting.length > 0 ? '' : 'Put plates in.');
    this.restAt = setTimeout(() => this.restByItself(), this.armed!.readySeconds * 1000);
    void this.readNext();
  }

  protected override letGo(): void {
    if (this.restAt) clearTimeout(this.restAt);
    this.restAt = null;
    super.letGo();
  }

  protected toldToRest(): void {
    this.letGo();
    this.restIsWanted = true;
    if (!this.reading) this.stopped();
  }

  private stopped(): void {
    const { length } = this.waiting;
    const plates = length === 1 ? 'A plate waits' : `${length} plates wait`;
    this.rest(length > 0 ? `${plates} in it. Get it ready to read on.` : '');
  }

  /** What was read is safe; the clinic says what is next, or lets it rest. */
  protected allTaken(): void {
    if (this.reading || this.lamp !== 'reading') return;
    if (this.restIsWanted) this.stopped();
    else if (this.armed) this.waitForPlates();
    else this.setLamp('arming');
  }

  private async readNext(): Promise<void> {
    const { armed } = this;
    const plate = this.waiting[0];
    const seen = armed?.slot ?? this.former?.slot;
    if (this.reading || !armed || !plate || !seen || this.lamp !== 'ready') return;
    this.reading = true;
    this.waiting.shift();
    if (this.restAt) clearTimeout(this.restAt);
    const more = this.waiting.length;
    this.setLamp('reading', `Plate ${plate.number}${more > 0 ? `, ${more} more` : ''}`);
    const fineness = finenesses.find(({ id }) => id === armed.fineness) ?? finenesses[0];
    const whole = await this.pictureFor(armed.series, seen, plate.wiped ? 'nothing' : null);
    const picture = coarser(whole, fineness.pitchMm);
    await this.show(armed.armingId, plate, picture.raster, fineness.secondsPerPlate);
    this.reading = false;
    // An arming is for one plate: what comes next is said once this one is safe.
    if (this.armed === armed) this.armed = null;
    this.keep(armed.armingId, picture, plate.number);
  }

  private async show(armingId: string, { number }: Plate, raster: Raster, seconds: number): Promise<void> {
    const readingId = randomUUID();
    const { width, height, data } = shownOf(raster);
    const strips = Math.ceil(height / linesAtOnce);
    const started = Date.now();
    for (let strip = 0; strip < strips; strip++) {
      const from = strip * linesAtOnce;
      const rows = data.subarray(from * width, Math.min(height, from + linesAtOnce) * width);
      const lines = { readingId, armingId, plate: number, width, height, from };
      void this.say('reading', { ...lines, rows: Buffer.from(rows).toString('base64') });
      await sleep(Math.max(0, started + ((strip + 1) / strips) * seconds * 1000 - Date.now()));
    }
  }

  protected demo({ kind, count = 1, again = false, seconds = 15 }: DemoCommand): void {
    if (kind === 'demo-unplug') this.unplug(seconds);
    if (kind !== 'demo-plates') return;
    const plates = Array.from({ length: count }, () => ({ number: String(++this.lastPlate), wiped: false }));
    this.waiting.push(...plates);
    if (again) this.waiting.push({ ...plates[0], wiped: true });
    if (this.lamp === 'resting') this.stopped();
    void this.readNext();
  }
}
