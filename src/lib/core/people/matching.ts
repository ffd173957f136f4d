import { daysMeant } from './birthDates';
import { lettersApart, nameWords, otherForms, sameFirstName } from './names';

/** What is known of a patient, as far as finding one goes. */
export interface Findable {
  kind: 'person' | 'animal';
  givenName: string;
  familyName: string;
  birthDate: string | null;
  recordNumber: string;
  species: string | null;
  breed: string | null;
  owner: string | null;
}

/** One word that was typed, with everything that it may stand for. */
export interface Wanted {
  typed: string;
  /** Folded words, one of which a word of the patient has to begin with. */
  words: string[];
  /** Birth dates that it may be. */
  days: string[];
}

/** Sentences of no more words are looked for: whoever types more is not looking for a person. */
const mostWords = 6;

/**
 * What was typed, in parts: a day in any usual form is one part, however many words it takes. `wantedIn('liz 14 mar
 * 1987', 2026)` is two parts.
 */
export function wantedIn(text: string, thisYear: number): Wanted[] {
  const words = text.trim().split(/\s+/).filter(Boolean).slice(0, mostWords);
  const parts: Wanted[] = [];
  for (let i = 0; i < words.length;) {
    const lengths = [3, 2, 1].filter((length) => i + length <= words.length);
    const asDay = lengths.find(
      (length) => daysMeant(words.slice(i, i + length).join(' '), thisYear).length > 0
    );
    if (asDay) {
      const typed = words.slice(i, i + asDay).join(' ');
      parts.push({ typed, words: asDay === 1 ? nameWords(typed) : [], days: daysMeant(typed, thisYear) });
      i += asDay;
    } else {
      for (const word of nameWords(words[i]))
        parts.push({ typed: word, words: [word, ...otherForms(word)], days: [] });
      i += 1;
    }
  }
  return parts;
}

/** Where a part was found, the surest first; null where it was not. */
function foundIn(wanted: Wanted, patient: Findable): { rank: number; why: string } | null {
  if (patient.birthDate && wanted.days.includes(patient.birthDate)) return { rank: 0, why: 'birth date' };
  const begins = (text: string | null, word: string) =>
    nameWords(text ?? '').some((each) => each.startsWith(word));
  const number = nameWords(patient.recordNumber).join('');
  const [typed, ...others] = wanted.words;
  if (typed === undefined) return null;
  if (begins(patient.familyName, typed) || begins(patient.givenName, typed)) return { rank: 0, why: '' };
  if (number.includes(typed) || begins(patient.recordNumber, typed)) return { rank: 0, why: 'number' };
  if (typed.length === 4 && patient.birthDate?.startsWith(typed)) return { rank: 1, why: `born ${typed}` };
  const form = others.find((word) => nameWords(patient.givenName).includes(word));
  if (form) return { rank: 1, why: `${wanted.typed} for ${patient.givenName}` };
  if (begins(patient.owner, typed)) return { rank: 2, why: `owner ${patient.owner}` };
  const ownerForm = others.some((word) => nameWords(patient.owner ?? '').includes(word));
  if (ownerForm) return { rank: 3, why: `owner ${patient.owner}` };
  if (begins(patient.species, typed) || begins(patient.breed, typed))
    return { rank: 3, why: patient.species ?? '' };
  return null;
}

/** Why a patient fits what was typed, and how well (less is better); null where a part fits nowhere. */
export function whyFound(
  wanted: readonly Wanted[],
  patient: Findable
): { rank: number; why: string[] } | null {
  let rank = 0;
  const why = new Set<string>();
  for (const each of wanted) {
    const found = foundIn(each, patient);
    if (!found) return null;
    rank += found.rank;
    if (found.why) why.add(found.why);
  }
  return { rank, why: [...why] };
}

/**
 * Why somebody who is to be entered may be this patient, in words; empty where nothing speaks for it. A birth date alone
 * says nothing, nor a common name alone; the same number does.
 */
export function whyDouble(fresh: Findable, known: Findable): string[] {
  if (fresh.kind !== known.kind) return [];
  const number = (text: string) => nameWords(text).join('');
  if (fresh.recordNumber !== '' && number(fresh.recordNumber) === number(known.recordNumber))
    return ['the same number'];
  const sameDay = fresh.birthDate !== null && fresh.birthDate === known.birthDate;
  const name = likeName(fresh, known);
  if (fresh.kind === 'animal') {
    const sameOwner = namesAlike(nameWords(fresh.owner ?? ''), nameWords(known.owner ?? ''));
    return name && sameOwner ? [name, 'the same owner'] : [];
  }
  if (!name) return [];
  if (sameDay) return [name, 'the same birth date'];
  const days = [fresh.birthDate, known.birthDate];
  if (days.includes(null)) return [name, 'one birth date is not known'];
  return swappedDay(days[0]!) === days[1] ? [name, 'day and month of the birth date swapped'] : [];
}

const swappedDay = (day: string): string => `${day.slice(0, 4)}-${day.slice(8)}-${day.slice(5, 7)}`;

const mostApart = 2;
const wordsAlike = (a: string, b: string): boolean =>
  a === b || (Math.min(a.length, b.length) >= 5 && lettersApart(a, b, mostApart) <= mostApart);
const namesAlike = (a: readonly string[], b: readonly string[]): boolean =>
  a.length > 0 && b.length > 0 && a.every((word) => b.some((other) => wordsAlike(word, other)));

/** How two names are alike: the same, with a short first name, in the other order, or a few letters apart. */
function likeName(a: Findable, b: Findable): string | null {
  const [givenA, givenB] = [nameWords(a.givenName), nameWords(b.givenName)];
  const [familyA, familyB] = [nameWords(a.familyName), nameWords(b.familyName)];
  const all = (given: string[], family: string[]) => [...given, ...family].sort().join(' ');
  if (givenA.join(' ') === givenB.join(' ') && familyA.join(' ') === familyB.join(' '))
    return 'the same name';
  if (all(givenA, familyA) === all(givenB, familyB)) return 'the same names in another order';
  const firsts = givenA.length > 0 && givenB.length > 0 && sameFirstName(givenA[0], givenB[0]);
  if (firsts && familyA.join(' ') === familyB.join(' '))
    return 'the same family name, a form of the first name';
  const close = namesAlike([...givenA.slice(0, 1), ...familyA], [...givenB.slice(0, 1), ...familyB]);
  return close || (firsts && namesAlike(familyA, familyB)) ? 'a name spelt nearly the same' : null;
}
