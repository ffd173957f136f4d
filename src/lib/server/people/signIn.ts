import { hash, verify } from '@node-rs/argon2';
import { RateLimiterPostgres, type RateLimiterRes } from 'rate-limiter-flexible';
import { cleanText } from '../../core/text';
import { writeAudit } from '../audit/write';
import { beforeClinic, inClinic, meantInWords, sequelize } from '../database/connection';
import { newToken, sha256 } from '../ids';
import { Problem } from '../problem';

/** Argon2id as OWASP advises for interactive sign-in: 19 MiB, two passes, one lane. */
const argon2id = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 };
const failuresAllowed = 8;
const failureMinutes = 10;
export const sessionHours = 12;

export const passwordHash = (password: string): Promise<string> => hash(password, argon2id);

/** A hash of nothing anybody knows: an unknown name takes as long to refuse as a wrong password. */
const nobody = passwordHash(newToken());

/** Failures by name, counted in the records, so that all processes count together. */
const failures = () =>
  new RateLimiterPostgres({
    storeClient: sequelize(),
    storeType: 'sequelize',
    tableName: 'sign_in_limit',
    tableCreated: true,
    keyPrefix: 'sign-in',
    points: failuresAllowed,
    duration: failureMinutes * 60,
    clearExpiredByTimeout: false
  });

async function inWords<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw meantInWords(error);
  }
}

export async function signIn(name: string, password: string): Promise<{ token: string; expires: Date }> {
  const signInName = cleanText(name).trim().toLowerCase();
  const limit = failures();
  const before: RateLimiterRes | null = await inWords(() => limit.get(signInName));
  if (before && before.consumedPoints >= failuresAllowed) {
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
    await inWords(() => limit.penalty(signInName));
    if (account)
      await inClinic(account.clinic_id, (tx) => writeAudit(tx, signInName, 'sign-in failed', signInName));
    throw new Problem(
      'wrong-password',
      'Name and password don’t fit together.',
      'Check both and try again; capital letters count in the password.',
      401
    );
  }
  await inWords(() => limit.delete(signInName));
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
