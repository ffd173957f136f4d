import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { enrolmentCode, useClinic } from '../../../../e2e/harness/clinic';
import {
  TestSensor,
  readyVisit,
  smallOffer as offer,
  smallSamples as samples
} from '../../../../e2e/harness/testSensor';
import { windowOf } from '../../core/raster/look/look';
import { lookSchema } from '../../core/raster/look/lookSchema';
import type { TrayEvent } from '../../core/tray/events/all';
import { checkAudit } from '../audit/check';
import { moveIn, wholeBlob } from '../blobs/keep';
import { sha256 } from '../ids';
import { rasterOf } from '../pictures/levels';
import { pictureRow } from '../pictures/views';
import { changeTray, heldFirstTray } from '../trays/trays';
import { deviceOf, instructionFor, readyDevice, register, reportLamp, restDevice } from './devices';
import { takeExposure } from './exposures';
import { markSilent } from './silence';
import { visitView } from '../visits/visits';

const clinic = useClinic();

const ready = () => readyVisit(clinic);
const trayNow = (visitId: string) => clinic.trayOf(visitId).then(({ tray }) => tray);
const change = (visitId: string, ...events: TrayEvent[]) =>
  clinic.inside(async (tx) =>
    changeTray(tx, await heldFirstTray(tx, visitId), events, { name: 'x', userId: null })
  );
const row = (pictureId: string) => clinic.inside((tx) => pictureRow(tx, pictureId));
const landedFiles = () => {
  const folder = path.join(clinic.landing, clinic.clinicId);
  return fs.existsSync(folder) ? fs.readdirSync(folder) : [];
};

describe('registering', () => {
  it('needs the clinic’s code, and a name keeps its place when it comes again', async () => {
    const wish = { code: enrolmentCode, name: 'Twice', kind: 'intraoral-sensor', room: 'Teeth' } as const;
    await expect(register({ ...wish, code: 'guess' })).rejects.toMatchObject({ code: 'wrong-code' });
    const one = await register(wish);
    const two = await register(wish);
    expect(two.deviceId).toBe(one.deviceId);
    await expect(deviceOf(`Bearer ${one.token}`)).rejects.toMatchObject({ code: 'unknown-device' });
  });
});

describe('an exposure', () => {
  it('is stored byte for byte, fills its slot and arms the device for the next one', async () => {
    const { visitId, sensor } = await ready();
    const first = await sensor.armed();
    const { pictureId } = await sensor.take(
      'key-00000001',
      offer(first.armingId),
      samples(1),
      sha256(samples(1))
    );
    const tray = await trayNow(visitId);
    expect(tray.wells[first.slotId].keeper).toBe(pictureId);
    expect((await sensor.armed()).slotId).toBe(tray.present);
    const { original_sha256, first_look } = await row(pictureId);
    expect((await wholeBlob(clinic.clinicId, original_sha256)).equals(samples(1))).toBe(true);
    // From its 0.2 % to its 99.8 % darkest sample, found while the bytes came in.
    expect(windowOf(lookSchema.parse(first_look))).toMatchObject({ center: 1474, width: 2946 });
  });

  it('is moved from the landing into the records, where it is the same', async () => {
    const { sensor } = await ready();
    const { armingId } = await sensor.armed();
    const { pictureId } = await sensor.take('key-00000011', offer(armingId), samples(11));
    const { original_sha256: digest } = await row(pictureId);
    const name = digest.toString('hex');
    expect(landedFiles()).toContain(name);
    expect(await moveIn(clinic.clinicId, digest)).toBe(true);
    expect(landedFiles()).not.toContain(name);
    expect((await wholeBlob(clinic.clinicId, digest)).equals(samples(11))).toBe(true);
    expect(await moveIn(clinic.clinicId, digest)).toBe(false);
  });

  it('goes into the records at once where nothing lands', async () => {
    const { sensor } = await ready();
    const { armingId } = await sensor.armed();
    const before = landedFiles();
    process.env.YONDER_LANDING = 'off';
    try {
      for (const digest of [null, sha256(samples(12))]) {
        const key = `key-0000012${digest ? 1 : 0}`;
        const { pictureId } = await sensor.take(key, offer(armingId), samples(12), digest);
        const { original_sha256 } = await row(pictureId);
        expect((await wholeBlob(clinic.clinicId, original_sha256)).equals(samples(12))).toBe(true);
        const { rows } = await clinic.owner.query('select place from blob where sha256 = $1', [
          original_sha256
        ]);
        expect(rows).toEqual([{ place: 'kept' }]);
      }
    } finally {
      process.env.YONDER_LANDING = clinic.landing;
    }
    expect(landedFiles()).toEqual(before);
  });

  it('offered again, also at the same moment, is the same picture once', async () => {
    const { visitId, sensor } = await ready();
    const { armingId } = await sensor.armed();
    const before = await clinic.count('picture');
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        sensor.take('key-00000002', offer(armingId), samples(2), i % 2 ? sha256(samples(2)) : null)
      )
    );
    expect(new Set(answers.map((answer) => answer.pictureId)).size).toBe(1);
    expect(answers.filter((answer) => !answer.again)).toHaveLength(1);
    expect(await clinic.count('picture')).toBe(before + 1);
    expect(Object.values((await trayNow(visitId)).wells).flatMap((well) => well.takes)).toHaveLength(1);
    expect(landedFiles().filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('comes with its take, audit line and job, or not at all', async () => {
    const { sensor } = await ready();
    const { armingId } = await sensor.armed();
    const tables = ['picture', 'tray_event', 'standing', 'audit_line', 'arrival_key', 'pgboss.job', 'blob'];
    const count = () => Promise.all(tables.map((table) => clinic.count(table)));
    const before = await count();
    await clinic.owner.query(
      `create function fail_now() returns trigger language plpgsql as 'begin raise exception ''broken''; end'`
    );
    await clinic.owner.query(
      'create trigger fail_now before insert on audit_line for each row execute function fail_now()'
    );
    await expect(
      sensor.take('key-00000003', offer(armingId), samples(3), sha256(samples(3)))
    ).rejects.toThrow(/broken/);
    await clinic.owner.query('drop trigger fail_now on audit_line');
    expect(await count()).toEqual(before);
    await sensor.take('key-00000003', offer(armingId), samples(3));
    expect((await count()).every((each, i) => each === before[i] + 1)).toBe(true);
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('that comes late goes to the slot it was made for and leaves the route alone', async () => {
    const { visitId, sensor } = await ready();
    const old = await sensor.armed();
    const other = (await trayNow(visitId)).route[2];
    await change(visitId, { kind: 'slot-chosen', slotId: other });
    const { pictureId } = await sensor.take('key-00000004', offer(old.armingId), samples(4));
    const tray = await trayNow(visitId);
    expect(tray.wells[old.slotId].takes).toEqual([pictureId]);
    expect(tray.present).toBe(other);
  });

  it('that comes while others change the tray finds its place all the same', async () => {
    const { visitId, sensor } = await ready();
    const { armingId, slotId } = await sensor.armed();
    const { route } = await trayNow(visitId);
    const meddling = Promise.all(
      Array.from({ length: 8 }, (_, i) => change(visitId, { kind: 'slot-chosen', slotId: route[i % 4] }))
    );
    const { pictureId } = await sensor.take(
      'key-00000014',
      offer(armingId),
      samples(14),
      sha256(samples(14))
    );
    await meddling;
    expect((await trayNow(visitId)).wells[slotId].takes).toEqual([pictureId]);
    const { rows } = await clinic.owner.query(
      `select array_agg(seq order by seq) as seqs from tray_event where tray_id = (select tray_id from tray where visit_id = $1)`,
      [visitId]
    );
    expect(rows[0].seqs).toEqual(rows[0].seqs.map((_: number, i: number) => i + 1));
  });

  it('that is rubbish is refused in words, and nothing is stored', async () => {
    const { sensor } = await ready();
    const { armingId } = await sensor.armed();
    const before = await clinic.count('picture');
    const short = sensor.take('key-00000005', offer(armingId), samples(5).subarray(2));
    await expect(short).rejects.toMatchObject({ code: 'rubbish' });
    const spoilt = sensor.take('key-00000005', offer(armingId), samples(5), sha256('other'));
    await expect(spoilt).rejects.toMatchObject({ code: 'rubbish' });
    const stray = sensor.take('key-00000005', offer(randomUUID()), samples(5));
    await expect(stray).rejects.toMatchObject({ code: 'never-armed' });
    expect(() => offer(armingId, { width: 0 })).toThrow();
    expect(() => offer(armingId, { pitchMm: Number.NaN })).toThrow();
    expect(await clinic.count('picture')).toBe(before);
    expect(landedFiles().filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('whose sender breaks off leaves nothing behind', async () => {
    const { sensor } = await ready();
    const { armingId } = await sensor.armed();
    async function* broken() {
      yield samples(15).subarray(0, 50);
      throw new Error('the line broke');
    }
    const { authorization } = sensor;
    const body = broken();
    const wish = {
      authorization,
      key: 'key-00000015',
      offer: offer(armingId),
      digest: sha256(samples(15)),
      body
    };
    await expect(takeExposure(wish)).rejects.toThrow('the line broke');
    expect(landedFiles().filter((name) => name.endsWith('.part'))).toEqual([]);
    const { again } = await sensor.take('key-00000015', offer(armingId), samples(15));
    expect(again).toBe(false);
  });

  it('of another device’s arming is not taken', async () => {
    const { sensor } = await ready();
    const other = await TestSensor.register();
    const { armingId } = await sensor.armed();
    await expect(other.take('key-00000006', offer(armingId), samples(6))).rejects.toMatchObject({
      code: 'never-armed'
    });
  });

  it('has the pixels it was offered when they are read again', async () => {
    const { sensor } = await ready();
    const { armingId } = await sensor.armed();
    const { pictureId } = await sensor.take('key-00000007', offer(armingId), samples(7));
    const raster = await rasterOf(clinic.clinicId, await row(pictureId), 0, 0);
    expect([...raster.data]).toEqual([...new Uint16Array(samples(7).buffer)]);
  });
});

describe('a ready device', () => {
  it('is not disturbed by choosing keepers, and follows the operator to another slot', async () => {
    const { visitId, sensor } = await ready();
    const { slotId, armingId } = await sensor.armed();
    const { pictureId: takeId } = await sensor.take('key-00000008', offer(armingId), samples(8));
    const waiting = await sensor.armed();
    await change(visitId, { kind: 'keeper-chosen', slotId, takeId });
    await change(visitId, { kind: 'keeper-confirmed', slotId, takeId, by: null, name: 'x' });
    expect(await sensor.armed()).toEqual(waiting);
    await change(visitId, { kind: 'retake-asked', slotId });
    expect((await sensor.armed()).slotId).toBe(slotId);
  });
  it('rests when told to, and when the tray is full', async () => {
    const { sensor } = await ready();
    await restDevice(clinic.caller('assistant'), sensor.deviceId);
    expect(await instructionFor(sensor.device)).toEqual({ kind: 'rest' });
    const full = await ready();
    for (let i = 0; i < 4; i++) {
      const { armingId } = await full.sensor.armed();
      await full.sensor.take(`key-full-000${i}`, offer(armingId), samples(20 + i));
    }
    expect(await instructionFor(full.sensor.device)).toEqual({ kind: 'rest' });
    await expect(
      readyDevice(clinic.caller('assistant'), full.sensor.deviceId, full.trayId)
    ).rejects.toMatchObject({ code: 'nothing-empty' });
  });
  it('that rested by itself is not asked again, but an old message does not take a new arming away', async () => {
    const { trayId, sensor } = await ready();
    const first = await sensor.armed();
    await readyDevice(clinic.caller('assistant'), sensor.deviceId, trayId);
    await reportLamp(sensor.device, { lamp: 'resting', words: '', gaveUp: first.armingId });
    const second = await sensor.armed();
    expect(second.armingId).not.toBe(first.armingId);
    await reportLamp(sensor.device, { lamp: 'resting', words: '', gaveUp: second.armingId });
    expect(await instructionFor(sensor.device)).toEqual({ kind: 'rest' });
  });
  it('is absent once it has been silent, and there again once it is heard', async () => {
    const { visitId, sensor } = await ready();
    const lamp = async () =>
      (await visitView(clinic.caller(), visitId)).devices.find((each) => each.deviceId === sensor.deviceId)!
        .lamp;
    await reportLamp(sensor.device, { lamp: 'ready', words: '' });
    await markSilent();
    expect(await lamp()).toBe('ready');
    await clinic.owner.query(`update device set lamp_at = now() - interval '1 minute' where device_id = $1`, [
      sensor.deviceId
    ]);
    await markSilent();
    expect(await lamp()).toBe('absent');
    await reportLamp(sensor.device, { lamp: 'ready', words: '' });
    expect(await lamp()).toBe('ready');
  });
});
