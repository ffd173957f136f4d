import { simpleParser } from 'mailparser';
import { SMTPServer, type SMTPServerAddress, type SMTPServerDataStream } from 'smtp-server';
import { log } from '../log';
import { mailDomain, ownerOfAddress } from './addresses';
import { mailArrives, noteRefused } from './mailArrives';

/** A mail may be so large, with everything attached to it. */
export const mostMailBytes = 50 * 1024 * 1024;
const mostRecipients = 10;
const mostAtOnce = 20;
const stillMs = 60_000;

interface Refusal extends Error {
  responseCode: number;
}
const refusal = (responseCode: number, words: string): Refusal =>
  Object.assign(new Error(words), { responseCode });

/** Where mail comes in (RFC 5321). Only addresses of people here are taken; nothing is sent on, and nothing answered. */
export function openMailDoor(port: number, host = '127.0.0.1'): Promise<SMTPServer> {
  const server = new SMTPServer({
    name: mailDomain(),
    banner: 'Yonder Tray takes pictures and papers',
    size: mostMailBytes,
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS', 'VRFY'],
    disableReverseLookup: true,
    maxClients: mostAtOnce,
    socketTimeout: stillMs,
    closeTimeout: 3_000,
    logger: false,
    onRcptTo(address: SMTPServerAddress, session, done) {
      if (session.envelope.rcptTo.length >= mostRecipients)
        return done(refusal(452, 'Too many people for one mail.'));
      ownerOfAddress(address.address).then(
        (owner) => {
          if (!owner) return done(refusal(550, 'Nobody here has this address. Ask for it again.'));
          done();
        },
        (error: unknown) => done(later(error))
      );
    },
    onData(stream: SMTPServerDataStream, session, done) {
      take(
        stream,
        session.envelope.rcptTo.map(({ address }) => address)
      ).then(
        (words) => done(null, words),
        (error: unknown) => done(later(error))
      );
    }
  });
  server.on('error', (error) => log.warn({ error: error.message }, 'a mail broke off'));
  return new Promise((open, fail) => {
    server.once('error', fail);
    server.listen(port, host, () => open(server));
  });
}

const later = (error: unknown): Refusal => {
  if ((error as Refusal).responseCode) return error as Refusal;
  log.error({ error }, 'a mail could not be taken');
  return refusal(451, 'The clinic can take nothing in at this moment. Try again later.');
};

async function take(stream: SMTPServerDataStream, addresses: readonly string[]): Promise<string> {
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of stream as AsyncIterable<Buffer>) {
    bytes += part.length;
    // What is too large is read to its end, so that the sender hears why, and not kept.
    if (bytes <= mostMailBytes) parts.push(part);
    else parts.length = 0;
  }
  const to = (await Promise.all(addresses.map(ownerOfAddress))).filter((owner) => owner !== null);
  if (to.length === 0) throw refusal(451, 'Nobody here has this address any more. Ask for it again.');
  const tooLarge = 'This mail is larger than 50 MB. Send its pictures in several mails, or on a disc.';
  if (bytes > mostMailBytes || stream.sizeExceeded) {
    for (const owner of to) await noteRefused(owner, tooLarge);
    throw refusal(552, tooLarge);
  }
  const mail = await simpleParser(Buffer.concat(parts), { skipImageLinks: true });
  let refused = '';
  for (const owner of to) {
    const answer = await mailArrives(owner, mail);
    if (answer.outcome !== 'refused') continue;
    refused = answer.words;
    await noteRefused(owner, answer.words);
  }
  if (refused) throw refusal(550, refused);
  // What is said here is plain ASCII (RFC 5321).
  return 'It waits in the Arrivals of the clinic.';
}
