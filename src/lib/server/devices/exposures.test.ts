import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import {
  TestSensor,
  readyVisit,
  smallOffer as offer,
  smallSamples as samples
} from '../../../../e2e/harness/testSensor';
import { cleanTexts } from '../../core/text';
import { lookOf } from '../../core/picture/pictureView';
import { windowOf } from '../../core/raster/look/look';
import { lookSchema } from '../../core/raster/look/lookSchema';
import type { TrayEvent } from '../../core/tray/events/all';
import { onDesk } from '../arrivals/arriving.test-data';
import { checkAudit } from '../audit/check';
import { flushLooks } from '../audit/looks';
import { moveIn, wholeBlob } from '../blobs/keep';
import { sha256 } from '../ids';
import { rasterOf } from '../pictures/levels';
import { dropOwnLook, keepOwnLook, ownLookWish } from '../clinics/ownLooks';
import { openingLookOf, pictureRow } from '../pictures/views';
import { changeTray, heldFirstTray } from '../trays/trays';
import { deviceOf, instructionFor, readyDevice, reportLamp, restDevice, setOpensWith } from './devices';
import { codeHash, enrol, register } from './enrolment';
import { takeExposure } from './exposures';
import { markSilent } from './silence';
import { visitView } from '../visits/visits';

const clinic = useClinic();

const ready = () => readyVisit(clinic);
const trayNow = (visitId: string) => clinic.trayOf(visitId).then(({ tray }) => tray);
const change = (visitId: string, ...events: TrayEvent[]) =>
  clinic.inside(async (tx) => changeTray(tx, await heldFirstTray(tx, visitId), events, clinic.caller()));
const row = (pictureId: string) => clinic.inside((tx) => pictureRow(tx, pictureId));
const landedFiles = () => {
  const folder = path.join(clinic.landing, clinic.clinicId);
  return fs.existsSync(folder) ? fs.readdirSync(folder) : [];
};

describe('enrolling a device', () => {
  const wish = (code: string, name: string) => ({ code, name, kind: 'intraoral-sensor' as const });
  const here = '10.0.0.1';

  it('takes an administrator’s code, which works once, for its room, however it is typed', async () => {
    const code = await clinic.newCode();
    const one = await register(wish(` ${code.toLowerCase().replaceAll('-', ' ')} `, 'Once'), here);
    expect(await deviceOf(`Bearer ${one.token}`)).toMatchObject({ deviceId: one.deviceId, name: 'Once' });
    await expect(register(wish(code, 'Twice'), here)).rejects.toMatchObject({ code: 'wrong-code' });
    const { rows } = await clinic.owner.query('select room_id from device where device_id = $1', [
      one.deviceId
    ]);
    expect(rows[0].room_id).toBe(clinic.roomId);
    await expect(
      enrol(clinic.caller('clinician'), { roomId: clinic.roomId, replaces: null })
    ).rejects.toMatchObject({
      status: 403
    });
    const both = await clinic.newCode();
    const race = await Promise.allSettled([register(wish(both, 'A'), here), register(wish(both, 'B'), here)]);
    expect(race.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('is over after half an hour', async () => {
    const code = await clinic.newCode();
    await clinic.owner.query(
      `update enrolment set expires_at = now() - interval '1 second' where code_hash = $1`,
      [codeHash(code)]
    );
    await expect(register(wish(code, 'Late'), here)).rejects.toMatchObject({ code: 'wrong-code' });
  });

  it('gives nobody another device’s name, unless an administrator said so; then the old token is worth nothing', async () => {
    const one = await register(wish(await clinic.newCode(), 'Panel of the house'), here);
    await expect(register(wish(await clinic.newCode(), 'Panel of the house'), here)).rejects.toMatchObject({
      code: 'name-taken',
      status: 409
    });
    expect((await deviceOf(`Bearer ${one.token}`)).deviceId).toBe(one.deviceId);
    const two = await register(wish(await clinic.newCode(one.deviceId), 'Panel of the house'), here);
    expect(two.deviceId).toBe(one.deviceId);
    await expect(deviceOf(`Bearer ${one.token}`)).rejects.toMatchObject({ code: 'unknown-device' });
  });

  it('can’t be guessed: tries are counted by address before they are looked at', async () => {
    const guesses = await Promise.allSettled(
      Array.from({ length: 14 }, (_, i) => register(wish(`AAAA-BBBB-CC${i}`, 'X'), '10.9.9.9'))
    );
    const codes = guesses.map((each) => (each as PromiseRejectedResult).reason.code as string);
    expect(codes.filter((code) => code === 'too-many-tries')).toHaveLength(4);
    const code = await clinic.newCode();
    await expect(register(wish(code, 'Guessed'), '10.9.9.9')).rejects.toMatchObject({ status: 429 });
    await expect(register(wish(code, 'Elsewhere'), '10.9.9.8')).resolves.toHaveProperty('token');
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

  it('opens with the look that its device was given; what was taken before or without one opens as it came', async () => {
    const { visitId, sensor } = await ready();
    const wish = { name: 'Fine', look: { from: 0, to: 0.5, steps: [{ kind: 'gamma', gamma: 1.2 }] } };
    const { lookId } = await keepOwnLook(clinic.caller(), randomUUID(), ownLookWish.parse(wish));
    const ids = [await sensor.expose(61)];
    await expect(setOpensWith(clinic.caller('assistant'), sensor.deviceId, lookId)).rejects.toMatchObject({
      status: 403
    });
    await setOpensWith(clinic.caller('administrator'), sensor.deviceId, lookId);
    ids.push(await sensor.expose(62));
    const unasked = await sensor.take('key-look-unasked', offer(null), samples(64));
    await dropOwnLook(clinic.caller(), randomUUID(), lookId);
    ids.push(await sensor.expose(63));
    const { pictures } = await visitView(clinic.caller(), visitId);
    const [before, given, after] = ids.map((id) => pictures.find(({ pictureId }) => pictureId === id)!);
    expect([before.openLook, after.openLook]).toEqual([undefined, undefined]);
    const { center, width } = windowOf(given.firstLook)!;
    expect(lookOf(given).steps).toEqual([
      { kind: 'window', center: center - width / 4, width: width / 2, by: 'linear' },
      { kind: 'gamma', gamma: 1.2 }
    ]);
    expect(openingLookOf(await row(given.pictureId))).toEqual(lookOf(given));
    // One that nobody had asked for has it too once it is somebody's.
    const { rows } = await clinic.owner.query('delete from arrival where arrival_id = $1 returning about', [
      unasked.pictureId
    ]);
    expect(rows[0].about.origin.opensWith).toEqual(wish.look);
  });

  it('whose samples go beyond the bits announced is kept as it came, and said so', async () => {
    const { visitId, sensor } = await ready();
    const { armingId } = await sensor.armed();
    const words = new Uint16Array(12 * 8).fill(900);
    words[61] = 5_000;
    const bytes = new Uint8Array(words.buffer);
    const { pictureId } = await sensor.take('key-beyond-1', offer(armingId, { bitsStored: 12 }), bytes);
    const { pictures } = await visitView(clinic.caller(), visitId);
    const picture = pictures.find((each) => each.pictureId === pictureId)!;
    expect(picture.bitsStored).toBe(13);
    expect(picture.remarks).toEqual([expect.stringMatching(/announced 12 bits a sample and sent up to 13/)]);
    const raster = await rasterOf(clinic.clinicId, await row(pictureId), 0, 0);
    expect([raster.data[61], raster.data[60]]).toEqual([5_000, 900]);
  });

  it('from a device whose clock can’t be right stands under the moment it came in, and says so', async () => {
    for (const takenAt of ['2099-01-01T00:00:00Z', '1970-01-01T00:00:07Z']) {
      const { visitId, sensor } = await ready();
      const { armingId } = await sensor.armed();
      await sensor.take('key-odd-clock', offer(armingId, { takenAt }), samples(33));
      const { pictures } = await visitView(clinic.caller(), visitId);
      expect(Math.abs(Date.now() - Date.parse(pictures[0].takenAt))).toBeLessThan(60_000);
      expect(pictures[0].remarks).toEqual([expect.stringMatching(/which can’t be.*clock/)]);
    }
  });

  it('of a device whose maker’s name holds what no text may is stored all the same', async () => {
    const { visitId, sensor } = await ready();
    const { armingId } = await sensor.armed();
    const described = cleanTexts({ ...offer(armingId), manufacturer: 'Ma\0ker \ud800', model: '\u0001' });
    await sensor.take('key-odd-maker', described, samples(44));
    expect((await visitView(clinic.caller(), visitId)).pictures).toHaveLength(1);
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
    const count = async () => {
      await flushLooks();
      return Promise.all(tables.map((table) => clinic.count(table)));
    };
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
    // Two jobs follow: one settles the picture, one looks at it.
    expect(await count()).toEqual(before.map((each, i) => each + (tables[i] === 'pgboss.job' ? 2 : 1)));
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

  it('of another device’s arming, or of none, comes to Arrivals and to no visit; once', async () => {
    const { visitId, sensor } = await ready();
    const other = await TestSensor.register(clinic, 'Sensor of the hall');
    const { armingId, slotId } = await sensor.armed();
    const before = await clinic.count('picture');
    const stray = await other.take('key-00000006', offer(armingId), samples(6));
    const unasked = await other.take('key-00000016', offer(null), samples(16));
    expect(await other.take('key-00000016', offer(null), samples(16))).toEqual({ ...unasked, again: true });
    const short = other.take('key-00000026', offer(null), samples(5).subarray(2));
    await expect(short).rejects.toMatchObject({ code: 'rubbish' });
    expect(await clinic.count('picture')).toBe(before);
    expect((await trayNow(visitId)).wells[slotId].takes).toEqual([]);
    const came = await onDesk(clinic.caller('assistant'));
    expect(came.map((each) => [each.arrivalId, each.reason])).toEqual([
      [unasked.pictureId, 'Nobody had got Sensor of the hall ready when it exposed.'],
      [stray.pictureId, 'Sensor of the hall says it was armed for this, and this clinic never armed it so.']
    ]);
    expect(await onDesk(clinic.stranger)).toEqual([]);
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
