import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { writeAudit } from '../audit/write';
import type { Sender } from '../arrivals/keeping';
import { beforeClinic, inClinic } from '../database/connection';
import { tokenOf } from '../devices/devices';
import { newId, newToken, sha256 } from '../ids';
import { type Caller, demand } from '../people/caller';
import { countTry, tries } from '../people/tries';
import { Problem } from '../problem';

/** A code is for the phone that is held before the screen at this moment. */
const codeMinutes = 10;
/** How long a phone may stay paired, in hours. */
export const pairingHours = [1, 12, 168] as const;
const signs = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const wrongCodesAllowed = 10;
const wrongCodesMinutes = 10;

export const pairingWish = z.strictObject({
  hours: z.number().refine((hours) => (pairingHours as readonly number[]).includes(hours), 'not offered')
});

export interface PairingCode {
  code: string;
  codeUntil: string;
  pairedUntil: string;
}

/** A code with which one phone may send pictures in this person's name for a while. */
export async function newPairing(
  caller: Caller,
  { hours }: z.infer<typeof pairingWish>
): Promise<PairingCode> {
  await demand(caller, 'bring in files', 'a phone');
  const code = Array.from({ length: 12 }, () => signs[randomInt(signs.length)]).join('');
  const now = Date.now();
  const codeUntil = new Date(now + codeMinutes * 60_000);
  const pairedUntil = new Date(now + hours * 3_600_000);
  await inClinic(caller.clinicId, async (tx) => {
    await tx.sql(
      `insert into phone (phone_id, clinic_id, user_id, code_hash, code_until, paired_until) values ($1, $2, $3, $4, $5, $6)`,
      newId(),
      tx.clinicId,
      caller.userId,
      sha256(code),
      codeUntil,
      pairedUntil
    );
    await tx.sql('delete from phone where code_until < now() and token_hash is null');
    await tx.sql(`delete from phone where paired_until < now() - interval '1 day'`);
  });
  return { code, codeUntil: codeUntil.toISOString(), pairedUntil: pairedUntil.toISOString() };
}

/** What a phone keeps of its pairing. */
export interface Paired {
  token: string;
  userId: string;
  name: string;
  clinic: string;
  until: string;
}

export const pairWish = z.object({ code: z.string().min(1).max(60) });

const wrongCode = () =>
  new Problem(
    'wrong-code',
    'This code is wrong, was used already, or is older than ten minutes.',
    'Show a fresh one on the clinic’s screen, under Arrivals.',
    401
  );
const tooManyCodes = () =>
  new Problem(
    'too-many-tries',
    `There were ${wrongCodesAllowed} tries with codes from this phone.`,
    `Wait ${wrongCodesMinutes} minutes, then show a fresh code.`,
    429
  );

/** A phone makes itself known with a code from the screen; it works once. */
export async function pairPhone({ code }: z.infer<typeof pairWish>, address: string): Promise<Paired> {
  await countTry(tries('phone', wrongCodesAllowed, wrongCodesMinutes), address, tooManyCodes());
  const hash = sha256(code.toUpperCase().replace(/[^A-Z0-9]/g, ''));
  const [row] = await beforeClinic<{ clinic_id: string }>('select * from clinic_of_phone_code($1)', hash);
  if (!row) throw wrongCode();
  const token = newToken();
  return inClinic(row.clinic_id, async (tx) => {
    const phone = await tx.one<{ phone_id: string; user_id: string; paired_until: Date }>(
      `update phone set token_hash = $2, paired_at = now() where code_hash = $1 and token_hash is null and code_until > now()
       returning phone_id, user_id, paired_until`,
      hash,
      sha256(token)
    );
    if (!phone) throw wrongCode();
    const who = await tx.one<{ display_name: string; clinic: string }>(
      `select u.display_name, c.name as clinic from user_account u join clinic c using (clinic_id) where u.user_id = $1`,
      phone.user_id
    );
    await writeAudit(tx, { device: sha256(token) }, 'phone paired', phone.phone_id);
    return {
      token,
      userId: phone.user_id,
      name: who!.display_name,
      clinic: who!.clinic,
      until: phone.paired_until.toISOString()
    };
  });
}

/** Who sends with a phone's token. @throws Problem when its pairing ended */
export async function senderOfPhone(authorization: string | null): Promise<Sender> {
  const token = tokenOf(authorization);
  const [row] = token
    ? await beforeClinic<{
        clinic_id: string;
        user_id: string;
        display_name: string;
        time_zone: string;
      }>('select * from phone_of_token($1)', sha256(token))
    : [];
  if (!row || !token) {
    throw new Problem(
      'pairing-over',
      'The pairing of this phone has ended.',
      'Nothing is lost: pair it again with a code from the clinic’s screen, and what waits is sent.',
      401
    );
  }
  return {
    clinicId: row.clinic_id,
    source: 'phone',
    name: row.display_name,
    roomId: null,
    userId: row.user_id,
    timeZone: row.time_zone,
    by: { device: sha256(token) }
  };
}
