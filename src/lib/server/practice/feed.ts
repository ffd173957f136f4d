import type { PracticeAppointment, PracticePatient } from '../../core/fhir/day';
import { shortened } from '../../core/text';
import { dayAfter, dayOf, dayRange } from '../../core/time/clinicTime';
import { writeAudit } from '../audit/write';
import { openRooms } from '../clinics/rooms';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { log } from '../log';
import { announce } from '../news/announce';
import { Appointment } from '../visits/appointmentModel';
import { standing } from '../visits/joining';
import { Patient } from '../visits/patientModel';
import { PracticeAway, practiceDay } from './asking';
import { oweTellingOf } from './telling';

/** Days that are asked for, today among them. */
const daysAhead = 2;
const longestReason = 200;

interface Practice {
  name: string;
  url: string;
  timeZone: string;
}

const practiceOf = (tx: Tx): Promise<Practice | undefined> =>
  tx.one(
    `select p.name, p.url, c.time_zone as "timeZone" from practice_system p join clinic c using (clinic_id)
     where p.clinic_id = $1`,
    tx.clinicId
  );

/** The patient of ours that one of theirs is: by a number that is known to be of both. */
async function knownAs(tx: Tx, { identifiers }: PracticePatient): Promise<string | null> {
  for (const { issuer, value } of identifiers) {
    const row = await tx.one<{ patient_id: string }>(
      'select patient_id from identifier where clinic_id = $1 and issuer = $2 and value = $3',
      tx.clinicId,
      issuer,
      value
    );
    if (row) return row.patient_id;
  }
  return null;
}

/**
 * The patient of ours, found or entered. Nobody is taken for somebody who has the same record number and was born on
 * another day: then nothing is made of it, and a person has to look.
 */
async function patientFor(tx: Tx, practice: Practice, theirs: PracticePatient): Promise<string | null> {
  const known = await knownAs(tx, theirs);
  if (known) return known;
  const numbers = theirs.identifiers.map(({ value }) => value);
  const [recordNumber] = numbers;
  if (!recordNumber || (theirs.givenName === '' && theirs.familyName === '')) return null;
  const same = await Patient.findOne({ where: { recordNumber }, ...within(tx) });
  if (same && same.birthDate !== theirs.birthDate) return null;
  const patientId = same ? (await standing(tx, same)).patientId : newId();
  if (!same) {
    const { kind, givenName, familyName, birthDate, sex, species, breed, owner } = theirs;
    const its = { kind, givenName, familyName, birthDate, sex, species, breed, owner };
    await Patient.create({ patientId, clinicId: tx.clinicId, recordNumber, alert: null, ...its }, within(tx));
    await writeAudit(tx, { system: 'practice system' }, 'patient entered', patientId, {
      patientId,
      from: practice.name
    });
  }
  for (const { issuer, value } of theirs.identifiers)
    await tx.sql(
      'insert into identifier (clinic_id, issuer, value, patient_id) values ($1, $2, $3, $4) on conflict do nothing',
      tx.clinicId,
      issuer,
      value,
      patientId
    );
  await oweTellingOf(tx, patientId);
  return patientId;
}

/** @returns whether anything is otherwise than it was */
async function placed(
  tx: Tx,
  appointment: PracticeAppointment,
  { patientId, roomId }: { patientId: string; roomId: string }
): Promise<boolean> {
  const known = await Appointment.findOne({
    where: { practiceId: appointment.id },
    lock: true,
    ...within(tx)
  });
  if (appointment.off) {
    // What was begun stays: there is a visit with pictures behind it.
    if (!known || known.visitId) return false;
    await known.destroy(within(tx));
    return true;
  }
  const reason = shortened(appointment.reason, longestReason);
  const now = {
    patientId,
    roomId,
    startsAt: new Date(appointment.startsAt),
    minutes: appointment.minutes,
    reason
  };
  if (!known) {
    const its = { appointmentId: newId(), clinicId: tx.clinicId, practiceId: appointment.id };
    await Appointment.create({ ...its, ...now }, within(tx));
    return true;
  }
  // Whose visit it is never changes under the hands of who works on it.
  const next = known.visitId ? { ...now, patientId: known.patientId } : now;
  const same =
    known.patientId === next.patientId &&
    known.roomId === next.roomId &&
    known.startsAt.getTime() === next.startsAt.getTime() &&
    known.minutes === next.minutes &&
    known.reason === next.reason;
  if (!same) await known.update(next, within(tx));
  return !same;
}

/** Appointments that the practice system no longer has, and that nobody has begun. */
async function dropGone(tx: Tx, day: string, timeZone: string, listed: readonly string[]): Promise<boolean> {
  const { start, end } = dayRange(day, timeZone);
  const gone = await tx.sql(
    `delete from appointment where clinic_id = $1 and practice_id is not null and visit_id is null
       and starts_at >= $2 and starts_at < $3 and not (practice_id = any($4::text[])) returning 1`,
    tx.clinicId,
    start,
    end,
    listed
  );
  return gone.length > 0;
}

/** Takes in one day as the practice system has it. @returns how many appointments could not be placed */
async function takeDay(clinicId: string, practice: Practice, day: string): Promise<number> {
  const { patients, appointments, unread } = await practiceDay(practice.url, day, practice.timeZone);
  return inClinic(clinicId, async (tx) => {
    const rooms = new Map((await openRooms(tx)).map(({ name, roomId }) => [name.toLowerCase(), roomId]));
    const listed = appointments.map(({ id }) => id);
    // What can't be read may be one that we have: then nothing counts as gone.
    let changed = unread === 0 && (await dropGone(tx, day, practice.timeZone, listed));
    let unplaced = unread;
    for (const appointment of appointments) {
      const theirs = patients.get(appointment.patient);
      const roomId = rooms.get(appointment.room.toLowerCase());
      const patientId = theirs && roomId ? await patientFor(tx, practice, theirs) : null;
      if (!patientId || !roomId) unplaced += 1;
      else if (await placed(tx, appointment, { patientId, roomId })) changed = true;
    }
    if (changed) await announce(tx, { topic: 'day' });
    return unplaced;
  });
}

/** Asks a clinic's practice system, if it has one, for the next days. What is wrong is kept in words, with the last list. */
export async function readPractice(clinicId: string, now = new Date()): Promise<void> {
  const practice = await inClinic(clinicId, practiceOf);
  if (!practice) return;
  const today = dayOf(now, practice.timeZone);
  let unplaced = 0;
  let problem = '';
  try {
    for (let i = 0; i < daysAhead; i++) unplaced += await takeDay(clinicId, practice, dayAfter(today, i));
  } catch (error) {
    if (!(error instanceof PracticeAway)) log.error({ err: error }, 'the practice system could not be read');
    problem = error instanceof PracticeAway ? error.message : 'What it answered could not be taken in.';
  }
  await inClinic(clinicId, async (tx) => {
    const before = await tx.one<{ problem: string; unplaced: number; heard_at: Date | null }>(
      'select problem, unplaced, heard_at from practice_system where clinic_id = $1 for update',
      clinicId
    );
    await tx.sql(
      `update practice_system set problem = $2, heard_at = case when $2 = '' then now() else heard_at end,
         unplaced = case when $2 = '' then $3::int else unplaced end where clinic_id = $1`,
      clinicId,
      problem,
      unplaced
    );
    const first = problem === '' && before?.heard_at === null;
    if (first || before?.problem !== problem || (problem === '' && before.unplaced !== unplaced))
      await announce(tx, { topic: 'day' });
  });
}

/** How the list of the day came, for the page that shows it. */
export interface PracticeState {
  name: string;
  heardAt: string | null;
  problem: string;
  /** Appointments that could not be placed: no such room, or a number that is somebody else's here. */
  unplaced: number;
}

export async function practiceState(tx: Tx): Promise<PracticeState | null> {
  const row = await tx.one<{ name: string; heard_at: Date | null; problem: string; unplaced: number }>(
    'select name, heard_at, problem, unplaced from practice_system where clinic_id = $1',
    tx.clinicId
  );
  if (!row) return null;
  const { name, problem, unplaced } = row;
  return { name, heardAt: row.heard_at?.toISOString() ?? null, problem, unplaced };
}
