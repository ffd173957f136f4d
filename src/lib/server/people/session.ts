import { beforeClinic, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { writeAudit } from '../audit/write';
import { sha256 } from '../ids';
import type { Caller } from './caller';

/** Who a session's token belongs to; null when it is over or was never given. */
export async function callerOfSession(token: string): Promise<Caller | null> {
  const [row] = await beforeClinic<{
    user_id: string;
    clinic_id: string;
    role: Caller['role'];
    display_name: string;
    clinic_name: string;
    notation: Caller['notation'];
    time_zone: string;
    language: string;
  }>('select * from caller_of_session($1)', sha256(token));
  if (!row) return null;
  return {
    userId: row.user_id,
    session: sha256(token).toString('hex'),
    clinicId: row.clinic_id,
    role: row.role,
    name: row.display_name,
    clinicName: row.clinic_name,
    notation: row.notation,
    timeZone: row.time_zone,
    language: row.language
  };
}

export async function signOut(caller: Caller, token: string): Promise<void> {
  await inClinic(caller.clinicId, async (tx) => {
    await writeAudit(tx, caller, 'signed out', caller.name);
    await tx.sql('delete from user_session where token_hash = $1', sha256(token));
    await announce(tx, { topic: 'session-over', session: caller.session });
  });
}
