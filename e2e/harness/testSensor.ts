import { randomUUID } from 'node:crypto';
import {
  type DeviceCaller,
  deviceOf,
  instructionFor,
  readyDevice
} from '../../src/lib/server/devices/devices';
import type { speakingKinds } from '../../src/lib/core/devices/deviceKind';
import { register } from '../../src/lib/server/devices/enrolment';
import { type ExposureOffer, exposureOffer } from '../../src/lib/server/devices/exposureOffer';
import { takeExposure } from '../../src/lib/server/devices/exposures';
import type { Acknowledged } from '../../src/lib/server/devices/offered';
import type { TestClinic } from './clinic';

/** The bytes as they come over a wire: in pieces that keep no sample whole. */
export async function* pieces(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += 37) yield bytes.subarray(at, at + 37);
}

export const smallSamples = (seed: number): Uint8Array =>
  new Uint8Array(Uint16Array.from({ length: 12 * 8 }, (_, i) => i * 31 + seed).buffer);

export const smallOffer = (armingId: string | null, changes: Partial<ExposureOffer> = {}): ExposureOffer =>
  exposureOffer.parse({
    armingId,
    takenAt: new Date().toISOString(),
    width: 12,
    height: 8,
    bitsStored: 16,
    pitchMm: 0.02,
    ...changes
  });

/** A sensor of a services' test, which speaks to the services themselves. */
export class TestSensor {
  private constructor(
    readonly device: DeviceCaller,
    readonly authorization: string
  ) {}

  static async register(
    clinic: TestClinic,
    name = `Sensor ${randomUUID()}`,
    kind: (typeof speakingKinds)[number] = 'intraoral-sensor'
  ): Promise<TestSensor> {
    const code = await clinic.newCode();
    const { token } = await register({ code, name, kind }, '127.0.0.1');
    const authorization = `Bearer ${token}`;
    return new TestSensor(await deviceOf(authorization), authorization);
  }

  get deviceId(): string {
    return this.device.deviceId;
  }

  /** What it is armed for; the slot is null for the bench. */
  async instructed(): Promise<{ armingId: string; slotId: string | null }> {
    const instruction = await instructionFor(this.device);
    if (instruction.kind !== 'arm') throw new Error('it was to be armed');
    return { armingId: instruction.armingId, slotId: instruction.slot?.id ?? null };
  }

  /** The slot that it is armed for. */
  async armed(): Promise<{ armingId: string; slotId: string }> {
    const { armingId, slotId } = await this.instructed();
    if (slotId === null) throw new Error('it was to be armed for a slot');
    return { armingId, slotId };
  }

  take(
    key: string,
    offer: ExposureOffer,
    bytes: Uint8Array,
    digest: Buffer | null = null
  ): Promise<Acknowledged> {
    return takeExposure({ authorization: this.authorization, key, offer, digest, body: pieces(bytes) });
  }

  /** Exposes for whatever it is armed for. */
  async expose(seed: number): Promise<string> {
    const { armingId } = await this.armed();
    return (await this.take(`key-${randomUUID()}`, smallOffer(armingId), smallSamples(seed))).pictureId;
  }
}

/** A new visit with a sensor armed for its first slot. */
export async function readyVisit(
  clinic: TestClinic
): Promise<{ visitId: string; trayId: string; sensor: TestSensor }> {
  const visitId = await clinic.newVisit();
  const sensor = await TestSensor.register(clinic);
  const { trayId } = await clinic.trayOf(visitId);
  await readyDevice(clinic.caller('assistant'), sensor.deviceId, trayId);
  return { visitId, trayId, sensor };
}
