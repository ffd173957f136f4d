import { z } from 'zod';
import type { LeavingRule } from '../deidentify/rule';
import type { Versioned } from '../versioned';

/** How old whoever a case is about was, as closely as a case may say. */
export const ageBands = [
  'not said',
  'under 1',
  '1 to 5',
  '6 to 11',
  '12 to 17',
  '18 to 29',
  '30 to 44',
  '45 to 59',
  '60 to 74',
  '75 and over'
] as const;
export type AgeBand = (typeof ageBands)[number];
const bandStarts = [0, 1, 6, 12, 18, 30, 45, 60, 75];

/** The band that somebody was in on a day. @param born, on YYYY-MM-DD; null where the birth date is not known */
export function ageBandOn(born: string | null, on: string): AgeBand {
  if (!born) return 'not said';
  const years = Number(on.slice(0, 4)) - Number(born.slice(0, 4)) - (on.slice(5) < born.slice(5) ? 1 : 0);
  const at = bandStarts.findLastIndex((start) => years >= start);
  return at < 0 ? 'not said' : ageBands[at + 1];
}

export const codingSystems = ['SNOMED CT', 'ICD-10', 'ICD-11', 'The clinic’s own'] as const;

const diagnosis = z.strictObject({
  system: z.enum(codingSystems),
  code: z.string().trim().min(1, 'Enter the code.').max(40),
  words: z.string().trim().max(200)
});

const schema = z.strictObject({
  title: z.string().trim().min(1, 'Give the case a title.').max(120),
  /** What whoever looks may know at once. */
  description: z.string().trim().max(4_000),
  keyWords: z.array(z.string().trim().min(1).max(40)).max(20),
  ageBand: z.enum(ageBands),
  diagnosis: diagnosis.nullable(),
  /** What was found, hidden until it is asked for. */
  findings: z.string().trim().max(8_000)
});
export type CaseWords = z.infer<typeof schema>;
export const caseWords: Versioned<CaseWords> = { version: 1, schema, upcasters: {} };

/** So many pictures a case holds. */
export const mostCasePictures = 60;

/** The number that stands for a name and a record number in a case's pictures. */
export const caseNumber = (number: number): string => String(number).padStart(4, '0');

/** All that is written in a case, for looking through it. */
export const textOf = ({
  title,
  description,
  keyWords,
  ageBand,
  diagnosis: told,
  findings
}: CaseWords): string =>
  [
    title,
    description,
    ...keyWords,
    ageBand,
    told ? `${told.system} ${told.code} ${told.words}` : '',
    findings
  ]
    .filter(Boolean)
    .join('\n');

/** Which of the words hold what, for saying where something stands. */
export const partsOfWords = (words: CaseWords): [part: string, text: string][] => [
  ['the title', words.title],
  ['the description', words.description],
  ['the key words', words.keyWords.join(', ')],
  ['the diagnosis', words.diagnosis ? `${words.diagnosis.code} ${words.diagnosis.words}` : ''],
  ['the findings', words.findings]
];

/** What hides the answer as long as whoever looks wants to look first. */
export const quizTitle = 'What do you see?';

/** The rule that cases are made by where none is named: one that tells no dates and keeps drawings, as far as there is one. */
export function ruleForCases<T extends { rule: Pick<LeavingRule, 'dates' | 'graphics'> }>(
  rules: readonly T[]
): T | undefined {
  const drawn = rules.filter(({ rule }) => rule.graphics === 'cleaned');
  return drawn.find(({ rule }) => rule.dates === 'removed') ?? drawn[0] ?? rules[0];
}

export type CaseState = 'packing' | 'ready' | 'stopped';

/** A case as its spine and the contents page show it. */
export interface CaseSpine {
  caseId: string;
  number: number;
  state: CaseState;
  words: CaseWords;
  pictures: number;
  /** The first of its pictures, to be shown small; null until one is packed. */
  firstFile: string | null;
}

export interface CaseEntry {
  entryId: string;
  title: string;
  place: string;
  kind: string;
  width: number;
  height: number;
  frameMs: number | null;
  /** Left out of the case, and kept. */
  dropped: boolean;
  /** Whether it was packed. */
  ready: boolean;
  /** Files to look at, one a frame: as it is, and with what was drawn on it; the second empty where nothing is. */
  plain: string[];
  drawn: string[];
}

export interface CaseView extends CaseSpine {
  rule: string;
  by: string;
  madeAt: string;
  /** Why it is stopped. */
  why: string;
  /** Who let stand what was found in it, and why; empty where nobody did. */
  letGo: string;
  /** Where something was found that must not stand in it. */
  found: { what: string; words: string }[];
  entries: CaseEntry[];
}
