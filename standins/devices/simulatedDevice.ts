import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import type { Slot } from '../../src/lib/core/tray/slot';
import type { TakenPicture } from './pictures';
import {
  type Armed,
  type DemoCommand,
  type DeviceWish,
  type Fault,
  SpeakingDevice,
  sleep
} from './speakingDevice';

const armingMs = 60;
const exposingMs = 300;
const readingMs = 350;

/** A sensor or a panel that exposes when told to. */
export class SimulatedDevice extends SpeakingDevice {
  /** Rendered ahead from the moment it is armed, so that reading out after the exposure is quick. */
  private nextPicture: { of: string; coming: Promise<TakenPicture> } | null = null;
  private formerPicture: TakenPicture | null = null;
  /** What it was armed for last: a panel that nobody got ready still catches what falls on it. */
  private former: { series: string; slot: Slot } | null = null;
  private restAt: NodeJS.Timeout | null = null;
  private series: NodeJS.Timeout | null = null;
  /** The x-ray button was pressed a moment too early: it exposes as soon as the device is ready. */
  private pressed = false;

  constructor(wish: DeviceWish) {
    super(wish);
  }

  protected toldToRest(): void {
    if (this.lamp !== 'reading' && this.lamp !== 'exposing') this.rest();
  }

  protected allTaken(): void {
    if (this.lamp === 'reading') this.rest();
  }

  protected override letGo(): void {
    if (this.restAt) clearTimeout(this.restAt);
    this.restAt = null;
    this.pressed = false;
    super.letGo();
  }

  protected async arm(instruction: Armed): Promise<void> {
    const { slot, series } = instruction;
    if (!slot) return;
    this.armed = instruction;
    this.former = { series, slot };
    if (this.restAt) clearTimeout(this.restAt);
    this.setLamp('arming');
    await sleep(armingMs);
    if (this.armed !== instruction) return;
    // Armed again for the same slot before it exposed: the picture is on its way already.
    const of = `${series} ${slot.id}`;
    if (this.nextPicture?.of !== of) this.nextPicture = { of, coming: this.pictureFor(series, slot, null) };
    this.setLamp('ready');
    if (this.pressed) return this.expose();
    this.restAt = setTimeout(() => this.restByItself(), instruction.readySeconds * 1000);
  }

  private async expose(fault?: Fault): Promise<void> {
    if (this.unplugged()) return;
    const { armed, nextPicture } = this;
    if (this.lamp !== 'ready' || !armed?.slot || !nextPicture) {
      this.pressed = this.lamp !== 'resting';
      if (!this.pressed) await this.exposeUnasked();
      return;
    }
    this.pressed = false;
    const wrong: SensorFault | null = fault && fault !== 'same again' ? fault : null;
    const coming = wrong ? this.pictureFor(armed.series, armed.slot, wrong) : nextPicture.coming;
    this.nextPicture = null;
    if (this.restAt) clearTimeout(this.restAt);
    await this.readOut();
    const picture = (fault === 'same again' && this.formerPicture) || (await coming);
    this.formerPicture = picture;
    this.keep(armed.armingId, picture);
  }

  private async readOut(): Promise<void> {
    this.setLamp('exposing');
    await sleep(exposingMs);
    this.setLamp('reading');
    await sleep(readingMs);
  }

  /** A sensor that rests catches nothing. A panel notices the beam by itself. */
  private async exposeUnasked(): Promise<void> {
    const { former } = this;
    if (this.wish.kind !== 'panel' || !former) {
      this.setLamp('resting', 'Nothing was exposed: get it ready first.');
      return;
    }
    const coming = this.pictureFor(former.series, former.slot, null);
    await this.readOut();
    this.keep(null, await coming);
  }

  protected demo({ kind, everySeconds = 3, seconds = 15, fault }: DemoCommand): void {
    if (kind === 'demo-expose') void this.expose(fault);
    if (kind === 'demo-unplug') this.unplug(seconds);
    if (kind === 'demo-series') this.demoSeries(everySeconds);
  }

  private demoSeries(everySeconds: number): void {
    if (this.series) clearInterval(this.series);
    let idle = 0;
    this.series = setInterval(() => {
      idle = this.lamp === 'resting' ? idle + 1 : 0;
      if (idle > 2 && this.series) clearInterval(this.series);
      if (this.lamp === 'ready') void this.expose();
    }, everySeconds * 1000);
  }
}
