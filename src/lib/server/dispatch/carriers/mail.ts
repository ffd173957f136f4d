import { Readable } from 'node:stream';
import nodemailer from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer';
import { NotDelivered, Unsure, type Wire, patienceMs } from './carrier';

/** The server that takes the clinic's mail, by the environment of whoever runs this. */
export const mailServer = () => ({
  host: process.env.YONDER_SMTP_HOST ?? '127.0.0.1',
  port: Number(process.env.YONDER_SMTP_PORT ?? 0)
});
const fromAddress = () => process.env.YONDER_MAIL_FROM ?? 'parcels@yonder.example';

/** Mail servers seldom take more. */
export const mostMailBytes = Number(process.env.YONDER_MOST_MAIL_BYTES ?? 25_000_000);

export interface Letter {
  /** The same for the same parcel, however often it is tried. */
  id: string;
  to: string;
  subject: string;
  text: string;
  files: { name: string; bytes: Uint8Array; type: string }[];
  wire: Wire;
}

/**
 * Sends a parcel by mail (SMTP). A server that took all of it and then said nothing may have delivered it: since nobody
 * can be asked, such a mail is never sent again by itself.
 */
export async function sendMail({ id, to, subject, text, files, wire }: Letter): Promise<void> {
  const { host, port } = mailServer();
  if (port === 0)
    throw new NotDelivered(
      'No mail server is set up.',
      true,
      'Ask whoever runs the server to name one, then try again.'
    );
  const bytes = files.reduce((sum, file) => sum + file.bytes.length, 0);
  if (bytes > mostMailBytes)
    throw new NotDelivered(
      `The parcel has ${Math.ceil(bytes / 1e6)} MB, and mail carries at most ${Math.floor(mostMailBytes / 1e6)}.`,
      true,
      'Send fewer pictures, as JPEG, or by another destination.'
    );
  const transport = nodemailer.createTransport({
    host,
    port,
    secure: false,
    ignoreTLS: process.env.YONDER_SMTP_TLS !== 'yes',
    requireTLS: process.env.YONDER_SMTP_TLS === 'yes',
    connectionTimeout: patienceMs(),
    greetingTimeout: patienceMs(),
    socketTimeout: patienceMs(),
    disableFileAccess: true,
    disableUrlAccess: true
  });
  const line = {
    request: `mail to ${to} by ${host}:${port}`,
    headers: { 'message-id': `<${id}@yonder>`, subject },
    parts: files.map((file) => ({ type: `${file.type} ${file.name}`, bytes: file.bytes.length })),
    answerHeaders: {},
    body: ''
  };
  const message = await new MailComposer({
    messageId: `<${id}@yonder>`,
    from: fromAddress(),
    to,
    subject,
    text,
    attachments: files.map((file) => ({
      filename: file.name,
      content: Buffer.from(file.bytes),
      contentType: file.type
    }))
  })
    .compile()
    .build();
  // The server takes the message only once it has said that it wants it: when all is read, all was sent.
  let allSent = false;
  const raw = Readable.from([message]).once('end', () => (allSent = true));
  try {
    const { response } = await transport.sendMail({ envelope: { from: fromAddress(), to }, raw });
    wire({ ...line, answer: response });
  } catch (error) {
    const problem = mailProblem(error as SmtpError, allSent);
    wire({ ...line, answer: (error as SmtpError).response ?? problem.reason });
    throw problem;
  } finally {
    transport.close();
  }
}

interface SmtpError extends Error {
  code?: string;
  command?: string;
  responseCode?: number;
  response?: string;
}

function mailProblem(error: SmtpError, allSent: boolean): NotDelivered {
  const { code, command, responseCode } = error;
  if (code === 'ECONNREFUSED' || (code === 'ESOCKET' && command === 'CONN' && !allSent) || code === 'EDNS')
    return new NotDelivered('The mail server is away.', false, 'It is tried again by itself.');
  if (responseCode === 552 || responseCode === 452 || responseCode === 422)
    return new NotDelivered(
      responseCode === 552 && /size|large|big/i.test(error.response ?? '')
        ? 'The mail is too large for the mail server.'
        : 'The mailbox is over its quota.',
      responseCode === 552,
      'Ask them to make room, or send fewer pictures; then try again.'
    );
  if (responseCode === 550 || responseCode === 551 || responseCode === 553)
    return new NotDelivered(
      'The mail server knows no such mailbox.',
      true,
      'Have the address in Settings put right, then try again.'
    );
  if (responseCode && responseCode >= 500)
    return new NotDelivered(
      `The mail server refused it (${responseCode}).`,
      true,
      'Look at what was said on the wire.'
    );
  if (responseCode)
    return new NotDelivered(
      `The mail server refused it for now (${responseCode}).`,
      false,
      'It is tried again by itself.'
    );
  // All was sent and nothing came back: it may have arrived.
  if (allSent)
    return new Unsure('The mail was sent and the server hung up before it said whether it took it.');
  return new NotDelivered(
    'The connection to the mail server broke off.',
    false,
    'It is tried again by itself.'
  );
}
