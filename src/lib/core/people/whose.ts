import { nameAsRead } from '../arrivals/says';
import { dateInWords } from '../time/clinicTime';
import { plainLanguage } from '../time/language';
import type { Findable } from './matching';
import { foldedName, lettersApart, nameWords, sameFirstName } from './names';

/** What a file or a message says of whose it is; every part may be empty. */
export interface PersonSaid {
  /** A DICOM name, or one as it is spoken. */
  name: string;
  otherNames: readonly string[];
  id: string;
  /** Who gave the number; empty where nobody is named. */
  issuer: string;
  /** YYYY-MM-DD. */
  birthDate: string;
  sex: string;
  owner: string;
}

/** A patient of the clinic, with the names and numbers that they have or had elsewhere. */
export interface Candidate extends Findable {
  patientId: string;
  sex: string;
  /** Names and numbers of charts that were joined into this one. */
  formerly: readonly { givenName: string; familyName: string; recordNumber: string }[];
}

/** Whose something may be, and why: what speaks for it, and what against, in words. */
export interface Proposal {
  patientId: string;
  for: string[];
  against: string[];
  worth: number;
}

export interface Proposals {
  /** The likeliest first. */
  list: Proposal[];
  /** Set where one alone fits, by two things at least, and nothing speaks against it. */
  certain: boolean;
}

const worths = {
  number: 4,
  birthDate: 3,
  name: 3,
  accents: 3,
  order: 2.5,
  form: 2.5,
  former: 2.5,
  near: 1.5,
  initial: 1,
  swapped: 1.5,
  owner: 2,
  otherBirthDate: -3,
  otherSex: -1.5
} as const;
const leastWorth = 2.5;
const mostProposed = 5;

/**
 * Whose something is, among those whom it may be. Numbers count only where they are the clinic's own: nobody else is
 * named as their issuer.
 * @param issuers names under which the clinic gives numbers
 * @param language that dates are written in
 */
export function whoseItMayBe(
  said: PersonSaid,
  candidates: readonly Candidate[],
  issuers: readonly string[],
  language: string = plainLanguage
): Proposals {
  const list = candidates
    .map((candidate) => proposalOf(said, candidate, issuers, language))
    .filter(({ worth }) => worth >= leastWorth)
    .sort((a, b) => b.worth - a.worth)
    .slice(0, mostProposed);
  const [first, second] = list;
  const alone = first !== undefined && (second === undefined || second.worth <= first.worth - 2);
  return {
    list,
    certain: alone && first.against.length === 0 && first.for.length >= 2 && first.worth >= 5
  };
}

function proposalOf(
  said: PersonSaid,
  patient: Candidate,
  issuers: readonly string[],
  language: string
): Proposal {
  const inWords = (day: string) => dateInWords(day, language);
  const proposal: Proposal = { patientId: patient.patientId, for: [], against: [], worth: 0 };
  const count = (kind: keyof typeof worths, words: string) => {
    proposal.worth += worths[kind];
    if (words) (worths[kind] > 0 ? proposal.for : proposal.against).push(words);
  };
  number(said, patient, issuers, count);
  const name = likeliestName(said, patient);
  if (name) count(name.kind, name.words);
  if (said.birthDate && patient.birthDate) {
    if (said.birthDate === patient.birthDate) count('birthDate', 'the same birth date');
    else if (swapped(said.birthDate) === patient.birthDate)
      count('swapped', 'day and month of the birth date swapped');
    else count('otherBirthDate', `born ${inWords(patient.birthDate)}, not ${inWords(said.birthDate)}`);
  }
  if (/^[FM]$/.test(said.sex) && /^[FM]$/.test(patient.sex) && said.sex !== patient.sex)
    count('otherSex', `the file says ${said.sex === 'F' ? 'female' : 'male'}`);
  if (patient.kind === 'animal' && said.owner && patient.owner) {
    const [a, b] = [nameWords(said.owner), nameWords(patient.owner)];
    if (a.length > 0 && a.some((word) => b.includes(word))) count('owner', `owner ${patient.owner}`);
  }
  // A birth date alone is half a year's worth of people.
  if (!name && !proposal.for.includes('the same number')) proposal.worth = 0;
  return proposal;
}

type Count = (kind: keyof typeof worths, words: string) => void;

const plainNumber = (text: string): string => nameWords(text).join('');

function number(said: PersonSaid, patient: Candidate, issuers: readonly string[], count: Count): void {
  const wanted = plainNumber(said.id);
  if (wanted === '') return;
  const ours = said.issuer === '' || issuers.some((each) => foldedName(each) === foldedName(said.issuer));
  if (!ours) return;
  if (wanted === plainNumber(patient.recordNumber)) return count('number', 'the same number');
  const former = patient.formerly.find(({ recordNumber }) => wanted === plainNumber(recordNumber));
  if (former) count('number', `an earlier number of this chart, ${former.recordNumber}`);
}

interface Likeness {
  kind: 'name' | 'accents' | 'order' | 'form' | 'former' | 'near' | 'initial';
  words: string;
}

/** The best of the names that are said, in any of their scripts, against the patient's name and those before it. */
function likeliestName(said: PersonSaid, patient: Candidate): Likeness | null {
  const given = [said.name, ...said.otherNames].flatMap((name, i) =>
    name.split('=').map((group) => ({ group, other: i > 0 }))
  );
  const known = [
    { ...patient, former: false },
    ...patient.formerly.map((each) => ({ ...each, former: true }))
  ];
  const all = given.flatMap(({ group, other }) =>
    known.flatMap(({ givenName, familyName, former }) => {
      const like = likeName(group, { givenName, familyName }, patient.kind);
      if (!like) return [];
      if (former) return [{ kind: 'former' as const, words: `earlier called ${givenName} ${familyName}` }];
      return [other ? { ...like, words: `${like.words}, as another name in the file` } : like];
    })
  );
  return all.sort((a, b) => worths[b.kind] - worths[a.kind])[0] ?? null;
}

/** How one group of a name is like a patient's. `likeName('SKERROW^EWAN', ...)`. */
function likeName(
  group: string,
  patient: { givenName: string; familyName: string },
  kind: 'person' | 'animal'
): Likeness | null {
  const parted = group.includes('^');
  const [family, given] = parted ? group.split('^') : ['', ''];
  const spoken = group.replaceAll('^', ' ').trim();
  const words = nameWords(spoken);
  const [familyWords, givenWords] = [nameWords(patient.familyName), nameWords(patient.givenName)];
  if (words.length === 0) return null;
  if (kind === 'animal') {
    if (givenWords.length > 0 && givenWords.every((word) => words.includes(word)))
      return { kind: 'name', words: 'the same name' };
    return null;
  }
  const all = [...givenWords, ...familyWords];
  if (sorted(words) === sorted(all)) {
    const exact = (text: string) =>
      text
        .toLowerCase()
        .normalize('NFC')
        .replace(/[\s,]+/g, ' ')
        .trim();
    const bare = sorted(exact(spoken).split(' '));
    const same = bare === sorted(exact(`${patient.givenName} ${patient.familyName}`).split(' '));
    const inOrder = parted
      ? nameWords(family).join(' ') === familyWords.join(' ')
      : words.join(' ') === all.join(' ');
    if (!inOrder) return { kind: 'order', words: 'the same names, family name first' };
    return same
      ? { kind: 'name', words: 'the same name' }
      : { kind: 'accents', words: 'the same name, accents aside' };
  }
  const sides = parted
    ? [
        { first: nameWords(given)[0], last: nameWords(family) },
        { first: nameWords(family)[0], last: nameWords(given) }
      ]
    : [
        { first: words[0], last: words.slice(1) },
        { first: words.at(-1), last: words.slice(0, -1) },
        // With names between.
        { first: words[0], last: words.slice(-familyWords.length) }
      ];
  const [first] = givenWords;
  for (const { first: saidFirst, last } of sides) {
    if (!saidFirst || !first || last.join(' ') !== familyWords.join(' ')) continue;
    if (saidFirst === first) return { kind: 'name', words: 'the same name, with another between' };
    if (sameFirstName(saidFirst, first))
      return { kind: 'form', words: `${capital(saidFirst)} like ${patient.givenName}` };
    if (saidFirst.length === 1 && first.startsWith(saidFirst))
      return {
        kind: 'initial',
        words: `the same family name, ${capital(saidFirst)}. for ${patient.givenName}`
      };
    if (close(saidFirst, first)) return { kind: 'near', words: 'first name spelt nearly the same' };
  }
  for (const { first: saidFirst, last } of sides) {
    if (!saidFirst || !first || last.length !== familyWords.length || last.length === 0) continue;
    const alike = last.every((word, i) => word === familyWords[i] || close(word, familyWords[i]));
    if (!alike) continue;
    if (sameFirstName(saidFirst, first) || close(saidFirst, first))
      return { kind: 'near', words: `“${nameAsRead(group)}” is spelt nearly the same` };
  }
  // One of the parts of a double name left out.
  if (familyWords.length > 1 && first && words.some((word) => sameFirstName(word, first)))
    if (familyWords.some((word) => words.includes(word)))
      return { kind: 'near', words: 'part of the double name' };
  return null;
}

const sorted = (words: readonly string[]): string => [...words].sort().join(' ');
const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
const close = (a: string, b: string): boolean => {
  const most = Math.min(a.length, b.length) >= 6 ? 2 : 1;
  return Math.min(a.length, b.length) >= 4 && lettersApart(a, b, most) <= most;
};
const swapped = (day: string): string => `${day.slice(0, 4)}-${day.slice(8)}-${day.slice(5, 7)}`;
