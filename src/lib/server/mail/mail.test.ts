import { Readable } from 'node:stream';
import nodemailer, { type SendMailOptions } from 'nodemailer';
import type { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { freePort } from '../../../../scripts/cluster.mjs';
import { discFile, shade, zipped } from '../arrivals/arriving.test-data';
import { bundles } from '../arrivals/bundles';
import { newId } from '../ids';
import { mailAddressOf } from './addresses';
import { openMailDoor } from './mailDoor';

const clinic = useClinic();
let door: SMTPServer;
let port = 0;
let address = '';
const me = () => clinic.caller('front-desk');

beforeAll(async () => {
  port = await freePort();
  door = await openMailDoor(port);
  address = await mailAddressOf(me());
});
afterAll(() => new Promise<void>((done) => door.close(done)));

const attached = (name: string) => ({ filename: `${name}.dcm`, content: discFile({ name: `${name}^Mail` }) });
const send = (mail: SendMailOptions) =>
  nodemailer
    .createTransport({ host: '127.0.0.1', port, ignoreTLS: true })
    .sendMail({ from: 'Skerry Clinic <images@skerry.example>', to: address, ...mail });
const mine = async () => (await bundles(me())).filter(({ source }) => source === 'mail');

describe('mail', () => {
  it('to somebody’s own address comes to Arrivals, its words beside its pictures, apart while nobody knows the sender', async () => {
    await send({
      subject: 'Her wrist',
      text: 'Taken on Monday.\nThe second is the side view.',
      attachments: [attached('Ray'), attached('Roy')]
    });
    const found = await mine();
    expect(found).toHaveLength(2);
    expect(found[0]).toMatchObject({
      subject: 'Her wrist',
      note: 'Taken on Monday.\nThe second is the side view.',
      forMe: true,
      unknownSender: true,
      from: 'Skerry Clinic (images@skerry.example)'
    });
    await clinic.owner.query(
      `insert into known_sender (clinic_id, sender_id, name, address, added_by) values ($1, $2, 'Skerry', 'images@skerry.example', $3)`,
      [clinic.clinicId, newId(), me().userId]
    );
    await send({ subject: 'Known', attachments: [attached('Known')] });
    expect((await mine()).find(({ subject }) => subject === 'Known')).toMatchObject({
      from: 'Skerry',
      unknownSender: false
    });
  });

  it('that comes twice is one', async () => {
    const before = (await mine()).length;
    const mail = { subject: 'Twice', messageId: '<twice@skerry.example>', attachments: [attached('Twice')] };
    await send(mail);
    await send(mail);
    expect(await mine()).toHaveLength(before + 1);
  });

  it('of one person lies in one bundle with its letter and its photographs', async () => {
    const photograph = { filename: 'IMG_1.png', content: await shade(80) };
    await send({ subject: 'All of one', attachments: [photograph, attached('One')] });
    const found = (await mine()).filter(({ subject }) => subject === 'All of one');
    expect(found).toMatchObject([{ count: 2, inFile: { name: 'Mail One' } }]);
  });

  it('may hold a package', async () => {
    const content = await zipped({ 'a/1.dcm': attached('Zip').content, 'a/2.dcm': attached('Zap').content });
    const before = (await mine()).length;
    await send({ subject: 'A package', attachments: [{ filename: 'all.zip', content }] });
    expect(await mine()).toHaveLength(before + 2);
  });

  it('to nobody, without anything attached, or too large is refused in words; an automatic answer is dropped unanswered', async () => {
    await expect(send({ to: 'mara.aaaaaaaa@yonder.example', attachments: [attached('No')] })).rejects.toThrow(
      'Nobody here has this address'
    );
    await expect(send({ to: 'mara@elsewhere.example', attachments: [attached('No')] })).rejects.toThrow(
      'Nobody here'
    );
    await expect(send({ text: 'Hello' })).rejects.toThrow('nothing was attached');
    await expect(
      send({ attachments: [{ filename: 'big.bin', content: Readable.from(bigAs(60)) }] })
    ).rejects.toThrow(/50 MB|size/i);
    const before = (await mine()).length;
    // A logo in the text is nothing that was attached.
    await expect(
      send({
        html: '<p>Yours</p><img src="cid:logo">',
        attachments: [{ filename: 'logo.png', content: await shade(90), cid: 'logo' }]
      })
    ).rejects.toThrow('nothing was attached');
    const loop = await send({ text: 'I am away', headers: { 'Auto-Submitted': 'auto-replied' } });
    expect(loop.accepted).toEqual([address]);
    expect(await mine()).toHaveLength(before);
    const refused = await clinic.owner.query(
      `select count(*)::int as count from audit_line where act = 'mail refused' and clinic_id = $1`,
      [clinic.clinicId]
    );
    expect(refused.rows[0].count).toBeGreaterThanOrEqual(2);
  });

  it('with letters of every kind in its names is read', async () => {
    await send({
      from: '"Dr. Þóra Ðíáz" <thora@skerry.example>',
      subject: 'Röntgen — 山田',
      attachments: [{ ...attached('Letters'), filename: 'Mynd áéíóú 山田.dcm' }]
    });
    const found = (await mine()).find(({ subject }) => subject === 'Röntgen — 山田')!;
    expect(found.from).toBe('Dr. Þóra Ðíáz (thora@skerry.example)');
  });
});

async function* bigAs(megabytes: number) {
  for (let i = 0; i < megabytes; i++) yield Buffer.alloc(1024 * 1024, i);
}
