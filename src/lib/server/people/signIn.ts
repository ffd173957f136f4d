import { hash, verify } from '@node-rs/argon2';
import { cleanText } from '../../core/text';
import { noteRefusal } from '../audit/looks';
import { writeAudit } from '../audit/write';
import { beforeClinic, errorInWords, inClinic } from '../database/connection';
import { newToken, sha256 } from '../ids';
import { Problem } from '../problem';
import { countTry, tries } from './tries';

/** Argon2id as OWASP advises for interactive sign-in: 19 MiB, two passes, one lane. */
const argon2id = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Wrong passwords for one name from one address; then that name is locked there. */
const failuresAllowed = 8;
const failureMinutes = 10;
/** For all names from one address, and for one name from everywhere that its owner has not signed in from before. */
const failuresOfAddress = 60;
const failuresOfName = 100;
export const sessionHours = 12;

export const passwordHash = (password: string): Promise<string> => hash(password, argon2id);

/** A hash of nothing anybody knows: an unknown name takes as long to refuse as a wrong password. */
const nobody = passwordHash(newToken());

const counters = () => ({
  here: tries('sign-in', failuresAllowed, failureMinutes),
  address: tries('sign-in-address', failuresOfAddress, failureMinutes),
  name: tries('sign-in-name', failuresOfName, 60)
});

const locked = (who: string, minutes: number) =>
  new Problem(
    'too-many-tries',
    `There were too many wrong passwords ${who}, so signing in is locked for ${minutes} minutes.`,
    `Wait ${minutes} minutes, or ask an administrator.`,
    429
  );

async function inWords<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw errorInWords(error);
  }
}

const accountOf = (signInName: string) =>
  beforeClinic<{ user_id: string; clinic_id: string; password_hash: string }>(
    'select * from account_to_sign_in($1)',
    signInName
  );

/** Counts a try everywhere it counts. @returns whether the name was signed in from this address before */
async function countAll(signInName: string, address: string): Promise<boolean> {
  const { here, address: ofAddress, name: ofName } = counters();
  await countTry(here, keyHere(signInName, address), locked('for this name from here', failureMinutes));
  await countTry(ofAddress, address, locked('from here', failureMinutes));
  const [{ known }] = await beforeClinic<{ known: boolean }>(
    'select is_known_place($1, $2) as known',
    signInName,
    sha256(address)
  );
  if (!known) await countTry(ofName, signInName, locked('for this name', 60));
  return known;
}

const keyHere = (signInName: string, address: string) => `${signInName} ${address}`;

/**
 * Signs somebody in. Each try is counted first: by name and address, by address, and by name alone; the last does not
 * keep out who signs in from where the name has been before, so that no stranger can lock a name for good.
 */
export async function signIn(
  name: string,
  password: string,
  address: string
): Promise<{ token: string; expires: Date }> {
  const signInName = cleanText(name).trim().toLowerCase();
  const place = sha256(address);
  const { here, address: ofAddress, name: ofName } = counters();
  const known = await countAll(signInName, address).catch(async (refused: unknown) => {
    if (refused instanceof Problem && refused.code === 'too-many-tries') await noteLocked(signInName);
    throw refused;
  });
  const [account] = await accountOf(signInName);
  const matches = await verify(account?.password_hash ?? (await nobody), password);
  if (!account || !matches) {
    if (account)
      await inClinic(account.clinic_id, (tx) =>
        writeAudit(tx, { system: 'door' }, 'sign-in failed', signInName)
      );
    else await noteRefused(signInName, null, 'a name that nobody has');
    throw new Problem(
      'wrong-password',
      'Name and password don’t fit together.',
      'Check both and try again; capital letters count in the password.',
      401
    );
  }
  await inWords(async () => {
    await here.delete(keyHere(signInName, address));
    await ofAddress.reward(address);
    if (!known) await ofName.reward(signInName);
  });
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
    await tx.sql(
      `insert into known_place (clinic_id, user_id, address_hash) values ($1, $2, $3)
       on conflict (user_id, address_hash) do update set last_at = now()`,
      account.clinic_id,
      account.user_id,
      place
    );
    await writeAudit(tx, { session: sha256(token).toString('hex') }, 'signed in', signInName);
  });
  return { token, expires };
}

/** What was typed as a name may be a password: of one that nobody has, the audits of all clinics get the beginning. */
async function noteRefused(name: string, clinicId: string | null, reason: string): Promise<void> {
  if (clinicId) return noteRefusal(clinicId, null, name, reason);
  const clinics = await beforeClinic<{ clinic_id: string }>('select * from clinic_ids()');
  for (const { clinic_id } of clinics)
    noteRefusal(clinic_id, null, `${name.slice(0, 2)}… (${name.length} letters)`, reason);
}

async function noteLocked(name: string): Promise<void> {
  const [account] = await accountOf(name);
  await noteRefused(name, account?.clinic_id ?? null, 'signing in is locked');
}
