import { Op } from 'sequelize';
import { z } from 'zod';
import { daysMeant } from '../../core/people/birthDates';
import { nameWords } from '../../core/people/names';
import { dayOf, dayRange } from '../../core/time/clinicTime';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { countTry, tries } from '../people/tries';
import { Problem } from '../problem';
import { allStanding } from '../visits/joining';
import { Patient } from '../visits/patientModel';
import { Visit } from '../visits/visitModel';

/** What a practice system's link says: a number, and what it thinks it knows of whose it is. */
export const launchWish = z.object({
  /** "issuer|value" as FHIR writes tokens, or the value alone. */
  identifier: z.string().trim().min(1).max(200),
  name: z.string().trim().max(200).default(''),
  birthDate: z.string().trim().max(20).default('')
});
export type LaunchWish = z.infer<typeof launchWish>;

const wrongDays = 5;
const wrongMinutes = 10;

/** Where the link leads, or why somebody has to look first. Who they are is not told before the birth date is. */
export type Launched = { kind: 'open'; to: string } | { kind: 'doubt'; why: string } | { kind: 'nobody' };

/** Those whom the number may mean: of the issuer that the link names, else a record or national number. */
async function candidates(tx: Tx, identifier: string): Promise<Patient[]> {
  const at = identifier.lastIndexOf('|');
  const value = identifier.slice(at + 1);
  const rows = await tx.sql<{ patient_id: string }>(
    `select patient_id from identifier where clinic_id = $1 and value = $2 and ($3 = '' or issuer = $3)`,
    tx.clinicId,
    value,
    at > 0 ? identifier.slice(0, at) : ''
  );
  const known = rows.map((row) => row.patient_id);
  if (at > 0 && known.length > 0)
    return allStanding(
      tx,
      await Patient.findAll({ where: { patientId: { [Op.in]: known } }, ...within(tx) })
    );
  const found = await Patient.findAll({
    where: {
      [Op.or]: [{ patientId: { [Op.in]: known } }, { recordNumber: value }, { nationalNumber: value }]
    },
    limit: 20,
    ...within(tx)
  });
  return allStanding(tx, found);
}

/** Whether every word of one name is in the other: a middle name more or less is the same person. */
function sameName(name: string, { givenName, familyName }: Patient): boolean {
  const [a, b] = [nameWords(name), nameWords(`${givenName} ${familyName}`)];
  const [fewer, more] = a.length <= b.length ? [a, b] : [b, a];
  return fewer.every((word) => more.includes(word));
}

function doubtOf({ name, birthDate }: LaunchWish, found: readonly Patient[]): string {
  if (found.length > 1) return `${found.length} patients here have this number.`;
  const [one] = found;
  if (birthDate !== '' && one.birthDate !== birthDate)
    return 'The link names another birth date than the chart with this number.';
  if (name !== '' && !sameName(name, one))
    return 'The link names somebody else than the chart with this number.';
  return '';
}

/** The visit of today, where there is one; else the chart. Opening a link never begins anything. */
async function whereTo(tx: Tx, caller: Caller, patientId: string): Promise<string> {
  const { start, end } = dayRange(dayOf(new Date(), caller.timeZone), caller.timeZone);
  const visit = await Visit.findOne({
    where: { patientId, openedAt: { [Op.gte]: start, [Op.lt]: end } },
    order: [['openedAt', 'desc']],
    ...within(tx)
  });
  return visit ? `/visits/${visit.visitId}/acquire` : `/patients/${patientId}`;
}

/** Follows a link of the practice system. Where it could mean somebody else, nothing opens. */
export async function followLink(caller: Caller, wish: LaunchWish): Promise<Launched> {
  await demand(caller, 'view charts', 'a link');
  return inClinic(caller.clinicId, async (tx) => {
    const found = await candidates(tx, wish.identifier);
    if (found.length === 0) return { kind: 'nobody' };
    const why = doubtOf(wish, found);
    if (why !== '') return { kind: 'doubt', why };
    const [{ patientId }] = found;
    await writeAudit(tx, caller, 'opened by link', patientId, { patientId });
    return { kind: 'open', to: await whereTo(tx, caller, patientId) };
  });
}

/** Clears a doubt by the birth date, which whoever asks has from the patient. @throws Problem for one that fits nobody */
export async function clearDoubt(
  caller: Caller,
  wish: LaunchWish & { born: string }
): Promise<{ to: string }> {
  await demand(caller, 'view charts', 'a link');
  const tooMany = new Problem(
    'too-many-tries',
    `There were ${wrongDays} birth dates that fit nobody.`,
    'Look the patient up by name instead.',
    429
  );
  const limit = tries('launch', wrongDays, wrongMinutes);
  await countTry(limit, caller.userId, tooMany);
  const readings = daysMeant(wish.born, new Date().getFullYear());
  // With points between them the day comes first, as the page asks for it.
  const days = wish.born.includes('.') ? readings.slice(0, 1) : readings;
  // Whoever fits one reading by chance is not opened by the other.
  if (days.length > 1) {
    throw new Problem(
      'two-readings',
      `This birth date can be read as ${days.join(' or as ')}.`,
      'Write the month as a word: 3 Apr 1980.',
      409
    );
  }
  return inClinic(caller.clinicId, async (tx) => {
    const found = await candidates(tx, wish.identifier);
    const fitting = found.filter(({ birthDate }) => birthDate !== null && days.includes(birthDate));
    if (fitting.length !== 1) {
      throw new Problem(
        'no-such-birth-date',
        fitting.length === 0
          ? 'Nobody with this number was born on that day.'
          : 'More than one with this number was born on that day.',
        'Ask for the birth date again, or look the patient up by name.',
        409
      );
    }
    const [{ patientId }] = fitting;
    await limit.delete(caller.userId).catch(() => {});
    await writeAudit(tx, caller, 'opened by link', patientId, { patientId, doubt: doubtOf(wish, found) });
    return { to: await whereTo(tx, caller, patientId) };
  });
}
