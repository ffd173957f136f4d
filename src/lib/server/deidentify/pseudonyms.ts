import { createHmac } from 'node:crypto';
import type { Pseudonym } from '../../core/deidentify/deidentify';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';

const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const nameLength = 7;
/** Dates go back by one to ten years. */
const leastShiftDays = 365;
const mostShiftDays = 3650;
/** Where times are moved too, by so much at most, either way. */
const mostClockSeconds = 4 * 3600;
/** Two patients have drawn one name: the next is tried, so often. */
const mostDraws = 20;

/** What follows from the clinic's secret, from what it is for and for whom; nobody without the secret can go back. */
const keyed = (secret: Buffer, ...of: string[]): Buffer =>
  createHmac('sha256', secret).update(of.join('\n')).digest();

interface Row {
  name: string;
  date_shift_days: number;
  clock_shift_seconds: number;
}

/**
 * A patient's pseudonym for a purpose: it follows from the clinic's key, and is noted when it is first used, so that it
 * can be looked up.
 */
export async function pseudonymOf(tx: Tx, patientId: string, purpose: string): Promise<Pseudonym> {
  const { secret } = (await tx.one<{ secret: Buffer }>(
    'select secret from clinic where clinic_id = $1',
    tx.clinicId
  ))!;
  const row = (await noted(tx, patientId, purpose)) ?? (await note(tx, secret, patientId, purpose));
  return {
    name: row.name,
    dateShiftDays: row.date_shift_days,
    clockShiftSeconds: row.clock_shift_seconds,
    replaceUid: (uid) => replacedUid(secret, purpose, uid)
  };
}

const noted = (tx: Tx, patientId: string, purpose: string): Promise<Row | undefined> =>
  tx.one<Row>(
    `select name, date_shift_days, clock_shift_seconds from pseudonym
     where clinic_id = $1 and purpose = $2 and patient_id = $3`,
    tx.clinicId,
    purpose,
    patientId
  );

async function note(tx: Tx, secret: Buffer, patientId: string, purpose: string): Promise<Row> {
  const shift = keyed(secret, 'shift', purpose, patientId);
  const days = leastShiftDays + (shift.readUInt32BE(0) % (mostShiftDays - leastShiftDays));
  const clock = (shift.readUInt32BE(4) % (2 * mostClockSeconds + 1)) - mostClockSeconds;
  for (let draw = 0; draw < mostDraws; draw++) {
    const drawn = keyed(secret, 'name', purpose, patientId, String(draw));
    const name = `YT-${[...drawn.subarray(0, nameLength)].map((byte) => letters[byte % letters.length]).join('')}`;
    await tx.sql(
      `insert into pseudonym (patient_id, clinic_id, purpose, name, date_shift_days, clock_shift_seconds)
       values ($1, $2, $3, $4, $5, $6) on conflict do nothing`,
      patientId,
      tx.clinicId,
      purpose,
      name,
      -days,
      clock
    );
    const row = await noted(tx, patientId, purpose);
    if (row) return row;
  }
  throw new Error('no pseudonym was free');
}

/** A UID that follows from the old one and the clinic's secret, and from which the old one can't be found. */
function replacedUid(secret: Buffer, purpose: string, uid: string): string {
  const digest = createHmac('sha256', secret)
    .update(purpose === '' ? uid : `${purpose}\n${uid}`)
    .digest('hex')
    .slice(0, 32);
  return `2.25.${BigInt(`0x${digest}`)}`;
}

/** Who a pseudonym stands for, and by which rule. */
export interface Unveiled {
  name: string;
  rule: string;
  patientId: string;
  patient: string;
  recordNumber: string;
}

/** Who is who: for administrators alone, and each time in the audit. */
export async function whoIs(caller: Caller, asked: string): Promise<Unveiled[]> {
  await demand(caller, 'read the audit', 'pseudonyms');
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<Unveiled & { purpose: string }>(
      `select s.name, coalesce(r.name, '') as rule, p.patient_id as "patientId", p.record_number as "recordNumber",
         trim(p.given_name || ' ' || p.family_name) as patient
       from pseudonym s join patient p on p.clinic_id = s.clinic_id and p.patient_id = s.patient_id
       left join leaving_rule r on r.clinic_id = s.clinic_id and r.purpose = s.purpose
       where s.clinic_id = $1 and upper(s.name) = upper($2) limit 20`,
      tx.clinicId,
      asked.trim()
    );
    await writeAudit(tx, caller, 'pseudonym looked up', asked.trim().slice(0, 40), {
      patientId: rows[0]?.patientId ?? null,
      found: rows.length
    });
    return rows;
  });
}
