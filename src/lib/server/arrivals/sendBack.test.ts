import { type ParsedMail, simpleParser } from 'mailparser';
import nodemailer from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { freePort } from '../../../../scripts/cluster.mjs';
import { newId } from '../ids';
import { mailAddressOf } from '../mail/addresses';
import { openMailDoor } from '../mail/mailDoor';
import { arrivalsOfBundle } from './arrivals';
import { discFile, shade, zipped } from './arriving.test-data';
import { bundles } from './bundles';
import { sendBack } from './sendBack';

const clinic = useClinic();
const me = () => clinic.caller('front-desk');
let door: SMTPServer;
let theirs: SMTPServer;
let doorPort = 0;
let got: ParsedMail[] = [];
let refuses: string | null = null;

beforeAll(async () => {
  doorPort = await freePort();
  door = await openMailDoor(doorPort);
  theirs = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    onRcptTo: (_, __, done) =>
      done(refuses ? Object.assign(new Error(refuses), { responseCode: 550 }) : undefined),
    onData: (stream, _, done) =>
      void simpleParser(stream).then((mail) => {
        got.push(mail);
        done();
      })
  });
  const port = await freePort();
  await new Promise<void>((up) => theirs.listen(port, '127.0.0.1', up));
  process.env.YONDER_SMTP_PORT = String(port);
});
afterAll(async () => {
  for (const server of [door, theirs]) await new Promise<void>((done) => server.close(done));
});
beforeEach(() => {
  got = [];
  refuses = null;
});

async function mailed(subject: string, attachments: { filename: string; content: Buffer }[]) {
  await nodemailer.createTransport({ host: '127.0.0.1', port: doorPort, ignoreTLS: true }).sendMail({
    from: 'Skerry Clinic <images@skerry.example>',
    to: await mailAddressOf(me()),
    subject,
    attachments
  });
  const bundle = (await bundles(me())).find((each) => each.subject === subject)!;
  const arrivalIds = (await arrivalsOfBundle(me(), bundle.bundleId)).map(({ arrivalId }) => arrivalId);
  return { bundle, arrivalIds };
}
const standing = async (bundleId: string) =>
  (await bundles(me())).find((each) => each.bundleId === bundleId)?.putAway;

describe('what a mail brought', () => {
  it('goes back to where it came from as the files that were attached, once, and is put away', async () => {
    const [content, wrist] = [await shade(90), discFile({ name: 'Ray^Back' })];
    const { bundle, arrivalIds } = await mailed('Whose?', [
      { filename: 'IMG_7.png', content },
      { filename: 'wrist.dcm', content: wrist }
    ]);
    expect(bundle.address).toBe('images@skerry.example');
    const key = newId();
    const wish = { arrivalIds, words: 'Whose is it?' };
    expect(await sendBack(me(), key, wish)).toEqual({ to: 'images@skerry.example' });
    expect(await sendBack(me(), key, wish)).toEqual({ to: 'images@skerry.example' });
    expect(got).toHaveLength(1);
    expect(got[0]).toMatchObject({ subject: 'Back: Whose?', text: expect.stringContaining('Whose is it?') });
    expect([got[0].to].flat()[0]?.text).toBe('images@skerry.example');
    const files = Object.fromEntries(got[0].attachments.map((each) => [each.filename, each.content]));
    expect(Object.keys(files).sort()).toEqual(['IMG_7.png', 'wrist.dcm']);
    expect(files['IMG_7.png'].equals(content)).toBe(true);
    expect(files['wrist.dcm'].equals(wrist)).toBe(true);
    expect(await standing(bundle.bundleId)).toBe(true);
    const { rows } = await clinic.owner.query(
      `select details from audit_line where act = 'arrivals sent back' and subject = $1`,
      [bundle.bundleId]
    );
    expect(rows).toMatchObject([{ details: { to: 'images@skerry.example', files: 2 } }]);
  });

  it('that was made into one series goes back as the pictures that were sent', async () => {
    const slices = Object.fromEntries(
      await Promise.all([1, 2, 3, 4].map(async (n) => [`hand/slice_${n}.png`, await shade(60 + n)] as const))
    );
    const { bundle, arrivalIds } = await mailed('Slices', [
      { filename: 'hand.zip', content: await zipped(slices) }
    ]);
    expect(bundle.count).toBe(1);
    await sendBack(me(), newId(), { arrivalIds, words: 'Whose is it?' });
    expect(got[0].attachments.map(({ filename }) => filename).sort()).toEqual([
      'slice_1.png',
      'slice_2.png',
      'slice_3.png',
      'slice_4.png'
    ]);
  });

  it('lies here still where their server does not take it, and can be sent again', async () => {
    const { bundle, arrivalIds } = await mailed('Refused', [
      { filename: 'IMG_8.png', content: await shade(93) }
    ]);
    refuses = 'No such mailbox';
    const key = newId();
    await expect(sendBack(me(), key, { arrivalIds, words: 'Whose?' })).rejects.toMatchObject({
      code: 'mail-not-sent',
      sentence: 'The mail server knows no such mailbox.'
    });
    expect(await standing(bundle.bundleId)).toBe(false);
    refuses = null;
    await sendBack(me(), key, { arrivalIds, words: 'Whose?' });
    expect(await standing(bundle.bundleId)).toBe(true);
    // Somebody else who presses a moment later sends no second mail.
    await expect(sendBack(me(), newId(), { arrivalIds, words: 'Whose?' })).rejects.toMatchObject({
      code: 'put-away-already'
    });
    expect(got).toHaveLength(1);
  });

  it('is told from what came otherwise, or by several mails', async () => {
    const one = await mailed('One', [{ filename: 'IMG_9.png', content: await shade(91) }]);
    const two = await mailed('Two', [{ filename: 'IMG_10.png', content: await shade(92) }]);
    const both = { arrivalIds: [...one.arrivalIds, ...two.arrivalIds], words: 'Whose?' };
    await expect(sendBack(me(), newId(), both)).rejects.toMatchObject({ code: 'not-by-mail' });
    expect(got).toEqual([]);
  });
});
