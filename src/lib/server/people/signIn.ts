import { hash, verify } from '@node-rs/argon2';
import { writeAudit } from '../audit/write';
import { beforeClinic, inClinic } from '../database/connection';
import { newToken, sha256 } from '../ids';
import { Problem } from '../problem';
import type { Caller } from './caller';

/** Argon2id as OWASP advises for interactive sign-in: 19 MiB, two passes, one lane. */
const argon2id = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 };
const failuresAllowed = 8;
const failureMinutes = 10;
export const sessionHours = 12;

export const passwordHash = (password: string): Promise<string> => hash(password, argon2id);

/** A hash of nothing anybody knows: an unknown name takes as long to refuse as a wrong password. */
const nobody = passwordHash(newToken());

export async function signIn(name: string, password: string): Promise<{ token: string; expires: Date }> {
  const signInName = name.trim().toLowerCase();
  await beforeClinic(
    `delete from sign_in_failure where at < now() - make_interval(mins => $1)`,
    failureMinutes
  );
  const [{ count }] = await beforeClinic<{ count: string }>(
    'select count(*) from sign_in_failure where name = $1',
    signInName
  );
  if (Number(count) >= failuresAllowed) {
    throw new Problem(
      'too-many-tries',
      `There were ${failuresAllowed} wrong passwords for this name in ${failureMinutes} minutes, so it rests for a while.`,
      `Wait ${failureMinutes} minutes, or ask an administrator.`,
      429
    );
  }
  const [account] = await beforeClinic<{ user_id: string; clinic_id: string; password_hash: string }>(
    'select * from account_to_sign_in($1)',
    signInName
  );
  const matches = await verify(account?.password_hash ?? (await nobody), password);
  if (!account || !matches) {
    await beforeClinic('insert into sign_in_failure (name) values ($1)', signInName);
    if (account)
      await inClinic(account.clinic_id, (tx) => writeAudit(tx, signInName, 'sign-in failed', signInName));
    throw new Problem(
      'wrong-password',
      'Name and password don’t fit together.',
      'Check both and try again; capital letters count in the password.',
      401
    );
  }
  await beforeClinic('delete from sign_in_failure where name = $1', signInName);
  const token = newToken();
  const expires = new Date(Date.now() + sessionHours * 3_600_000);
  await inClinic(account.clinic_id, async (tx) => {
    await tx.sql(
      'insert into user_session (token_hash, clinic_id, user_id, expires_at) values ($1, $2, $3, $4)',
      sha256(token),
      account.clinic_id,
      account.user_id,
      expires
    );
    await tx.sql('delete from user_session where expires_at < now()');
    await writeAudit(tx, signInName, 'signed in', signInName);
  });
  return { token, expires };
}

export async function callerOf(token: string): Promise<Caller | null> {
  const [row] = await beforeClinic<{
    user_id: string;
    clinic_id: string;
    role: Caller['role'];
    display_name: string;
    clinic_name: string;
    notation: Caller['notation'];
  }>('select * from caller_of_session($1)', sha256(token));
  if (!row) return null;
  return {
    userId: row.user_id,
    clinicId: row.clinic_id,
    role: row.role,
    name: row.display_name,
    clinicName: row.clinic_name,
    notation: row.notation
  };
}

export async function signOut(caller: Caller, token: string): Promise<void> {
  await inClinic(caller.clinicId, async (tx) => {
    await tx.sql('delete from user_session where token_hash = $1', sha256(token));
    await writeAudit(tx, caller.name, 'signed out', caller.name);
  });
}
