import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { standIn } from '../../../../e2e/harness/parcels';
import { readyVisit } from '../../../../e2e/harness/testSensor';
import { entryFor } from '../../core/dicom/dictionary';
import { leaving } from '../deidentify/leaving';
import { sayNoLettering } from '../deidentify/lettering';
import { type RawElement, rawFile, rawPicture } from '../pictures/decode/rawFile.test-data';
import type { Role } from '../people/roles';
import { sayAttribute } from '../objects/said';
import { deliveriesOf } from '../visits/deliveryViews';
import { deliver, pauseAfter } from './deliver';
import { packParcel } from './packParcel';
import { sendParcel, tryAgain } from './parcels';

process.env.YONDER_ARCHIVE_PATIENCE_MS = '700';
const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-archive-'));
let archive: ChildProcess;
let url = '';

beforeAll(async () => {
  const port = await freePort();
  url = `http://127.0.0.1:${port}`;
  archive = spawn(process.execPath, ['--import', 'tsx', 'standins/archive/main.ts'], {
    env: { ...process.env, PORT: String(port), ARCHIVE_FOLDER: folder },
    stdio: 'ignore'
  });
  for (let tries = 0; tries < 100; tries++) {
    if (await fetch(`${url}/status`).catch(() => null)) break;
    await new Promise((done) => setTimeout(done, 100));
  }
  await clinic.setDestination(url);
});
afterAll(() => {
  archive.kill('SIGKILL');
  fs.rmSync(folder, { recursive: true, force: true });
});
const fault = (kind: string, count?: number) =>
  fetch(`${url}/faults`, { method: 'PUT', body: JSON.stringify({ kind, count }) });
beforeEach(() => fault('none'));

async function visitWithPictures(count: number): Promise<{ visitId: string; pictureIds: string[] }> {
  const { visitId, sensor } = await readyVisit(clinic);
  const pictureIds = [];
  for (let i = 0; i < count; i++) pictureIds.push(await sensor.expose(i));
  return { visitId, pictureIds };
}

const parcel = (pictureIds: string[], identity: 'identified' | 'deidentified' = 'identified') => ({
  destinationId: clinic.destinationId,
  identity,
  pictureIds
});
const asked = (visitId: string, wish: ReturnType<typeof parcel>, role?: Role, key: string = randomUUID()) =>
  sendParcel(clinic.caller(role), visitId, key, wish);
const deliveries = (visitId: string) => clinic.inside((tx) => deliveriesOf(tx, visitId));
const receiptsOf = async () => (await (await fetch(`${url}/receipts`)).json()) as Record<string, number>;
async function sentUids(visitId: string): Promise<string[]> {
  const { rows } = await clinic.owner.query(
    'select sent_instance_uid as uid from delivery join parcel using (parcel_id) where visit_id = $1',
    [visitId]
  );
  return rows.map((row) => row.uid);
}

/** Packs and looks through what waits for that, as the queue would. */
async function packAll(visitId: string): Promise<void> {
  const packing = (await deliveries(visitId)).filter((each) => each.state === 'packing');
  for (const parcelId of new Set(packing.map((each) => each.parcelId)))
    await packParcel(clinic.clinicId, parcelId);
}

/** Tries each delivery until it is through, as the queue would, without its pauses. */
async function deliverAll(visitId: string, most = 8): Promise<number> {
  for (let round = 1; round <= most; round++) {
    await packAll(visitId);
    const open = (await deliveries(visitId)).filter(
      (each) => each.state === 'waiting' || each.state === 'sending'
    );
    if (open.length === 0) return round - 1;
    for (const { deliveryId } of open) await deliver(clinic.clinicId, deliveryId);
  }
  throw new Error('not through');
}

describe('a parcel', () => {
  it('is delivered, each picture once, and a second asking sends nothing', async () => {
    const { visitId, pictureIds } = await visitWithPictures(3);
    expect(await asked(visitId, parcel(pictureIds), 'front-desk')).toMatchObject({ sent: 3, left: 0 });
    await deliverAll(visitId);
    expect((await deliveries(visitId)).map((each) => each.state)).toEqual([
      'delivered',
      'delivered',
      'delivered'
    ]);
    expect(await asked(visitId, parcel(pictureIds))).toEqual({ sent: 0, left: 3, parcelId: null });
    const [one] = await deliveries(visitId);
    expect(one.readBackAt).not.toBeNull();
    const receipts = await receiptsOf();
    for (const uid of await sentUids(visitId)) expect(receipts[uid]).toBe(1);
  });

  it('goes again once it was changed, and is told where the earlier one still lies', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    await asked(visitId, parcel(pictureIds));
    await deliverAll(visitId);
    await sayAttribute(clinic.caller('front-desk'), pictureIds[0], randomUUID(), {
      tag: entryFor('PatientWeight').tag,
      text: '61.5'
    });
    expect(await asked(visitId, parcel(pictureIds))).toMatchObject({ sent: 1, left: 1 });
    await deliverAll(visitId);
    const again = (await deliveries(visitId)).filter(({ state }) => state === 'failed');
    expect(again).toMatchObject([
      { pictureId: pictureIds[0], reason: expect.stringMatching(/as it was before it was changed/) }
    ]);
    const receipts = await receiptsOf();
    for (const uid of await sentUids(visitId)) if (uid) expect(receipts[uid]).toBe(1);
    // Its keeper took the earlier one out.
    const port = await freePort();
    const emptied = `http://127.0.0.1:${port}`;
    const other = await standIn('archive', `${emptied}/status`, {
      PORT: String(port),
      ARCHIVE_FOLDER: path.join(folder, 'emptied')
    });
    try {
      await clinic.setDestination(emptied);
      await tryAgain(clinic.caller(), randomUUID(), again[0].deliveryId);
      await deliverAll(visitId);
      expect((await deliveries(visitId)).map(({ state }) => state)).toEqual(Array(3).fill('delivered'));
      expect(await (await fetch(`${emptied}/receipts`)).json()).toEqual({
        [(await sentUids(visitId)).at(-1)!]: 1
      });
      expect(await asked(visitId, parcel(pictureIds))).toMatchObject({ sent: 0, left: 2 });
    } finally {
      other.kill('SIGKILL');
      await clinic.setDestination(url);
    }
  });

  it('asked for twice at one moment goes once', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    const answers = await Promise.all([1, 2, 3].map(() => asked(visitId, parcel(pictureIds))));
    expect(answers.reduce((sum, answer) => sum + answer.sent, 0)).toBe(2);
  });

  it('asked for again with the same key gives the same answer, and goes once', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    const key = randomUUID();
    const ask = () => asked(visitId, parcel(pictureIds), 'assistant', key);
    const [first, second] = [await ask(), await ask()];
    expect(first).toMatchObject({ sent: 2, left: 0 });
    expect(second).toEqual(first);
    expect(await deliveries(visitId)).toHaveLength(2);
  });

  for (const [kind, words] of [
    ['refuse', /refused for now \(503\)/],
    ['stall', /did not answer within 1 seconds/],
    ['cut-before', /broke off/]
  ] as const) {
    it(`waits with its reason while the archive does this: ${kind}; then is delivered once`, async () => {
      const { visitId, pictureIds } = await visitWithPictures(1);
      await fault(kind, 2);
      await asked(visitId, parcel(pictureIds));
      await deliver(clinic.clinicId, (await deliveries(visitId))[0].deliveryId);
      const [waiting] = await deliveries(visitId);
      expect(waiting).toMatchObject({ state: 'waiting', attempts: 1 });
      expect(waiting.reason).toMatch(words);
      expect(new Date(waiting.nextTryAt!).getTime()).toBeGreaterThan(Date.now());
      await deliverAll(visitId);
      const [done] = await deliveries(visitId);
      expect(done).toMatchObject({ state: 'delivered', attempts: 3, reason: '' });
      expect((await receiptsOf())[(await sentUids(visitId))[0]]).toBe(1);
    });
  }

  it('is not sent a second time when the archive stored it and the answer was lost', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    await fault('cut-after', 2);
    await asked(visitId, parcel(pictureIds));
    await deliverAll(visitId);
    const receipts = await receiptsOf();
    for (const uid of await sentUids(visitId)) expect(receipts[uid]).toBe(1);
  });

  it('fails with the archive’s reason when it is refused for good, and goes when tried again', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    await fault('reject', 1);
    await asked(visitId, parcel(pictureIds));
    await deliverAll(visitId);
    const [failed] = await deliveries(visitId);
    expect(failed).toMatchObject({ state: 'failed', reason: expect.stringContaining('A700h') });
    await tryAgain(clinic.caller(), randomUUID(), failed.deliveryId);
    await deliverAll(visitId);
    expect((await deliveries(visitId))[0].state).toBe('delivered');
    const [uid] = await sentUids(visitId);
    expect((await receiptsOf())[uid]).toBe(1);
    await expect(tryAgain(clinic.caller(), randomUUID(), failed.deliveryId)).rejects.toMatchObject({
      code: 'on-its-way'
    });
  });

  it('tried again at once after the archive stored it and hung up goes once', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    await fault('cut-after', 1);
    await asked(visitId, parcel(pictureIds));
    const [{ deliveryId }] = await deliveries(visitId);
    await deliver(clinic.clinicId, deliveryId);
    expect((await deliveries(visitId))[0].state).toBe('waiting');
    await tryAgain(clinic.caller(), randomUUID(), deliveryId);
    await deliver(clinic.clinicId, deliveryId);
    expect((await deliveries(visitId))[0].state).toBe('delivered');
    expect((await receiptsOf())[(await sentUids(visitId))[0]]).toBe(1);
  });

  it('says that the archive is away when nothing listens there', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    await clinic.setDestination(`http://127.0.0.1:${await freePort()}`);
    await asked(visitId, parcel(pictureIds));
    await deliver(clinic.clinicId, (await deliveries(visitId))[0].deliveryId);
    await clinic.setDestination(url);
    expect((await deliveries(visitId))[0].reason).toMatch(/away/);
  });

  it('taken up again after its worker was killed asks the archive first', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    await fault('cut-after', 1);
    await asked(visitId, parcel(pictureIds));
    const [{ deliveryId }] = await deliveries(visitId);
    await deliver(clinic.clinicId, deliveryId);
    await clinic.owner.query(`update delivery set state = 'sending' where delivery_id = $1`, [deliveryId]);
    await deliver(clinic.clinicId, deliveryId);
    expect((await receiptsOf())[(await sentUids(visitId))[0]]).toBe(1);
  });

  it('pauses longer each time, up to a quarter of an hour', () => {
    const pauses = Array.from({ length: 14 }, (_, i) => pauseAfter(i + 1));
    expect(pauses.every((pause, i) => i === 0 || pause >= pauses[i - 1])).toBe(true);
    expect(pauses[1]).toBe(2 * pauses[0]);
    expect(pauses.at(-1)).toBe(900);
  });
});

describe('what leaves de-identified', () => {
  it('is shown before, the same pseudonym and days for all pictures, and holds nothing of the person', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    const shown = await leaving(clinic.caller(), visitId, pictureIds);
    const again = await leaving(clinic.caller(), visitId, pictureIds);
    expect(again).toEqual(shown);
    expect(shown.dateShiftDays).toBeLessThan(-300);
    for (const { changes, checked } of shown.pictures) {
      const after = changes.map((change) => change.after).join(' ');
      expect(after).not.toMatch(/Wavecrest|Odile|REC-77|19800405/);
      expect(changes.find((change) => change.name === 'Patient Name')).toMatchObject({
        before: 'Wavecrest^Odile',
        after: shown.pseudonym
      });
      expect(checked[0]).toMatch(/none found/);
    }
    const studies = shown.pictures.map(
      ({ changes }) => changes.find((change) => change.name === 'Study Instance UID')!.after
    );
    expect(new Set(studies).size).toBe(1);
  });

  it('goes beside the identified one, as another instance, and the archive holds no name in it', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    await asked(visitId, parcel(pictureIds));
    await asked(visitId, parcel(pictureIds, 'deidentified'));
    await deliverAll(visitId);
    const uids = await sentUids(visitId);
    expect(new Set(uids).size).toBe(2);
    const files = uids.map((uid) => fs.readFileSync(path.join(folder, `${uid}.dcm`)).toString('latin1'));
    expect(files.filter((text) => /Wavecrest|REC-77/.test(text))).toHaveLength(1);
  });

  it('waits for somebody to look where names may stand in the picture itself', async () => {
    const visitId = await clinic.newVisit();
    const file = (uid: string, more: RawElement[]) =>
      rawFile(
        rawPicture(
          { width: 3, height: 2, allocated: 8, pixels: Uint8Array.from([1, 2, 3, 4, 5, Number(uid.at(-1))]) },
          [['00080018', 'UI', uid], ...more]
        )
      );
    const radiograph: RawElement[] = [
      ['00080016', 'UI', '1.2.840.10008.5.1.4.1.1.1.1'],
      ['00080060', 'CS', 'DX']
    ];
    const needs: [string, RawElement[], boolean][] = [
      ['a radiograph that says no', [...radiograph, ['00280301', 'CS', 'NO']], false],
      ['a radiograph that says yes', [...radiograph, ['00280301', 'CS', 'YES']], true],
      ['a radiograph that says nothing', radiograph, true],
      [
        'an ultrasound that says no',
        [
          ['00080060', 'CS', 'US'],
          ['00280301', 'CS', 'NO']
        ],
        true
      ],
      [
        'a secondary capture that says no',
        [
          ['00080060', 'CS', 'DX'],
          ['00280301', 'CS', 'NO']
        ],
        true
      ],
      ['something unknown', [['00080060', 'CS', 'OT']], true]
    ];
    for (const [i, [name, more, waits]] of needs.entries()) {
      const pictureId = await clinic.bring(visitId, `${i}.dcm`, file(`2.25.50${i}`, more));
      const shown = await leaving(clinic.caller(), visitId, [pictureId]);
      expect(shown.pictures[0].asks, name).toBe(waits);
      const sending = asked(visitId, parcel([pictureId], 'deidentified'));
      if (!waits) await sending;
      else {
        await expect(sending, name).rejects.toMatchObject({ code: 'look-first', status: 409 });
        await sayNoLettering(clinic.caller('assistant'), pictureId, randomUUID());
        await asked(visitId, parcel([pictureId], 'deidentified'));
      }
      // With its identity it needs nobody’s word.
      await asked(visitId, parcel([pictureId]));
    }
  });

  it('does not leave with a name that only the file knows, whatever attribute it stands in', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(
      visitId,
      'a.dcm',
      rawFile(
        rawPicture({ width: 2, height: 2, allocated: 8, pixels: Uint8Array.from([9, 8, 7, 6]) }, [
          ['00080018', 'UI', '2.25.601'],
          ['00080016', 'UI', '1.2.840.10008.5.1.4.1.1.1.1'],
          ['00080060', 'CS', 'DX'],
          ['00280301', 'CS', 'NO'],
          ['00100010', 'PN', 'Tidewell^Ottoline'],
          ['00080070', 'LO', 'Dr.Tidewell scanners'],
          ['00081090', 'LO', 'OTTOLINE_2']
        ])
      )
    );
    const { pictures } = await leaving(clinic.caller(), visitId, [pictureId]);
    expect(pictures[0].changes.map((change) => change.after).join(' ')).not.toMatch(/tidewell|ottoline/i);
    expect(pictures[0].checked[0]).toMatch(/none found/);
  });
});
