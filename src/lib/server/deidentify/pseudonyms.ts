import { createHmac, randomInt } from 'node:crypto';
import type { Tx } from '../database/connection';
import type { Pseudonym } from '../../core/deidentify/deidentify';

const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const nameLength = 7;
/** Dates go back by one to ten years. */
const leastShiftDays = 365;
const mostShiftDays = 3650;

/** A patient's pseudonym, made when it is first needed and the same from then on. */
export async function pseudonymOf(tx: Tx, patientId: string): Promise<Pseudonym> {
  const drawn = Array.from({ length: nameLength }, () => letters[randomInt(letters.length)]).join('');
  const shift = -randomInt(leastShiftDays, mostShiftDays);
  await tx.sql(
    `insert into pseudonym (patient_id, clinic_id, name, date_shift_days) values ($1, $2, $3, $4)
     on conflict (patient_id) do nothing`,
    patientId,
    tx.clinicId,
    `YT-${drawn}`,
    shift
  );
  const row = await tx.one<{ name: string; date_shift_days: number; secret: Buffer }>(
    `select p.name, p.date_shift_days, c.secret from pseudonym p join clinic c using (clinic_id) where patient_id = $1`,
    patientId
  );
  const { name, date_shift_days, secret } = row!;
  return { name, dateShiftDays: date_shift_days, replaceUid: (uid) => replacedUid(secret, uid) };
}

/** A UID that follows from the old one and the clinic's secret, and from which the old one can't be found. */
function replacedUid(secret: Buffer, uid: string): string {
  const digest = createHmac('sha256', secret).update(uid).digest('hex').slice(0, 32);
  return `2.25.${BigInt(`0x${digest}`)}`;
}
