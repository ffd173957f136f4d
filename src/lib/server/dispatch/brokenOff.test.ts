import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf, standIn } from '../../../../e2e/harness/parcels';
import { deliver } from './deliver';
import { dispatchParcel } from './dispatchViews';
import { actOnParcel, tryAgain } from './parcels';
import { takeUpAgain } from './queueing';

const clinic = useClinic();
const { set, visitWithPictures, sent, tryOnce } = parcelsOf(clinic);
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-broken-'));
const [box, shared] = [path.join(folder, 'mails'), path.join(folder, 'shared')];
let mailbox: ChildProcess;
beforeAll(async () => {
  fs.mkdirSync(shared);
  process.env.YONDER_SHARED_FOLDERS = shared;
  const [smtp, port] = [await freePort(), await freePort()];
  const env = { SMTP_PORT: String(smtp), PORT: String(port), MAILBOX_FOLDER: box };
  mailbox = await standIn('mailbox', `http://127.0.0.1:${port}`, env);
  process.env.YONDER_SMTP_PORT = String(smtp);
});
afterAll(() => {
  mailbox?.kill('SIGKILL');
  fs.rmSync(folder, { recursive: true, force: true });
});

const desk = () => clinic.caller('front-desk');
const mails = () => fs.readdirSync(box).filter((name) => name.endsWith('.eml')).length;
const first = async (parcelId: string) => (await dispatchParcel(clinic.caller(), parcelId)).items[0];
const put = (deliveryId: string, sql: string) =>
  clinic.owner.query(`update delivery set ${sql} where delivery_id = $1`, [deliveryId]);
const queued = async (deliveryId: string) =>
  (
    await clinic.owner.query(
      `select 1 from pgboss.job where name = 'deliver' and data ->> 'deliveryId' = $1`,
      [deliveryId]
    )
  ).rowCount!;
async function wholeParcel(kind: 'mail' | 'folder'): Promise<{ parcelId: string; deliveryId: string }> {
  const destinationId = await set(
    kind === 'mail' ? { kind, to: 'colleague@mainland.example' } : { kind, folder: shared }
  );
  const parcelId = await sent((await visitWithPictures(1)).visitId, {
    destinationId,
    pictureIds: await picturesOfLast()
  });
  return { parcelId, deliveryId: (await first(parcelId)).deliveryId };
}
const picturesOfLast = async () =>
  (
    await clinic.owner.query<{ picture_id: string }>(
      'select picture_id from picture where clinic_id = $1 order by picture_id desc limit 1',
      [clinic.clinicId]
    )
  ).rows.map((row) => row.picture_id);

describe('work that was killed', () => {
  it('while a mail was handed over sends it no second time by itself, and again when a person says so', async () => {
    const { parcelId, deliveryId } = await wholeParcel('mail');
    await put(deliveryId, `state = 'sending', attempts = 1, handed_at = now()`);
    const before = mails();
    await deliver(clinic.clinicId, deliveryId);
    const unsure = await first(parcelId);
    expect([unsure.state, mails()]).toEqual(['failed', before]);
    expect(unsure.reason).toMatch(/nobody knows whether it was taken/);
    expect(unsure.next).toMatch(/Ask them whether it arrived/);
    await tryAgain(desk(), randomUUID(), deliveryId);
    expect((await tryOnce(parcelId)).items[0].state).toBe('delivered');
    expect(mails()).toBe(before + 1);
  });

  it('over a whole parcel is taken up again once nobody has been at it for a while, and not before', async () => {
    const { parcelId, deliveryId } = await wholeParcel('folder');
    await put(deliveryId, `state = 'sending', attempts = 1, alive_at = now()`);
    const before = await queued(deliveryId);
    await takeUpAgain(clinic.clinicId);
    expect(await queued(deliveryId)).toBe(before);
    await put(deliveryId, `alive_at = now() - interval '10 minutes'`);
    await takeUpAgain(clinic.clinicId);
    await takeUpAgain(clinic.clinicId);
    expect(await queued(deliveryId)).toBe(before + 1);
    await deliver(clinic.clinicId, deliveryId);
    expect((await first(parcelId)).state).toBe('delivered');
  });

  it('over a parcel that was withdrawn meanwhile leaves it withdrawn, and nothing is written', async () => {
    const { parcelId, deliveryId } = await wholeParcel('folder');
    await put(deliveryId, `state = 'sending', attempts = 1`);
    const before = fs.readdirSync(shared).length;
    await actOnParcel(desk(), parcelId, randomUUID(), { act: 'withdraw' });
    await deliver(clinic.clinicId, deliveryId);
    const { items, parcel } = await dispatchParcel(clinic.caller(), parcelId);
    expect([items[0].state, parcel.state]).toEqual(['withdrawn', 'withdrawn']);
    expect(fs.readdirSync(shared).length).toBe(before);
  });
});

it('what was to go without its identity goes elsewhere without it too, whatever that destination is set to', async () => {
  const nowhere = await set(
    { kind: 'dicomweb', url: `http://127.0.0.1:${await freePort()}`, token: '' },
    { identity: 'deidentified' }
  );
  const { visitId, pictureIds } = await visitWithPictures(1);
  const parcelId = await sent(visitId, { destinationId: nowhere, pictureIds });
  expect((await tryOnce(parcelId)).items[0].reason).toMatch(/nothing listens/);
  const folderId = await set({ kind: 'folder', folder: shared }, { identity: 'identified' });
  const moved = (await actOnParcel(desk(), parcelId, randomUUID(), {
    act: 'elsewhere',
    destinationId: folderId,
    warned: true
  })) as { parcelId: string };
  expect((await dispatchParcel(clinic.caller(), moved.parcelId)).parcel).toMatchObject({
    identity: 'deidentified',
    state: 'checking'
  });
  expect((await dispatchParcel(clinic.caller(), parcelId)).parcel.state).toBe('withdrawn');
});
