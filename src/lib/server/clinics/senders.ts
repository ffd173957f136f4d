import path from 'node:path';
import { z } from 'zod';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { newId, newToken, sha256 } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';

/** Somebody outside whom the clinic knows: a colleague by mail, a system by its title or its token. */
export interface KnownSender {
  senderId: string;
  name: string;
  address: string | null;
  aeTitle: string | null;
  hasToken: boolean;
}

export interface ArrivalSettings {
  senders: KnownSender[];
  folders: string[];
  doors: { mail: string | null; dicom: string | null };
}

export async function arrivalSettings(caller: Caller): Promise<ArrivalSettings> {
  await demand(caller, 'view charts', 'senders');
  return inClinic(caller.clinicId, async (tx) => ({
    senders: await tx.sql<KnownSender>(
      `select sender_id as "senderId", name, address, ae_title as "aeTitle", token_hash is not null as "hasToken"
       from known_sender where clinic_id = $1 order by lower(name)`,
      tx.clinicId
    ),
    folders: (await tx.one<{ read_folders: string[] }>(
      'select read_folders from clinic where clinic_id = $1',
      tx.clinicId
    ))!.read_folders,
    doors: { mail: process.env.YONDER_MAIL_PORT ?? null, dicom: process.env.YONDER_DICOM_PORT ?? null }
  }));
}

export const senderWish = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('mail'),
    name: z.string().trim().min(1).max(80),
    address: z.email('This is no mail address.').max(200)
  }),
  z.strictObject({
    kind: z.literal('dimse'),
    name: z.string().trim().min(1).max(80),
    aeTitle: z
      .string()
      .trim()
      .regex(
        /^[\x21-\x5b\x5d-\x7e]{1,16}$/,
        'A title has up to 16 letters, digits and signs, without spaces.'
      )
  }),
  z.strictObject({ kind: z.literal('web'), name: z.string().trim().min(1).max(80) })
]);

/** Lets somebody outside send here. A token is told once, and kept as its hash alone. */
export async function addSender(
  caller: Caller,
  key: string,
  wish: z.infer<typeof senderWish>
): Promise<{ senderId: string; token: string | null }> {
  await demand(caller, 'change settings', 'senders');
  const token = wish.kind === 'web' ? newToken() : null;
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const senderId = newId();
      const added = await tx.one(
        `insert into known_sender (clinic_id, sender_id, name, address, ae_title, token_hash, added_by)
         values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing returning sender_id`,
        tx.clinicId,
        senderId,
        wish.name,
        wish.kind === 'mail' ? wish.address.toLowerCase() : null,
        wish.kind === 'dimse' ? wish.aeTitle : null,
        token && sha256(token),
        caller.userId
      );
      if (!added)
        throw new Problem(
          'known-already',
          wish.kind === 'dimse'
            ? 'Somebody is known by this title already.'
            : 'This address is known already.',
          'Take that one out first, or give another.',
          409
        );
      await writeAudit(tx, caller, 'setting changed', senderId, { sender: wish.name, by: wish.kind });
      return { senderId, token };
    })
  );
}

export async function dropSender(caller: Caller, key: string, senderId: string): Promise<object> {
  await demand(caller, 'change settings', 'senders');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const gone = await tx.one<{ name: string }>(
        'delete from known_sender where sender_id = $1 returning name',
        senderId
      );
      if (!gone) throw notFound('This sender');
      await writeAudit(tx, caller, 'setting changed', senderId, { sender: gone.name, dropped: true });
      return {};
    })
  );
}

/** Whoever sent a mail is known from now on; what they sent waits among the rest. */
export async function knowSender(caller: Caller, key: string, intakeId: string): Promise<object> {
  await demand(caller, 'bring in files', intakeId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const mail = z.uuid().safeParse(intakeId).success
        ? await tx.one<{ address: string; from_name: string }>(
            `select address, from_name from intake where intake_id = $1 and source = 'mail' and address <> ''`,
            intakeId
          )
        : undefined;
      if (!mail) throw notFound('This mail');
      const name = mail.from_name.replace(` (${mail.address})`, '');
      await tx.sql(
        `insert into known_sender (clinic_id, sender_id, name, address, added_by) values ($1, $2, $3, $4, $5)
         on conflict do nothing`,
        tx.clinicId,
        newId(),
        name,
        mail.address,
        caller.userId
      );
      await tx.sql('update intake set unknown_sender = false where address = $1', mail.address);
      await announce(tx, { topic: 'arrivals' });
      await writeAudit(tx, caller, 'setting changed', intakeId, { sender: name, by: 'mail' });
      return {};
    })
  );
}

export const foldersWish = z.strictObject({ folders: z.array(z.string().trim().min(1).max(500)).max(20) });

/** Folders on the server's machine from which discs are read. */
export async function changeFolders(
  caller: Caller,
  key: string,
  { folders }: z.infer<typeof foldersWish>
): Promise<object> {
  await demand(caller, 'change settings', 'folders');
  const short = folders.find((folder) => !path.isAbsolute(folder) || path.resolve(folder) === '/');
  if (short)
    throw new Problem(
      'no-folder',
      `“${short}” is not the whole way to a folder.`,
      'Write it from its root, as /media/discs.',
      422
    );
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await tx.sql(
        'update clinic set read_folders = $2::text[] where clinic_id = $1',
        tx.clinicId,
        folders.map((folder) => path.resolve(folder))
      );
      await writeAudit(tx, caller, 'setting changed', tx.clinicId, { folders: folders.join(', ') });
      return {};
    })
  );
}
