import path from 'node:path';
import type { Fineness } from '../../src/lib/core/devices/deviceKind';
import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import type { Slot } from '../../src/lib/core/tray/slot';
import { followInstructions } from './instructions';
import { type SimulatedBeam, type TakenPicture, takenFrom } from './pictures';
import { Token } from './registering';
import { Spool, offer } from './spool';

export interface DeviceWish {
  server: string;
  name: string;
  kind: 'intraoral-sensor' | 'panel' | 'plate-scanner';
  code: string;
  /** Its own disk. */
  folder: string;
  beam: SimulatedBeam;
  finenesses?: readonly Fineness[];
}

export type Lamp = 'resting' | 'arming' | 'ready' | 'exposing' | 'reading' | 'faulted';
/** What it is armed for; the slot is null where it is for the bench. */
export interface Armed {
  armingId: string;
  series: string;
  readySeconds: number;
  slot: Slot | null;
  fineness: string | null;
}
export type Fault = SensorFault | 'same again';
export interface DemoCommand {
  kind: string;
  everySeconds?: number;
  seconds?: number;
  fault?: Fault;
  count?: number;
  again?: boolean;
}

const signOfLifeMs = 4000;
const offerAgainMs = 1000;
/** What could not be taken is said for a while, then the device can be made ready again. */
const faultedMs = 4000;
const mostFailures = 3;
export const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Beam values as an operator would set them, by what the device is. */
const technique = {
  'intraoral-sensor': { kv: 65, exposureMas: 0.7 },
  'plate-scanner': { kv: 65, exposureMas: 0.9 },
  panel: { kv: 58, exposureMas: 4 }
};
const models = {
  'intraoral-sensor': 'Simulated sensor',
  'plate-scanner': 'Simulated plate scanner',
  panel: 'Simulated panel'
};

/** What all devices at a chair have in common: they speak the device protocol (docs/device-protocol.md). */
export abstract class SpeakingDevice {
  private readonly spool: Spool;
  private readonly token: Token;
  protected lamp: Lamp = 'resting';
  private words = '';
  protected armed: Armed | null = null;
  private unpluggedUntil = 0;
  private readonly failures = new Map<string, number>();

  constructor(protected readonly wish: DeviceWish) {
    this.spool = new Spool(wish.folder);
    this.token = new Token(path.join(wish.folder, 'token'), wish);
  }

  /** Told what to wait for; the same again is not told. */
  protected abstract arm(instruction: Armed): Promise<void>;
  /** Told to wait for nothing. */
  protected abstract toldToRest(): void;
  protected abstract demo(command: DemoCommand): void;
  /** Everything that it kept has been taken. */
  protected abstract allTaken(): void;

  protected unplugged = (): boolean => Date.now() < this.unpluggedUntil;

  protected unplug(seconds: number): void {
    this.unpluggedUntil = Date.now() + seconds * 1000;
    this.letGo();
    this.setLamp('resting');
  }

  async run(): Promise<void> {
    await this.token.untilKnown();
    this.spool.takeUpAside();
    setInterval(() => void this.report(), signOfLifeMs);
    void this.offerForEver();
    await this.report();
    await followInstructions(this.wish.server, this.token, (event, data) => this.heard(event, data));
  }

  private heard(event: string, data: unknown): void {
    if (this.unplugged()) return;
    if (event === 'demo') this.demo(data as DemoCommand);
    const instruction = data as { kind: string };
    if (event === 'instruction' && instruction.kind === 'arm') {
      const asked = data as Armed;
      if (this.armed?.armingId !== asked.armingId) void this.arm(asked);
    }
    if (event === 'instruction' && instruction.kind === 'rest') this.toldToRest();
  }

  /** Says something to the clinic, unless its cable is out. */
  protected async say(what: string, body: object): Promise<void> {
    if (!this.unplugged()) await this.token.say(what, body);
  }

  private report(gaveUp?: string): Promise<void> {
    return this.say('lamp', { lamp: this.lamp, words: this.words, gaveUp });
  }

  protected setLamp(next: Lamp, message = '', gaveUp?: string): void {
    this.lamp = next;
    this.words = message;
    void this.report(gaveUp);
  }

  protected rest(message = ''): void {
    this.letGo();
    this.setLamp('resting', message);
  }

  /** Ready for long enough: the clinic is told that nobody waits here any more. */
  protected restByItself(): void {
    const gaveUp = this.armed?.armingId;
    this.letGo();
    this.setLamp('resting', 'Rested by itself. Get it ready to go on.', gaveUp);
  }

  protected letGo(): void {
    this.armed = null;
  }

  protected async pictureFor(series: string, slot: Slot, fault: SensorFault | null): Promise<TakenPicture> {
    return takenFrom(await this.wish.beam.expose(series, slot, fault));
  }

  /** Writes an exposure to its disk; from then on it is offered until it is acknowledged. */
  protected keep(armingId: string | null, { raster, bytes, pitchMm }: TakenPicture, plate?: string): void {
    const { kind } = this.wish;
    this.spool.add(
      {
        armingId,
        takenAt: new Date().toISOString(),
        width: raster.width,
        height: raster.height,
        bitsStored: raster.bitsStored,
        pitchMm,
        plate,
        manufacturer: 'Yonder Tray stand-ins',
        model: models[kind],
        ...technique[kind]
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
      const exposure = this.token.value === '' || this.unplugged() ? null : this.spool.next();
      if (!exposure) {
        await sleep(40);
        continue;
      }
      const result = await offer(this.wish.server, this.token.value, exposure);
      if (result.acknowledged) {
        this.spool.remove(exposure.key);
        if (this.spool.count() === 0) this.allTaken();
        continue;
      }
      if (result.status === 401) await this.token.register();
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
}
