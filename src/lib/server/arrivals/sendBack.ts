import { z } from 'zod';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { wholeBlob } from '../blobs/keep';
import { type Tx, inClinic } from '../database/connection';
import { NotDelivered, Unsure } from '../dispatch/carriers/carrier';
import { type Letter, mostMailBytes, sendMail } from '../dispatch/carriers/mail';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { arrivalIdsWished, heldWaiting } from './bundles';
import { markPutAway } from './queries';

export const sendBackWish = z.strictObject({
  arrivalIds: arrivalIdsWished,
  /** What is written to whoever sent it. */
  words: z.string().trim().min(1, 'Write why it comes back.').max(4_000)
});
export type SendBackWish = z.infer<typeof sendBackWish>;

/**
 * Sends what a mail brought back to where it came from, as the files that were attached, and puts it away here. Once for its
 * key: asked again, the answer is the same and no second mail goes.
 * @throws Problem where it did not come by mail, is too large, or the mail server does not take it; then it lies here still
 */
export async function sendBack(
  caller: Caller,
  key: string,
  { arrivalIds, words }: SendBackWish
): Promise<{ to: string }> {
  await demand(caller, 'bring in files', 'arrivals');
  await demand(caller, 'send', 'arrivals');
  const files = await attached(caller.clinicId, arrivalIds);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const rows = await heldWaiting(tx, arrivalIds);
      if (rows.some(({ put_away_at }) => put_away_at)) throw putAwayAlready();
      const { to, subject } = await sentBy(tx, arrivalIds);
      await mailed({
        id: `back-${key}`,
        to,
        subject: `Back: ${subject || 'what you sent'}`,
        text: words,
        files
      });
      await markPutAway(tx, arrivalIds, true);
      await writeAudit(tx, caller, 'arrivals sent back', rows[0].bundle_id, { to, files: files.length });
      await announce(tx, { topic: 'arrivals' });
      return { to };
    })
  );
}

const putAwayAlready = () =>
  new Problem(
    'put-away-already',
    'Some of this has been put away or sent back in the meantime.',
    'Look under “Put away”; bring it back first if it is to be sent.',
    409
  );

/** Whose mail brought all of them, and what it was about. */
async function sentBy(tx: Tx, arrivalIds: readonly string[]): Promise<{ to: string; subject: string }> {
  const mails = await tx.sql<{ source: string; address: string | null; subject: string | null }>(
    `select distinct a.source, i.intake_id, i.address, i.subject from arrival a left join intake i using (intake_id)
     where a.arrival_id = any($1::uuid[])`,
    arrivalIds
  );
  const [mail] = mails;
  if (mails.length !== 1 || mail.source !== 'mail' || !mail.address)
    throw new Problem(
      'not-by-mail',
      'Not all of this came by one mail.',
      'Send back what came by one mail, or put it away.',
      409
    );
  return { to: mail.address, subject: mail.subject ?? '' };
}

/** The files as they came: what was made into one series or a loop is the files that it was made of. */
async function attached(clinicId: string, arrivalIds: readonly string[]): Promise<Letter['files']> {
  const rows = await inClinic(clinicId, (tx) =>
    tx.sql<{ digest: Buffer; name: string; size: number }>(
      `select b.sha256 as digest, coalesce(p.file_name, a.file_name) as name, b.size::float8 as size
       from arrival a left join arrival p on p.part_of = a.arrival_id
       join blob b on b.clinic_id = a.clinic_id and b.sha256 = coalesce(p.original_sha256, a.original_sha256)
       where a.arrival_id = any($1::uuid[]) order by name`,
      arrivalIds
    )
  );
  const bytes = rows.reduce((sum, row) => sum + row.size, 0);
  if (bytes > mostMailBytes)
    throw new Problem(
      'too-large-for-mail',
      `This has ${Math.ceil(bytes / 1e6)} MB, and mail carries at most ${Math.floor(mostMailBytes / 1e6)}.`,
      'Pick some of it and send it back in several mails.',
      413
    );
  const files: Letter['files'] = [];
  for (const { digest, name } of rows)
    files.push({
      name: name.split('/').at(-1) || 'picture',
      bytes: await wholeBlob(clinicId, digest),
      type: 'application/octet-stream'
    });
  return files;
}

async function mailed(letter: Omit<Letter, 'wire'>): Promise<void> {
  try {
    await sendMail({ ...letter, wire: () => {} });
  } catch (error) {
    if (!(error instanceof NotDelivered)) throw error;
    throw error instanceof Unsure
      ? new Problem(
          'mail-unsure',
          error.reason,
          'It may have arrived, and lies here still: ask them before you send it again.',
          502
        )
      : new Problem('mail-not-sent', error.reason, 'It lies here still: send it back later.', 502);
  }
}
