import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import {
  TestSensor,
  pieces,
  smallOffer as offer,
  smallSamples as samples
} from '../../../../e2e/harness/testSensor';
import { checkAudit } from '../audit/check';
import { wholeBlob } from '../blobs/keep';
import { takeDeviceFile } from '../devices/deviceFiles';
import { readyDevice } from '../devices/devices';
import { newId, sha256 } from '../ids';
import { newPairing, pairPhone, senderOfPhone } from '../phones/phones';
import { pictureRow } from '../pictures/views';
import { takeBackOnTray } from '../trays/takeBack';
import { visitView } from '../visits/visits';
import { visitsNear } from './arrivals';
import { onDesk } from './arriving.test-data';
import { sortArrivals } from './bundles';
import { giveArrivals } from './giving';
import { fileArrives } from './keeping';
import { arrivalShown } from './showing';

const clinic = useClinic();
const give = (arrivalId: string, visitId: string, slotId: string | null = null) =>
  giveArrivals(clinic.caller('assistant'), newId(), {
    to: { visitId },
    each: [{ arrivalId, trayId: null, slotId, name: '', places: [], takenAt: null }]
  });
const photograph = (shade: number) =>
  sharp({ create: { width: 64, height: 48, channels: 3, background: { r: shade, g: 40, b: 30 } } })
    .jpeg()
    .toBuffer();
/** A phone of somebody's, paired. */
async function phone(role: 'assistant' | 'front-desk' = 'assistant', hours = 12) {
  const { code } = await newPairing(clinic.caller(role), { hours });
  return `Bearer ${(await pairPhone({ code }, '10.1.1.1')).token}`;
}
async function sends(authorization: string, bytes: Uint8Array, key = newId()) {
  const from = await senderOfPhone(authorization);
  const told = { title: 'Letter', remark: 'from the ferry office', reason: 'sent', fileName: '' };
  return fileArrives(from, { key, ...told, body: pieces(bytes) });
}

describe('an exposure that nobody was armed for', () => {
  let sensor: TestSensor;
  beforeAll(async () => (sensor = await TestSensor.register(clinic)));

  it('becomes, under its number, the picture of the slot that a person says, byte for byte and upright', async () => {
    const visitId = await clinic.newVisit();
    const { tray } = await clinic.trayOf(visitId);
    const slotId = tray.route[1];
    const { pictureId } = await sensor.take('key-00000031', offer(null), samples(31));
    await give(pictureId, visitId, slotId);
    const row = await clinic.inside((tx) => pictureRow(tx, pictureId));
    expect((await wholeBlob(clinic.clinicId, row.original_sha256)).equals(samples(31))).toBe(true);
    expect((await clinic.trayOf(visitId)).tray.wells[slotId].keeper).toBe(pictureId);
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures[0]).toMatchObject({
      source: 'device',
      kind: 'radiograph',
      firstOrientation: tray.wells[slotId].slot.orientation
    });
    expect(await onDesk(clinic.caller())).toEqual([]);
    // Nobody is exposed twice for it: it stays where it was given, whatever is taken back.
    await takeBackOnTray(
      clinic.caller('assistant'),
      (await clinic.trayOf(visitId)).trayId,
      newId(),
      'take back'
    );
    expect((await clinic.trayOf(visitId)).tray.wells[slotId].takes).toEqual([pictureId]);
    // The device asks again, and is told the same.
    const again = await sensor.take('key-00000031', offer(null), samples(31));
    expect(again).toEqual({ pictureId, again: true });
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('is given once: whoever is second is told so, and both ask again safely', async () => {
    const [one, two] = [await clinic.newVisit(), await clinic.newVisit()];
    const { pictureId } = await sensor.take('key-00000032', offer(null), samples(32));
    const both = await Promise.allSettled([give(pictureId, one), give(pictureId, two)]);
    const refused = both.filter((each) => each.status === 'rejected');
    expect(refused.map(({ reason }) => (reason as { code: string }).code)).toEqual(['given-already']);
    const benches = [await clinic.trayOf(one), await clinic.trayOf(two)].flatMap(({ tray }) => tray.bench);
    expect(benches).toEqual([pictureId]);
  });

  it('may be of a visit that went on in its room that day; no other is proposed', async () => {
    const { pictureId } = await sensor.take('key-00000033', offer(null), samples(33));
    const near = await visitsNear(clinic.caller(), pictureId);
    const today = await clinic.owner.query(
      `insert into visit (visit_id, clinic_id, patient_id, room_id, opened_at, study_uid, series_uid, accession)
       values ($1, $2, $3, $4, now(), $5, $6, 'A') returning visit_id`,
      [newId(), clinic.clinicId, clinic.patientId, clinic.roomId, `2.25.${Date.now()}`, `2.25.${Date.now()}1`]
    );
    expect(near).toEqual([]);
    expect(await visitsNear(clinic.caller(), pictureId)).toMatchObject([
      { visitId: today.rows[0].visit_id, patient: 'Odile Wavecrest' }
    ]);
    await sortArrivals(clinic.caller(), newId(), { kind: 'put-away', arrivalIds: [pictureId] });
    expect((await onDesk(clinic.caller())).map((each) => each.putAway)).toEqual([true]);
    await expect(
      sortArrivals(clinic.stranger, newId(), { kind: 'bring-back', arrivalIds: [pictureId] })
    ).rejects.toMatchObject({ status: 404 });
  });
});

describe('a phone', () => {
  it('is paired once with a code, and sends in the name of whose it is, each picture once', async () => {
    const { code } = await newPairing(clinic.caller('assistant'), { hours: 1 });
    const race = await Promise.allSettled([pairPhone({ code }, '10.1.1.2'), pairPhone({ code }, '10.1.1.3')]);
    expect(race.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const paired = race.flatMap((each) => (each.status === 'fulfilled' ? [each.value] : []));
    expect(paired[0]).toMatchObject({ name: 'The assistant', clinic: 'First' });
    const token = `Bearer ${paired[0].token}`;
    const key = newId();
    const first = await sends(token, await photograph(200), key);
    expect(await sends(token, await photograph(200), key)).toEqual({ ...first, again: true });
    const [came] = await onDesk(clinic.caller('front-desk'));
    expect(came).toMatchObject({
      source: 'phone',
      from: 'The assistant',
      title: 'Letter',
      kind: 'photograph'
    });
    const webp = await sharp(await arrivalShown(clinic.caller(), first.arrivalId)).metadata();
    expect([webp.format, webp.width, webp.height]).toEqual(['webp', 64, 48]);
    const { rows } = await clinic.owner.query(
      `select who, user_id from audit_line where subject = $1 and act = 'arrived'`,
      [first.arrivalId]
    );
    expect(rows).toEqual([{ who: 'The assistant, by phone', user_id: clinic.caller('assistant').userId }]);
    const visitId = await clinic.newVisit();
    await give(first.arrivalId, visitId);
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures[0].layers.about).toEqual({ name: 'Letter', remark: 'from the ferry office' });
    expect(pictures[0].remarks).toEqual([]);
  });

  it('whose pairing ended, or whose code is old or wrong, is refused in words', async () => {
    const token = await phone();
    await clinic.owner.query(`update phone set paired_until = now() - interval '1 second'`);
    await expect(sends(token, await photograph(10))).rejects.toMatchObject({
      code: 'pairing-over',
      status: 401
    });
    const { code } = await newPairing(clinic.caller('assistant'), { hours: 12 });
    await clinic.owner.query(`update phone set code_until = now() - interval '1 second'`);
    await expect(pairPhone({ code }, '10.1.1.4')).rejects.toMatchObject({ code: 'wrong-code' });
    const guesses = await Promise.allSettled(
      Array.from({ length: 12 }, (_, i) => pairPhone({ code: `AAAABBBBCC${i}` }, '10.1.1.5'))
    );
    const codes = guesses.map((each) => (each as PromiseRejectedResult).reason.code as string);
    expect(codes.filter((each) => each === 'too-many-tries')).toHaveLength(2);
    await expect(newPairing(clinic.caller('administrator'), { hours: 1 })).rejects.toMatchObject({
      status: 403
    });
  });

  it('that sends what is no picture is told so, and nothing comes in', async () => {
    const before = await clinic.count('arrival');
    const text = new TextEncoder().encode('this is no picture at all');
    await expect(sends(await phone(), text)).rejects.toMatchObject({ status: 422 });
    expect(await clinic.count('arrival')).toBe(before);
  });
});

describe('a file of a watched folder', () => {
  it('goes to the slot that its folder was armed for, else to Arrivals; the same file twice is one picture', async () => {
    const folder = await TestSensor.register(clinic, 'Folder', 'folder');
    const visitId = await clinic.newVisit();
    const offers = (key: string, armingId: string | null, bytes: Uint8Array) =>
      takeDeviceFile({
        authorization: folder.authorization,
        key,
        offer: { armingId, fileName: 'pan 1.jpg' },
        body: pieces(bytes)
      });
    await readyDevice(clinic.caller(), folder.deviceId, (await clinic.trayOf(visitId)).trayId);
    const { armingId, slotId } = await folder.armed();
    const bytes = await photograph(90);
    const first = await offers('file-0000001', armingId, bytes);
    expect(await offers('file-0000001', armingId, bytes)).toEqual({ ...first, again: true });
    const { tray } = await clinic.trayOf(visitId);
    expect(tray.wells[slotId].takes).toEqual([first.pictureId]);
    // The route went on, and the folder is armed anew for the next slot.
    expect((await folder.armed()).slotId).toBe(tray.present);
    const unasked = await offers('file-0000002', null, await photograph(91));
    expect((await onDesk(clinic.caller())).map((each) => each.arrivalId)).toContain(unasked.pictureId);
    await expect(
      takeDeviceFile({
        authorization: `Bearer ${sha256('x').toString('hex')}`,
        key: 'file-0000003',
        offer: { armingId, fileName: 'a' },
        body: pieces(bytes)
      })
    ).rejects.toMatchObject({ code: 'unknown-device' });
  });
});
