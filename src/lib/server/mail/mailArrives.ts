import { Readable } from 'node:stream';
import type { AddressObject, Attachment, ParsedMail } from 'mailparser';
import { cleanText, shortened } from '../../core/text';
import { finishIntake } from '../arrivals/intakeEnd';
import { intakeOfKey, openIntake } from '../arrivals/intakes';
import type { Sender } from '../arrivals/keeping';
import { takeIn } from '../arrivals/takeIn';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { sha256 } from '../ids';
import { announce } from '../news/announce';
import type { MailOwner } from './addresses';

export type MailOutcome =
  | { outcome: 'taken'; intakeId: string; kept: number }
  | { outcome: 'again' }
  /** Nobody wrote it: a machine answers a mail. It is not kept, and never answered. */
  | { outcome: 'automatic' }
  | { outcome: 'refused'; words: string };

const mostAttachments = 500;
/** Small pictures within the text are logos and signatures. */
const logoBytes = 20_000;

/**
 * A mail to somebody's own address: what is attached comes to Arrivals, its text beside it. The same mail twice is one;
 * mails are never answered, so that none goes round in a loop.
 */
export async function mailArrives(to: MailOwner, mail: ParsedMail): Promise<MailOutcome> {
  const attached = mail.attachments.filter(isMeant);
  if (attached.length === 0) {
    if (isAutomatic(mail)) return { outcome: 'automatic' };
    return {
      outcome: 'refused',
      words:
        'This address takes pictures and papers only, and nothing was attached. Attach them and send it again.'
    };
  }
  if (attached.length > mostAttachments)
    return {
      outcome: 'refused',
      words: `This mail has ${attached.length} attachments; send them in a ZIP package, or several mails.`
    };
  const address = addressOf(mail.from);
  const key = `mail ${sha256(`${to.userId} ${mail.messageId ?? sha256(mail.text ?? '').toString('hex')}`).toString('hex')}`;
  const from = await inClinic(to.clinicId, (tx) => senderOf(tx, to, mail, address));
  const opened = await inClinic(to.clinicId, async (tx) => {
    await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 4))', key);
    const before = await intakeOfKey(tx, key);
    if (before) return { ...before, again: before.ended };
    const intakeId = await openIntake(tx, from, {
      source: 'mail',
      name: from.name,
      said: attached.length,
      forUser: to.userId,
      subject: cleanText(mail.subject ?? '').trim(),
      note: cleanText(mail.text ?? '').trim(),
      unknownSender: !from.known,
      address,
      key
    });
    return { intakeId, again: false };
  });
  if (opened.again) return { outcome: 'again' };
  const { intakeId } = opened;
  let kept = 0;
  // What a mail that broke off had brought already is known by its name; the rest follows.
  for (const [i, { filename, content, contentType }] of attached.entries()) {
    const path = filename ?? `attachment ${i + 1}${endingOf(contentType)}`;
    const taken = await takeIn(from, intakeId, { path: `${i + 1}/${path}`, body: Readable.from([content]) });
    if (taken.outcome === 'kept' || taken.outcome === 'unpacked') kept += 1;
  }
  await finishIntake(from, intakeId, false);
  await inClinic(to.clinicId, (tx) =>
    announce(tx, {
      topic: 'sent-to',
      userId: to.userId,
      from: shortened(from.name, 80),
      subject: shortened(mail.subject ?? '', 120),
      count: kept
    })
  );
  return { outcome: 'taken', intakeId, kept };
}

const isMeant = ({ related, contentType, size }: Attachment): boolean =>
  !(related && contentType.startsWith('image/') && size < logoBytes) &&
  !/^(text\/(calendar|vcard|html|plain)|application\/pgp-signature|application\/(x-)?pkcs7)/.test(
    contentType
  );

/** RFC 3834: what was sent by a machine as an answer, or by a list. */
function isAutomatic({ headers }: ParsedMail): boolean {
  const submitted = String(headers.get('auto-submitted') ?? 'no').toLowerCase();
  return (
    submitted !== 'no' ||
    headers.has('x-auto-response-suppress') ||
    /^(bulk|junk|list|auto_reply)$/.test(String(headers.get('precedence') ?? ''))
  );
}

const addressOf = (from: AddressObject | undefined): string =>
  (from?.value[0]?.address ?? '').trim().toLowerCase();

const endingOf = (contentType: string): string =>
  ({ 'application/dicom': '.dcm', 'application/pdf': '.pdf', 'image/jpeg': '.jpg', 'image/png': '.png' })[
    contentType
  ] ?? '';

/** Who sent it: by the name under which the clinic knows the address, else as the mail itself says. */
async function senderOf(
  tx: Tx,
  to: MailOwner,
  mail: ParsedMail,
  address: string
): Promise<Sender & { known: boolean }> {
  const known = await tx.one<{ name: string }>(
    'select name from known_sender where clinic_id = $1 and address = $2',
    tx.clinicId,
    address
  );
  const said = cleanText(mail.from?.value[0]?.name ?? '').trim();
  return {
    clinicId: to.clinicId,
    source: 'mail',
    name: known?.name ?? shortened(said ? `${said} (${address})` : address || 'nobody named', 120),
    roomId: null,
    userId: to.userId,
    timeZone: to.timeZone,
    by: { system: 'mail' },
    known: Boolean(known)
  };
}

/** Somebody wrote to an address and was refused: an administrator can see it. */
export const noteRefused = (to: MailOwner, words: string): Promise<void> =>
  inClinic(to.clinicId, (tx) => writeAudit(tx, { system: 'mail' }, 'mail refused', to.userId, { words }));
