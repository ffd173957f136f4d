import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { enrolmentCode, useClinic } from '../../../../e2e/harness/clinic';
import { checkAudit } from '../audit/check';
import { sha256 } from '../ids';
import { originalOf, rasterOf } from '../pictures/rasters';
import { pictureRow } from '../pictures/pictures';
import { changeTray, trayOfVisit } from '../trays/trays';
import {
  type DeviceCaller,
  deviceOf,
  instructionFor,
  readyDevice,
  register,
  reportLamp,
  restDevice
} from './devices';
import { type ExposureOffer, exposureOffer, takeExposure } from './exposures';
import { visitView } from '../visits/visits';

const clinic = useClinic();

async function newDevice(): Promise<DeviceCaller> {
  const { token } = await register({
    code: enrolmentCode,
    name: `Sensor ${randomUUID()}`,
    kind: 'intraoral-sensor',
    room: 'Teeth'
  });
  return deviceOf(`Bearer ${token}`);
}

async function armed(device: DeviceCaller): Promise<{ armingId: string; slotId: string }> {
  const instruction = await instructionFor(device);
  if (instruction.kind !== 'arm') throw new Error('it was to be armed');
  return { armingId: instruction.armingId, slotId: instruction.slot.id };
}

const samples = (seed: number) =>
  new Uint8Array(Uint16Array.from({ length: 12 * 8 }, (_, i) => i * 31 + seed).buffer);
const offer = (armingId: string, changes: Partial<ExposureOffer> = {}): ExposureOffer =>
  exposureOffer.parse({
    armingId,
    takenAt: new Date().toISOString(),
    width: 12,
    height: 8,
    bitsStored: 16,
    pitchMm: 0.02,
    ...changes
  });

async function readyVisit(): Promise<{ visitId: string; device: DeviceCaller }> {
  const [visitId, device] = [await clinic.newVisit(), await newDevice()];
  await readyDevice(clinic.caller('assistant'), device.deviceId, visitId);
  return { visitId, device };
}
const trayNow = (visitId: string) =>
  clinic.inside((tx) => trayOfVisit(tx, visitId)).then((stored) => stored.tray);

describe('registering', () => {
  it('needs the clinic’s code, and a name keeps its place when it comes again', async () => {
    await expect(
      register({ code: 'guess', name: 'S', kind: 'intraoral-sensor', room: 'Teeth' })
    ).rejects.toMatchObject({ code: 'wrong-code' });
    const one = await register({
      code: enrolmentCode,
      name: 'Twice',
      kind: 'intraoral-sensor',
      room: 'Teeth'
    });
    const two = await register({
      code: enrolmentCode,
      name: 'Twice',
      kind: 'intraoral-sensor',
      room: 'Teeth'
    });
    expect(two.deviceId).toBe(one.deviceId);
    await expect(deviceOf(`Bearer ${one.token}`)).rejects.toMatchObject({ code: 'unknown-device' });
  });
});

describe('an exposure', () => {
  it('is stored byte for byte, fills its slot and arms the device for the next one', async () => {
    const { visitId, device } = await readyVisit();
    const first = await armed(device);
    const { pictureId } = await takeExposure(
      device,
      'key-00000001',
      offer(first.armingId),
      samples(1),
      sha256(samples(1))
    );
    const tray = await trayNow(visitId);
    expect(tray.wells[first.slotId].keeper).toBe(pictureId);
    expect((await armed(device)).slotId).toBe(tray.present);
    const original = await clinic.inside(async (tx) => originalOf(tx, await pictureRow(tx, pictureId)));
    expect(original.equals(samples(1))).toBe(true);
  });

  it('offered again, also at the same moment, is the same picture once', async () => {
    const { visitId, device } = await readyVisit();
    const { armingId } = await armed(device);
    const before = await clinic.count('picture');
    const answers = await Promise.all(
      Array.from({ length: 6 }, () => takeExposure(device, 'key-00000002', offer(armingId), samples(2), null))
    );
    expect(new Set(answers.map((answer) => answer.pictureId)).size).toBe(1);
    expect(answers.filter((answer) => !answer.again)).toHaveLength(1);
    expect(await clinic.count('picture')).toBe(before + 1);
    expect(Object.values((await trayNow(visitId)).wells).flatMap((well) => well.takes)).toHaveLength(1);
  });

  it('comes with its take, audit line and job, or not at all', async () => {
    const { device } = await readyVisit();
    const { armingId } = await armed(device);
    const tables = ['picture', 'tray_event', 'audit_line', 'arrival_key', 'pgboss.job', 'blob'];
    const before = await Promise.all(tables.map((table) => clinic.count(table)));
    await clinic.owner.query(
      `create function fail_now() returns trigger language plpgsql as 'begin raise exception ''broken''; end'`
    );
    await clinic.owner.query(
      'create trigger fail_now before insert on audit_line for each row execute function fail_now()'
    );
    await expect(takeExposure(device, 'key-00000003', offer(armingId), samples(3), null)).rejects.toThrow(
      /broken/
    );
    await clinic.owner.query('drop trigger fail_now on audit_line');
    expect(await Promise.all(tables.map((table) => clinic.count(table)))).toEqual(before);
    await takeExposure(device, 'key-00000003', offer(armingId), samples(3), null);
    const after = await Promise.all(tables.map((table) => clinic.count(table)));
    expect(after.every((count, i) => count === before[i] + 1)).toBe(true);
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('that comes late goes to the slot it was made for and leaves the route alone', async () => {
    const { visitId, device } = await readyVisit();
    const old = await armed(device);
    const other = (await trayNow(visitId)).route[2];
    await clinic.inside((tx) => changeTray(tx, visitId, [{ kind: 'slot-chosen', slotId: other }], 'x'));
    const { pictureId } = await takeExposure(device, 'key-00000004', offer(old.armingId), samples(4), null);
    const tray = await trayNow(visitId);
    expect(tray.wells[old.slotId].takes).toEqual([pictureId]);
    expect(tray.present).toBe(other);
  });

  it('that is rubbish is refused in words, and nothing is stored', async () => {
    const { device } = await readyVisit();
    const { armingId } = await armed(device);
    const before = await clinic.count('picture');
    const short = takeExposure(device, 'key-00000005', offer(armingId), samples(5).subarray(2), null);
    await expect(short).rejects.toMatchObject({ code: 'rubbish' });
    const spoilt = takeExposure(device, 'key-00000005', offer(armingId), samples(5), sha256('other'));
    await expect(spoilt).rejects.toMatchObject({ code: 'rubbish' });
    const stray = takeExposure(device, 'key-00000005', offer(randomUUID()), samples(5), null);
    await expect(stray).rejects.toMatchObject({ code: 'never-armed' });
    expect(() => offer(armingId, { width: 0 })).toThrow();
    expect(() => offer(armingId, { pitchMm: Number.NaN })).toThrow();
    expect(await clinic.count('picture')).toBe(before);
  });

  it('of another device’s arming is not taken', async () => {
    const { device } = await readyVisit();
    const other = await newDevice();
    const { armingId } = await armed(device);
    await expect(
      takeExposure(other, 'key-00000006', offer(armingId), samples(6), null)
    ).rejects.toMatchObject({ code: 'never-armed' });
  });

  it('has the pixels it was offered when they are read again', async () => {
    const { device } = await readyVisit();
    const { armingId } = await armed(device);
    const { pictureId } = await takeExposure(device, 'key-00000007', offer(armingId), samples(7), null);
    const raster = await clinic.inside(async (tx) => rasterOf(tx, await pictureRow(tx, pictureId)));
    expect([...raster.data]).toEqual([...new Uint16Array(samples(7).buffer)]);
  });
});

describe('a ready device', () => {
  it('is not disturbed by choosing keepers, and follows the operator to another slot', async () => {
    const { visitId, device } = await readyVisit();
    const first = await armed(device);
    const { pictureId } = await takeExposure(device, 'key-00000008', offer(first.armingId), samples(8), null);
    const waiting = await armed(device);
    await clinic.inside((tx) =>
      changeTray(tx, visitId, [{ kind: 'keeper-chosen', slotId: first.slotId, takeId: pictureId }], 'x')
    );
    await clinic.inside((tx) =>
      changeTray(
        tx,
        visitId,
        [{ kind: 'keeper-confirmed', slotId: first.slotId, takeId: pictureId, by: 'x' }],
        'x'
      )
    );
    expect(await armed(device)).toEqual(waiting);
    await clinic.inside((tx) =>
      changeTray(tx, visitId, [{ kind: 'retake-asked', slotId: first.slotId }], 'x')
    );
    expect((await armed(device)).slotId).toBe(first.slotId);
  });
  it('rests when told to, and when the tray is full', async () => {
    const { device } = await readyVisit();
    await restDevice(clinic.caller('assistant'), device.deviceId);
    expect(await instructionFor(device)).toEqual({ kind: 'rest' });
    const full = await readyVisit();
    for (let i = 0; i < 4; i++) {
      const { armingId } = await armed(full.device);
      await takeExposure(full.device, `key-full-000${i}`, offer(armingId), samples(20 + i), null);
    }
    expect(await instructionFor(full.device)).toEqual({ kind: 'rest' });
    await expect(
      readyDevice(clinic.caller('assistant'), full.device.deviceId, full.visitId)
    ).rejects.toMatchObject({ code: 'nothing-empty' });
  });
  it('that rested by itself is not asked again, but an old message does not take a new arming away', async () => {
    const { visitId, device } = await readyVisit();
    const first = await armed(device);
    await readyDevice(clinic.caller('assistant'), device.deviceId, visitId);
    await reportLamp(device, { lamp: 'resting', words: '', gaveUp: first.armingId });
    const second = await armed(device);
    expect(second.armingId).not.toBe(first.armingId);
    await reportLamp(device, { lamp: 'resting', words: '', gaveUp: second.armingId });
    expect(await instructionFor(device)).toEqual({ kind: 'rest' });
  });
  it('is shown as absent once it has been silent', async () => {
    const { visitId, device } = await readyVisit();
    await reportLamp(device, { lamp: 'ready', words: '' });
    const lamp = async () =>
      (await visitView(clinic.caller(), visitId)).devices.find((each) => each.deviceId === device.deviceId)!
        .lamp;
    expect(await lamp()).toBe('ready');
    await clinic.owner.query(`update device set lamp_at = now() - interval '1 minute' where device_id = $1`, [
      device.deviceId
    ]);
    expect(await lamp()).toBe('absent');
  });
});
