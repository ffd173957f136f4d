import { z } from 'zod';
import { shortened } from '../../core/text';
import type { FoundPatient } from '../../core/people/foundPatient';
import { type Findable, wantedIn, whyDouble, whyFound } from '../../core/people/matching';
import { nameWords } from '../../core/people/names';
import { noteLook } from '../audit/looks';
import { type Tx, inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Patient } from './patientModel';
import { standing } from './joining';
import { bandOf, fullName } from './visitHead';

const mostShown = 12;
/** So many are looked at closely; whoever has more namesakes types one word more. */
const mostLooked = 300;

/** Patients who have a word beginning as one of the forms of every part. */
export async function withWords(tx: Tx, parts: readonly (readonly string[])[]): Promise<Patient[]> {
  const rows = await tx.sql<{ patient_id: string }>(
    'select patient_id from find_patients($1, $2::jsonb, $3)',
    tx.clinicId,
    JSON.stringify(parts),
    mostLooked
  );
  return Patient.findAll({ where: { patientId: rows.map((row) => row.patient_id) }, ...within(tx) });
}

/**
 * Patients that fit everything that was typed: names in any order and form, number, owner, birth date in any usual way.
 * The best first, each with why it fits.
 */
export async function findPatients(caller: Caller, words: string, now = new Date()): Promise<FoundPatient[]> {
  await demand(caller, 'view charts', 'search');
  const wanted = wantedIn(words, now.getFullYear());
  // One letter fits nearly everybody.
  if (wanted.length === 0 || wanted.every(({ typed }) => typed.length < 2)) return [];
  return inClinic(caller.clinicId, async (tx) => {
    const patients = await withWords(
      tx,
      wanted.map((each) => [...each.words, ...each.days])
    );
    const found = patients
      .flatMap((patient) => {
        const fits = whyFound(wanted, patient);
        return fits ? [{ patient, ...fits }] : [];
      })
      .sort(
        (a, b) =>
          a.rank - b.rank ||
          a.patient.familyName.localeCompare(b.patient.familyName) ||
          a.patient.givenName.localeCompare(b.patient.givenName)
      )
      .slice(0, mostShown);
    noteLook(caller, 'searched', shortened(words.trim(), 80), {
      key: 'search',
      details: { found: found.length }
    });
    return atTheirCharts(tx, found);
  });
}

/** Who was joined into another chart is found there, once, with the name and number by which they were looked for. */
async function atTheirCharts(
  tx: Tx,
  found: readonly { patient: Patient; why: string[] }[]
): Promise<FoundPatient[]> {
  const byId = new Map<string, FoundPatient>();
  for (const { patient, why } of found) {
    const kept = await standing(tx, patient);
    if (byId.has(kept.patientId)) continue;
    const once = kept === patient ? [] : [`also ${fullName(patient)}, ${patient.recordNumber}`];
    byId.set(kept.patientId, { ...bandOf(kept), why: [...once, ...why] });
  }
  return [...byId.values()];
}

const name = z.string().trim().max(80).default('');
/** A new patient as somebody enters them. */
export const freshPatient = z
  .strictObject({
    kind: z.enum(['person', 'animal']),
    givenName: name,
    familyName: name,
    birthDate: z.iso.date().nullable().default(null),
    sex: z.enum(['', 'F', 'M', 'O']).default(''),
    recordNumber: z.string().trim().max(40).default(''),
    nationalNumber: z.string().trim().max(40).default(''),
    species: z.string().trim().max(60).nullable().default(null),
    breed: z.string().trim().max(60).nullable().default(null),
    owner: z.string().trim().max(120).nullable().default(null),
    alert: z.string().trim().max(120).nullable().default(null)
  })
  .refine(
    (asked) => asked.kind === 'animal' || (asked.givenName !== '' && asked.familyName !== ''),
    'A person has a first and a family name.'
  )
  .refine(
    ({ kind, birthDate, recordNumber, nationalNumber }) =>
      kind === 'animal' || birthDate !== null || recordNumber !== '' || nationalNumber !== '',
    'A person needs a birth date, a record number or a national number.'
  )
  .refine(
    ({ kind, recordNumber, species }) => kind === 'person' || (recordNumber !== '' && Boolean(species)),
    'An animal needs a record number and a species.'
  );
export type FreshPatient = z.infer<typeof freshPatient>;

/** Patients who may be the one that is to be entered, each with why, the likeliest first. */
export async function doublesOf(tx: Tx, fresh: FreshPatient): Promise<FoundPatient[]> {
  const findable: Findable = fresh;
  const family = nameWords(fresh.familyName);
  const given = nameWords(fresh.givenName);
  const start = (word: string | undefined) => (word ? [word.slice(0, 3)] : []);
  // Anyone who begins alike, was born the same day or has the number: few enough to look at closely.
  const asked: string[][][] = [
    ...(fresh.recordNumber ? [[[nameWords(fresh.recordNumber).join('')]]] : []),
    ...(family.length > 0 ? [[start(family[0])]] : []),
    ...(given.length > 0 ? [[start(given[0])]] : []),
    ...(fresh.birthDate ? [[[fresh.birthDate]]] : [])
  ];
  const byId = new Map<string, Patient>();
  for (const parts of asked)
    for (const patient of await withWords(tx, parts)) byId.set(patient.patientId, patient);
  const doubles = [...byId.values()]
    .map((patient) => ({ patient, why: whyDouble(findable, patient) }))
    .filter(({ why }) => why.length > 0)
    .sort((a, b) => b.why.length - a.why.length)
    .slice(0, mostShown);
  return atTheirCharts(tx, doubles);
}
