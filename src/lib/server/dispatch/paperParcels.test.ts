import { type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { simpleParser } from 'mailparser';
import { PDFDocument } from 'pdf-lib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf, standIn } from '../../../../e2e/harness/parcels';
import { addPaper, changePaper } from '../papers/papers';
import { dispatch, dispatchParcel } from './dispatchViews';
import { sendPapers } from './paperParcels';
import { actOnParcel } from './parcels';

const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-papers-sent-'));
const box = path.join(folder, 'mails');
const shared = path.join(folder, 'shared');
fs.mkdirSync(shared);
process.env.YONDER_SHARED_FOLDERS = shared;
let mailbox: ChildProcess;
let status = '';
beforeAll(async () => {
  const [smtp, port] = [await freePort(), await freePort()];
  status = `http://127.0.0.1:${port}`;
  mailbox = await standIn('mailbox', status, {
    SMTP_PORT: String(smtp),
    PORT: String(port),
    MAILBOX_FOLDER: box
  });
  process.env.YONDER_SMTP_PORT = String(smtp);
});
afterAll(() => {
  mailbox?.kill('SIGKILL');
  fs.rmSync(folder, { recursive: true, force: true });
});

const { set, tryOnce } = parcelsOf(clinic);
const mail = () =>
  set({ kind: 'mail', to: 'nurse@harbour.example' }, { words: { fresh: 'Hello.', known: '' } });

async function laid(visitId: string, name: string): Promise<{ paperId: string; bytes: Buffer }> {
  const paper = await PDFDocument.create();
  paper.setTitle(`${name} ${randomUUID()}`);
  paper.addPage();
  const bytes = Buffer.from(await paper.save());
  const { paperId } = await addPaper(clinic.caller(), {
    visitId,
    fileName: `${name}.pdf`,
    key: randomUUID(),
    body: (async function* () {
      yield bytes;
    })()
  });
  return { paperId, bytes };
}
const send = (
  visitId: string,
  wish: { destinationId: string; paperIds: string[]; words?: string },
  key = randomUUID()
) => sendPapers(clinic.caller('front-desk'), visitId, key, { words: '', warned: true, ...wish });

describe('papers that are sent', () => {
  it('arrive by mail bit for bit, once however often that was asked, and stand in Dispatch as what they are', async () => {
    const visitId = await clinic.newVisit();
    const report = await laid(visitId, 'Report');
    const letter = await laid(visitId, 'Letter');
    const wish = {
      destinationId: await mail(),
      paperIds: [letter.paperId, report.paperId],
      words: 'As we said on the telephone.'
    };
    const key = randomUUID();
    const { parcelId } = await send(visitId, wish, key);
    expect(await send(visitId, wish, key)).toEqual({ parcelId });
    const there = await tryOnce(parcelId);
    expect(there.items).toMatchObject([{ what: 'the papers', state: 'delivered' }]);
    expect((await tryOnce(parcelId)).items).toHaveLength(1);

    const mails = fs.readdirSync(box).filter((name) => name.endsWith('.eml'));
    expect(mails).toHaveLength(1);
    const { subject, text, attachments } = await simpleParser(fs.readFileSync(path.join(box, mails[0])));
    expect(subject).toMatch(/^A paper from /);
    expect(text?.trim()).toBe('As we said on the telephone.\n\nHello.');
    expect(attachments.map(({ filename }) => filename)).toEqual(['Letter.pdf', 'Report.pdf']);
    expect(Buffer.compare(attachments[0].content, letter.bytes)).toBe(0);
    expect(Buffer.compare(attachments[1].content, report.bytes)).toBe(0);

    const { parcels } = await dispatch(clinic.caller(), { show: 'all', visit: visitId });
    expect(parcels).toMatchObject([
      { parcelId, papers: 2, pictures: 0, patient: { patientId: clinic.patientId }, identity: 'identified' }
    ]);
  });

  it('go into a shared folder that is named after the patient, two of one name as two files', async () => {
    const visitId = await clinic.newVisit();
    const [one, two] = [await laid(visitId, 'Letter'), await laid(visitId, 'Letter')];
    const destinationId = await set({ kind: 'folder', folder: shared });
    const { parcelId } = await send(visitId, { destinationId, paperIds: [one.paperId, two.paperId] });
    expect((await tryOnce(parcelId)).items[0]).toMatchObject({ state: 'delivered' });
    const [of] = fs.readdirSync(shared);
    expect(of).toMatch(/^Wavecrest Odile \d{4}-\d\d-\d\d /);
    expect(fs.readdirSync(path.join(shared, of)).filter((name) => name.endsWith('.pdf'))).toHaveLength(2);
  });

  it('are refused in words by who takes none, or may not know who they are of, and where one is no longer there', async () => {
    const visitId = await clinic.newVisit();
    const { paperId } = await laid(visitId, 'Letter');
    const archive = await set({ kind: 'dicomweb', url: 'http://127.0.0.1:9', token: '' });
    await expect(send(visitId, { destinationId: archive, paperIds: [paperId] })).rejects.toMatchObject({
      code: 'papers-as-whole'
    });
    const nameless = await set({ kind: 'mail', to: 'a@b.example' }, { identity: 'deidentified' });
    await expect(send(visitId, { destinationId: nameless, paperIds: [paperId] })).rejects.toMatchObject({
      code: 'papers-named'
    });
    const elsewhere = await clinic.newVisit();
    await expect(send(elsewhere, { destinationId: await mail(), paperIds: [paperId] })).rejects.toMatchObject(
      { status: 404 }
    );
    await expect(
      sendPapers(clinic.caller('administrator'), visitId, randomUUID(), {
        destinationId: await mail(),
        paperIds: [paperId],
        words: '',
        warned: true
      })
    ).rejects.toMatchObject({ status: 403 });
  });

  it('that were put away meanwhile do not go, and say so; brought back they do; elsewhere they go as themselves', async () => {
    const visitId = await clinic.newVisit();
    const { paperId } = await laid(visitId, 'Letter');
    const { parcelId } = await send(visitId, { destinationId: await mail(), paperIds: [paperId] });
    await changePaper(clinic.caller(), paperId, randomUUID(), { kind: 'put away' });
    const stopped = await tryOnce(parcelId);
    expect(stopped.items[0]).toMatchObject({
      state: 'failed',
      reason: 'What was to go was put away meanwhile.'
    });
    await changePaper(clinic.caller(), paperId, randomUUID(), { kind: 'brought back' });
    const destinationId = await set({ kind: 'folder', folder: shared });
    const next = (await actOnParcel(clinic.caller('front-desk'), parcelId, randomUUID(), {
      act: 'elsewhere',
      destinationId,
      warned: true
    })) as { parcelId: string };
    expect((await dispatchParcel(clinic.caller(), parcelId)).parcel.state).toBe('withdrawn');
    expect((await tryOnce(next.parcelId)).items[0]).toMatchObject({ state: 'delivered' });
  });
});
