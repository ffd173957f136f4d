import { initialsOf } from '../people/names';
import { type PaperNames, ageInWords } from '../report/paperHead';
import type { PatientBand } from '../visit/visitView';
import type { Colleague } from './colleague';

/** What a letter can be told by itself, and how it is called where it is put in. */
export const fieldWords = {
  patient: 'The patient’s name',
  born: 'Born on',
  age: 'How old',
  'record number': 'Record number',
  sex: 'Sex',
  species: 'Species',
  owner: 'Owner',
  to: 'Who it goes to',
  greeting: 'Greeting',
  address: 'Their address',
  today: 'Today',
  'visit day': 'Day of the visit',
  room: 'Room',
  reasons: 'Why, as picked',
  procedures: 'What was done, as picked',
  question: 'The question',
  history: 'What went before',
  plan: 'What is planned',
  colleague: 'Words for a colleague',
  findings: 'Findings',
  clinic: 'The clinic',
  'clinic address': 'The clinic’s address',
  author: 'Who writes it'
} as const;
export type LetterField = keyof typeof fieldWords;
export const letterFields = Object.keys(fieldWords) as LetterField[];
export const isLetterField = (name: string): name is LetterField => name in fieldWords;

/** Fields that tell who it is about: by initials they stay away. */
const telling: readonly LetterField[] = ['born', 'record number', 'owner'];
export const isKeptBack = (name: string, names: PaperNames): boolean =>
  names === 'initials' && (telling as readonly string[]).includes(name);

/** All that a letter is filled from, but its pictures. */
export interface LetterFacts {
  patient: PatientBand;
  to: Colleague | null;
  today: string;
  /** The same as a calendar day, YYYY-MM-DD. */
  todayDate: string;
  visitDay: string;
  room: string;
  reasons: readonly string[];
  procedures: readonly string[];
  texts: Readonly<Record<'question' | 'history' | 'plan' | 'colleague', string>>;
  findings: readonly string[];
  clinic: string;
  clinicAddress: string;
  author: string;
  dateWords: (date: string) => string;
}

/** What each field says now; empty where nothing has a value for it. */
export function fieldValues(facts: LetterFacts, names: PaperNames): Record<LetterField, string> {
  const { patient, to } = facts;
  const values: Record<LetterField, string> = {
    patient: names === 'full' ? patient.name : initialsOf(patient),
    born: patient.birthDate ? facts.dateWords(patient.birthDate) : '',
    age: patient.birthDate ? ageInWords(patient.birthDate, facts.todayDate) : '',
    'record number': patient.recordNumber,
    sex: patient.sex,
    species: patient.species ?? '',
    owner: patient.owner ?? '',
    to: to?.name ?? '',
    greeting: to?.greeting ?? '',
    address: to ? [to.practice, to.address].filter(Boolean).join('\n') : '',
    today: facts.today,
    'visit day': facts.visitDay,
    room: facts.room,
    reasons: facts.reasons.join('; '),
    procedures: facts.procedures.join('; '),
    ...facts.texts,
    findings: facts.findings.join('\n'),
    clinic: facts.clinic,
    'clinic address': facts.clinicAddress,
    author: facts.author
  };
  for (const name of letterFields) if (isKeptBack(name, names)) values[name] = '';
  return values;
}
