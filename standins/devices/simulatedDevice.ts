import fs from 'node:fs';
import path from 'node:path';
import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import type { Slot } from '../../src/lib/core/tray/slot';
import type { RenderPool } from '../render/pool';
import { followInstructions } from './instructions';
import { type TakenPicture, jobFor, takenFrom } from './pictures';
import { Spool, offer } from './spool';

export interface DeviceWish {
  server: string;
  name: string;
  kind: 'intraoral-sensor' | 'panel';
  code: string;
  /** Its own disk. */
  folder: string;
  pool: RenderPool;
}

type Lamp = 'resting' | 'arming' | 'ready' | 'exposing' | 'reading' | 'faulted';
type Armed = { armingId: string; series: string; readySeconds: number; slot: Slot };
type Fault = SensorFault | 'same again';
interface DemoCommand {
  kind: string;
  everySeconds?: number;
  seconds?: number;
  fault?: Fault;
}

const signOfLifeMs = 4000;
const armingMs = 60;
const exposingMs = 300;
const readingMs = 350;
const offerAgainMs = 1000;
/** What could not be taken is said for a while, then the device can be made ready again. */
const faultedMs = 4000;
const mostFailures = 3;
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Beam values as an operator would set them, by what the device is. */
const technique = { 'intraoral-sensor': { kv: 65, exposureMas: 0.7 }, panel: { kv: 58, exposureMas: 4 } };

/** A device at a chair that exposes when told to. It speaks the device protocol (docs/device-protocol.md). */
export class SimulatedDevice {
  private readonly spool: Spool;
  private readonly tokenFile: string;
  private token: string;
  private lamp: Lamp = 'resting';
  private words = '';
  private armed: Armed | null = null;
  /** Rendered ahead from the moment it is armed, so that reading out after the exposure is quick. */
  private nextPicture: { of: string; coming: Promise<TakenPicture> } | null = null;
  private formerPicture: TakenPicture | null = null;
  private restAt: NodeJS.Timeout | null = null;
  private series: NodeJS.Timeout | null = null;
  private unpluggedUntil = 0;
  /** The x-ray button was pressed a moment too early: it exposes as soon as the device is ready. */
  private pressed = false;
  private seed = Math.floor(Date.now() / 1000) % 100_000;
  private readonly failures = new Map<string, number>();

  constructor(private readonly wish: DeviceWish) {
    this.spool = new Spool(wish.folder);
    this.tokenFile = path.join(wish.folder, 'token');
    this.token = fs.existsSync(this.tokenFile) ? fs.readFileSync(this.tokenFile, 'utf8') : '';
  }

  private unplugged = (): boolean => Date.now() < this.unpluggedUntil;

  async run(): Promise<void> {
    while (this.token === '') {
      await this.register();
      if (this.token === '') await sleep(1000);
    }
    this.spool.takeUpAside();
    setInterval(() => void this.report(), signOfLifeMs);
    void this.offerForEver();
    await this.report();
    await followInstructions(
      this.wish.server,
      () => this.token,
      (event, data) => this.heard(event, data),
      () => this.register()
    );
  }

  private heard(event: string, data: unknown): void {
    if (this.unplugged()) return;
    if (event === 'demo') this.demo(data as DemoCommand);
    const instruction = data as { kind: string };
    if (event === 'instruction' && instruction.kind === 'arm') void this.arm(data as Armed);
    const busy = this.lamp === 'reading' || this.lamp === 'exposing';
    if (event === 'instruction' && instruction.kind === 'rest' && !busy) this.rest();
  }

  private async register(): Promise<void> {
    const { server, code, name, kind } = this.wish;
    const answer = await fetch(`${server}/device/v1/registrations`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ code, name, kind })
    }).catch(() => null);
    if (!answer?.ok) return;
    this.token = ((await answer.json()) as { token: string }).token;
    fs.writeFileSync(this.tokenFile, this.token, { mode: 0o600 });
  }

  private async report(gaveUp?: string): Promise<void> {
    if (this.token === '' || this.unplugged()) return;
    await fetch(`${this.wish.server}/device/v1/lamp`, {
      method: 'PUT',
      headers: { authorization: `Bearer ${this.token}`, 'content-type': 'application/json' },
      body: JSON.stringify({ lamp: this.lamp, words: this.words, gaveUp })
    }).catch(() => {});
  }

  private setLamp(next: Lamp, message = '', gaveUp?: string): void {
    this.lamp = next;
    this.words = message;
    void this.report(gaveUp);
  }

  private rest(): void {
    this.letGo();
    this.setLamp('resting');
  }

  /** Ready for long enough: the clinic is told that nobody waits here any more. */
  private restByItself(): void {
    const gaveUp = this.armed?.armingId;
    this.letGo();
    this.setLamp('resting', 'Rested by itself. Get it ready to go on.', gaveUp);
  }

  private letGo(): void {
    if (this.restAt) clearTimeout(this.restAt);
    this.restAt = null;
    this.armed = null;
    this.pressed = false;
  }

  private async arm(instruction: Armed): Promise<void> {
    if (this.armed?.armingId === instruction.armingId) return;
    this.armed = instruction;
    if (this.restAt) clearTimeout(this.restAt);
    this.setLamp('arming');
    await sleep(armingMs);
    if (this.armed !== instruction) return;
    // Armed again for the same slot before it exposed: the picture is on its way already.
    const of = `${instruction.series} ${instruction.slot.id}`;
    if (this.nextPicture?.of !== of) this.nextPicture = { of, coming: this.pictureFor(instruction, null) };
    this.setLamp('ready');
    if (this.pressed) return this.expose();
    this.restAt = setTimeout(() => this.restByItself(), instruction.readySeconds * 1000);
  }

  private async pictureFor({ series, slot }: Armed, fault: SensorFault | null): Promise<TakenPicture> {
    return takenFrom(await this.wish.pool.render(jobFor(series, slot, ++this.seed, fault)));
  }

  private async expose(fault?: Fault): Promise<void> {
    if (this.unplugged()) return;
    const { armed, nextPicture } = this;
    if (this.lamp !== 'ready' || !armed || !nextPicture) {
      this.pressed = this.lamp !== 'resting';
      if (!this.pressed) this.setLamp('resting', 'Nothing was exposed: get it ready first.');
      return;
    }
    this.pressed = false;
    const coming = fault && fault !== 'same again' ? this.pictureFor(armed, fault) : nextPicture.coming;
    this.nextPicture = null;
    if (this.restAt) clearTimeout(this.restAt);
    this.setLamp('exposing');
    await sleep(exposingMs);
    this.setLamp('reading');
    await sleep(readingMs);
    const picture = (fault === 'same again' && this.formerPicture) || (await coming);
    this.formerPicture = picture;
    this.keep(armed.armingId, picture);
  }

  private keep(armingId: string, { raster, bytes, pitchMm }: TakenPicture): void {
    this.spool.add(
      {
        armingId,
        takenAt: new Date().toISOString(),
        width: raster.width,
        height: raster.height,
        bitsStored: raster.bitsStored,
        pitchMm,
        manufacturer: 'Yonder Tray stand-ins',
        model: `Simulated ${this.wish.kind === 'panel' ? 'panel' : 'sensor'}`,
        ...technique[this.wish.kind]
      },
      bytes
    );
  }

  /** Whether an exposure would be refused for ever: by its own fault, or because the clinic breaks off over it each time. */
  private neverTaken(key: string, status: number): boolean {
    if (status >= 400 && status < 500) return ![401, 408, 429].includes(status);
    if (status !== 500) return false;
    this.failures.set(key, (this.failures.get(key) ?? 0) + 1);
    return this.failures.get(key)! >= mostFailures;
  }

  /** Offers what is spooled, the oldest first, until each is acknowledged. */
  private async offerForEver(): Promise<never> {
    for (;;) {
      const exposure = this.token === '' || this.unplugged() ? null : this.spool.next();
      if (!exposure) {
        await sleep(40);
        continue;
      }
      const result = await offer(this.wish.server, this.token, exposure);
      if (result.acknowledged) {
        this.spool.remove(exposure.key);
        if (this.lamp === 'reading' && this.spool.count() === 0) this.rest();
        continue;
      }
      if (result.status === 401) await this.register();
      if (this.neverTaken(exposure.key, result.status)) {
        this.setAside(exposure.key, result.message);
        continue;
      }
      const left = this.spool.count();
      this.setLamp('reading', `Keeping ${left} until the clinic can take ${left === 1 ? 'it' : 'them'}.`);
      await sleep(offerAgainMs);
    }
  }

  private setAside(key: string, message: string): void {
    this.spool.setAside(key);
    this.setLamp('faulted', `${message || 'The clinic could not take an exposure.'} It is kept here.`);
    if (this.spool.count() === 0)
      setTimeout(() => {
        if (this.lamp === 'faulted') this.rest();
      }, faultedMs);
  }

  private demo({ kind, everySeconds = 3, seconds = 15, fault }: DemoCommand): void {
    if (kind === 'demo-expose') void this.expose(fault);
    if (kind === 'demo-unplug') {
      this.unpluggedUntil = Date.now() + seconds * 1000;
      this.rest();
    }
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
