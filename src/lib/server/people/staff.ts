import { verify } from '@node-rs/argon2';
import { z } from 'zod';
import type { StaffMember } from '../../core/people/staff';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, beforeClinic, inClinic } from '../database/connection';
import { newId, newToken, sha256 } from '../ids';
import { announce } from '../news/announce';
import { Problem, notFound } from '../problem';
import { type Caller, demand } from './caller';
import { type Role, roleWords, roles } from './roles';
import { passwordHash } from './signIn';

/** So long a link by which somebody chooses a password is good. */
const inviteDays = 7;
export const leastPasswordLetters = 10;

interface Row {
  user_id: string;
  sign_in_name: string;
  display_name: string;
  role: Role;
  disabled_at: Date | null;
  invited: boolean;
  sessions: number;
  last_at: Date | null;
}

/** Everybody who signs in, or did; where they are signed in is told to those alone who may end that. */
export async function staff(caller: Caller): Promise<StaffMember[]> {
  const mayChange = caller.role === 'administrator';
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<Row>(
      `select u.user_id, u.sign_in_name, u.display_name, u.role, u.disabled_at,
         coalesce(u.invite_until > now(), false) as invited,
         (select count(*)::int from user_session s where s.user_id = u.user_id and s.expires_at > now()) as sessions,
         (select max(k.last_at) from known_place k where k.user_id = u.user_id) as last_at
       from user_account u order by u.disabled_at is not null, lower(u.display_name)`
    );
    return rows.map((row) => ({
      userId: row.user_id,
      name: row.display_name,
      signInName: row.sign_in_name,
      role: row.role,
      roleWords: roleWords[row.role],
      disabled: row.disabled_at !== null,
      invited: row.invited,
      sessions: mayChange || row.user_id === caller.userId ? row.sessions : null,
      lastAt: mayChange ? (row.last_at?.toISOString() ?? null) : null
    }));
  });
}

const name = z.string().trim().min(1, 'Give the name.').max(120, 'A name has at most 120 letters.');
export const inviteWish = z.strictObject({
  name,
  signInName: z
    .string()
    .trim()
    .toLowerCase()
    .regex(
      /^[a-z0-9._-]{2,40}$/,
      'A name to sign in with has 2 to 40 small letters, digits, dots and lines.'
    ),
  role: z.enum(roles)
});

/** Enters somebody new, who chooses a password by a link that is shown this once. */
export async function invite(
  caller: Caller,
  key: string,
  wish: z.infer<typeof inviteWish>
): Promise<{ userId: string; code: string }> {
  await demand(caller, 'change settings', 'people');
  const nobody = await passwordHash(newToken());
  return inClinic(caller.clinicId, async (tx) => {
    const { userId } = await once(tx, caller.userId, key, async () => {
      const userId = newId();
      const added = await tx.one(
        `insert into user_account (user_id, clinic_id, sign_in_name, display_name, role, password_hash)
         values ($1, $2, $3, $4, $5, $6) on conflict (sign_in_name) do nothing returning user_id`,
        userId,
        tx.clinicId,
        wish.signInName,
        wish.name,
        wish.role,
        nobody
      );
      if (!added)
        throw new Problem(
          'name-taken',
          `Somebody signs in as “${wish.signInName}” already.`,
          'Choose another name to sign in with.',
          409
        );
      await writeAudit(tx, caller, 'setting changed', userId, {
        person: wish.name,
        role: roleWords[wish.role],
        invited: true
      });
      return { userId };
    });
    // A code is kept nowhere: whoever asks again, for an answer that was lost, gets another one.
    return { userId, code: await newInvite(tx, userId) };
  });
}

async function newInvite(tx: Tx, userId: string): Promise<string> {
  const code = newToken();
  await tx.sql(
    `update user_account set invite_hash = $2, invite_until = now() + make_interval(days => ${inviteDays}) where user_id = $1`,
    userId,
    sha256(code)
  );
  return code;
}

export const personChange = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('change'), name, role: z.enum(roles) }),
  z.strictObject({ act: z.literal('disable') }),
  z.strictObject({ act: z.literal('enable') }),
  z.strictObject({ act: z.literal('end sessions') }),
  z.strictObject({ act: z.literal('new link') })
]);

/** What an administrator does with somebody's account. A clinic always has one who can. */
export async function changePerson(
  caller: Caller,
  key: string,
  userId: string,
  wish: z.infer<typeof personChange>
): Promise<{ code?: string }> {
  await demand(caller, 'change settings', 'people');
  return inClinic(caller.clinicId, async (tx) => {
    await once(tx, caller.userId, key, async () => {
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 5))', `people ${tx.clinicId}`);
      const known = z.uuid().safeParse(userId).success
        ? await tx.one<{ display_name: string; role: Role }>(
            'select display_name, role from user_account where user_id = $1',
            userId
          )
        : undefined;
      if (!known) throw notFound('This person');
      const details: Record<string, unknown> = { person: known.display_name };
      switch (wish.act) {
        case 'change':
          await tx.sql(
            'update user_account set display_name = $2, role = $3 where user_id = $1',
            userId,
            wish.name,
            wish.role
          );
          Object.assign(details, { person: wish.name, role: roleWords[wish.role] });
          break;
        case 'disable':
          if (userId === caller.userId) throw notYourself();
          await tx.sql(
            'update user_account set disabled_at = now(), invite_hash = null where user_id = $1',
            userId
          );
          await endSessions(tx, userId, null);
          details.disabled = true;
          break;
        case 'enable':
          await tx.sql('update user_account set disabled_at = null where user_id = $1', userId);
          details.enabled = true;
          break;
        case 'end sessions':
          await endSessions(tx, userId, userId === caller.userId ? caller.session : null);
          details.sessionsEnded = true;
          break;
        case 'new link':
          details.newLink = true;
      }
      await demandAnAdministrator(tx);
      await writeAudit(tx, caller, 'setting changed', userId, details);
      return {};
    });
    return wish.act === 'new link' ? { code: await newInvite(tx, userId) } : {};
  });
}

/** Ends sessions of somebody, but for one. Pages that are open hear of it. */
async function endSessions(tx: Tx, userId: string, butSession: string | null): Promise<void> {
  const ended = await tx.sql<{ token_hash: Buffer }>(
    `delete from user_session where user_id = $1 and token_hash is distinct from $2 returning token_hash`,
    userId,
    butSession ? Buffer.from(butSession, 'hex') : null
  );
  for (const { token_hash: hash } of ended)
    await announce(tx, { topic: 'session-over', session: hash.toString('hex') });
}

/** @throws Problem where nobody is left who can change settings */
export async function demandAnAdministrator(tx: Tx): Promise<void> {
  const left = await tx.one(
    `select 1 from user_account where role = 'administrator' and disabled_at is null`
  );
  if (!left)
    throw new Problem(
      'last-administrator',
      'The clinic would have nobody left who can change its settings.',
      'Make somebody else an administrator first.',
      409
    );
}
const notYourself = (): Problem =>
  new Problem('yourself', 'Nobody disables their own account.', 'Ask another administrator.', 409);

const password = z
  .string()
  .min(leastPasswordLetters, `A password has at least ${leastPasswordLetters} letters.`)
  .max(200, 'A password has at most 200 letters.');
export const passwordWish = z.strictObject({ before: z.string().max(200), after: password });

/** Somebody changes their own password; everywhere else they are signed out. */
export async function changePassword(
  caller: Caller,
  { before, after }: z.infer<typeof passwordWish>
): Promise<object> {
  const stored = await inClinic(caller.clinicId, (tx) =>
    tx.one<{ password_hash: string }>(
      'select password_hash from user_account where user_id = $1',
      caller.userId
    )
  );
  if (!stored || !(await verify(stored.password_hash, before)))
    throw new Problem('wrong-password', 'This is not your password of now.', 'Check it and try again.', 422);
  const hash = await passwordHash(after);
  return inClinic(caller.clinicId, async (tx) => {
    await tx.sql('update user_account set password_hash = $2 where user_id = $1', caller.userId, hash);
    await endSessions(tx, caller.userId, caller.session);
    await writeAudit(tx, caller, 'setting changed', caller.userId, { password: 'their own' });
    return {};
  });
}

interface Invited {
  user_id: string;
  clinic_id: string;
  sign_in_name: string;
  display_name: string;
}
const invitedBy = async (code: string): Promise<Invited> => {
  const [found] = await beforeClinic<Invited>('select * from account_of_invite($1)', sha256(code));
  if (!found) throw inviteOver();
  return found;
};
const inviteOver = (): Problem =>
  new Problem(
    'invite-over',
    'This link is not good any more, or never was.',
    'Ask an administrator of the clinic for a new one.',
    404
  );

/** Whom a link invites. */
export async function invited(code: string): Promise<{ name: string; signInName: string }> {
  const { display_name, sign_in_name } = await invitedBy(code);
  return { name: display_name, signInName: sign_in_name };
}

export const acceptForm = z.object({ password });

/** Whoever was invited chooses a password; the link is used up by that, and earlier sessions are over. */
export async function acceptInvite(code: string, chosen: string): Promise<{ signInName: string }> {
  const { user_id: userId, clinic_id: clinicId, sign_in_name: signInName } = await invitedBy(code);
  const hash = await passwordHash(chosen);
  return inClinic(clinicId, async (tx) => {
    const used = await tx.one(
      `update user_account set password_hash = $3, invite_hash = null, invite_until = null
       where user_id = $1 and invite_hash = $2 returning user_id`,
      userId,
      sha256(code),
      hash
    );
    // Somebody was quicker by a moment.
    if (!used) throw inviteOver();
    await endSessions(tx, userId, null);
    await writeAudit(tx, { system: 'door' }, 'setting changed', userId, {
      person: signInName,
      password: 'chosen by the link'
    });
    return { signInName };
  });
}
