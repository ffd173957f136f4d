import { lettersApart, nameWords, otherForms } from '../people/names';
import { type DataElement, type Dataset, isSequence } from '../dicom/dataset';
import { attributeName, entryFor } from '../dicom/dictionary';

/** Elements whose values are the standard's own words or numbers, or were made just now: no name can stand there. */
const standardsOwn = new Set(
  ['CodeValue', 'CodingSchemeDesignator', 'CodeMeaning', 'PatientName', 'PatientID'].map(
    (keyword) => entryFor(keyword).tag
  )
);
const textual = new Set(['AE', 'CS', 'LO', 'LT', 'PN', 'SH', 'ST', 'UC', 'UR', 'UT', 'AS']);

/** Letters and digits only, without accents and capitals; what parts words is a blank. */
const folded = (text: string): string => nameWords(text).join(' ');

/** Shorter words are looked for as whole words only: they stand in many others. */
const shortest = 4;
/** From so many letters on they hardly stand in another word by chance, and are found anywhere in one. */
const rareFrom = 6;

/**
 * What points to a person, as it is looked for: each part of names with its short and long forms, numbers as one, and
 * days in every order they are written in. Of what is no word or number nothing is looked for.
 * @param names names in any order and writing @param numbers record, accession and other numbers
 * @param days of birth, YYYY-MM-DD or YYYYMMDD
 */
export function identityTerms(
  names: readonly string[],
  numbers: readonly string[],
  days: readonly string[] = []
): string[] {
  const parts = names.flatMap((name) => folded(name).split(' '));
  const forms = parts.flatMap((part) => otherForms(part));
  return [
    ...new Set(
      [...parts, ...forms, ...numbers.map(folded), ...days.flatMap(writingsOfDay)].filter(
        (term) => term !== ''
      )
    )
  ];
}

/** A day as people write it, folded: with the year first or last, the month before or after the day. */
function writingsOfDay(day: string): string[] {
  const match = /^(\d{4})-?(\d{2})-?(\d{2})$/.exec(day.trim());
  if (!match) return [];
  const [, year, month, date] = match;
  const short = (part: string) => String(Number(part));
  const months =
    [
      ['jan', 'january'],
      ['feb', 'february'],
      ['mar', 'march'],
      ['apr', 'april'],
      ['may'],
      ['jun', 'june'],
      ['jul', 'july'],
      ['aug', 'august'],
      ['sep', 'september'],
      ['oct', 'october'],
      ['nov', 'november'],
      ['dec', 'december']
    ][Number(month) - 1] ?? [];
  const both = (part: string) => [...new Set([part, short(part)])];
  const numeric = both(month).flatMap((m) =>
    both(date).flatMap((d) => [
      `${year} ${m} ${d}`,
      ...[year, year.slice(2)].flatMap((y) => [`${d} ${m} ${y}`, `${m} ${d} ${y}`])
    ])
  );
  const inWords = months.flatMap((m) =>
    both(date).flatMap((d) => [`${d} ${m} ${year}`, `${m} ${d} ${year}`, `${year} ${m} ${d}`])
  );
  return [...numeric, ...inWords];
}

/**
 * Terms that still stand in the text of a data set, with where. Found whole (`Dr.Marrowby`, `MARROWBY_ISOLDE`), as the
 * beginning or the end of a longer word (`Marrowbys`), and numbers with other marks between their parts (`(QS-1004)`);
 * one to three letters as whole words.
 */
export function termsStillIn(set: Dataset, terms: readonly string[]): { term: string; where: string }[] {
  return set.flatMap((element) => {
    if (isSequence(element.value)) return element.value.flatMap((item) => termsStillIn(item, terms));
    const text = textOf(element);
    if (text === null) return [];
    const found = terms.filter((term) => stands(term, folded(text)));
    return found.map((term) => ({ term, where: attributeName(element.tag) }));
  });
}

/** The terms that stand in a text: a file's name, its properties, the words of a report. */
export const termsInText = (text: string, terms: readonly string[]): string[] => {
  const words = folded(text);
  return terms.filter((term) => stands(term, words));
};

/** Letters and digits that are read for one another, as one of them. */
const lookalikes: readonly (readonly [RegExp, string])[] = [
  [/[0oq]/g, 'o'],
  [/[1il|]/g, 'i'],
  [/[5s]/g, 's'],
  [/[8b]/g, 'b'],
  [/[2z]/g, 'z'],
  [/rn/g, 'm'],
  [/vv/g, 'w']
];
const asSeen = (text: string) => lookalikes.reduce((out, [each, by]) => out.replace(each, by), text);

/** How many letters of a word may have been read wrongly. */
const mayDiffer = (length: number): number => (length >= 8 ? 2 : length >= 5 ? 1 : 0);

/**
 * The terms that seem to stand in what was read from a picture: letters that look alike are one, and a longer word may
 * have been read with a letter or two wrong.
 */
export function termsSeen(read: string, terms: readonly string[]): string[] {
  const text = asSeen(folded(read));
  const words = text.split(' ').filter(Boolean);
  const joined = text.replaceAll(' ', '');
  return terms.filter((term) => {
    const seen = asSeen(term);
    if (stands(seen, text)) return true;
    const whole = seen.replaceAll(' ', '');
    if (whole.length >= 6 && joined.includes(whole)) return true;
    const most = mayDiffer(whole.length);
    return most > 0 && words.some((word) => lettersApart(word, whole, most) <= most);
  });
}

function textOf({ tag, vr, value }: DataElement): string | null {
  if (standardsOwn.has(tag) || !textual.has(vr) || !Array.isArray(value)) return null;
  return value.join(' ');
}

function stands(term: string, text: string): boolean {
  if (text === '') return false;
  if (` ${text} `.includes(` ${term} `)) return true;
  if (term.includes(' ')) {
    const joined = term.replaceAll(' ', '');
    // A few digits stand by chance in longer numbers: those only as they are parted.
    if (/^\d+$/.test(joined) && joined.length < 8) return false;
    return text.replaceAll(' ', '').includes(joined);
  }
  if (/^\d+$/.test(term) || term.length < shortest) return text.split(' ').includes(`${term}s`);
  if (term.length >= rareFrom) return text.includes(term);
  return text.split(' ').some((word) => word.startsWith(term) || word.endsWith(term));
}

const wordsIn = /[\p{L}\p{M}\p{N}]+/gu;

/** What stands for a name or a number that was taken out of words. */
const takenOut = '…';

/**
 * Words without what points to a person: each that is, begins or ends with a term is taken out, and numbers whatever marks
 * stand between their parts. `withoutTerms('Marrowby, left wrist (QS-1004)', …)` is "…, left wrist (…)".
 */
export function withoutTerms(text: string, terms: readonly string[]): string {
  const words = [...text.matchAll(wordsIn)].map((match) => ({
    from: match.index,
    to: match.index + match[0].length,
    folded: folded(match[0])
  }));
  const out = new Set<number>();
  words.forEach((word, i) => {
    for (const term of terms) {
      const parts = term.split(' ');
      if (parts.length === 1 && stands(term, word.folded)) out.add(i);
      // A number in several pieces, or written as one.
      const joined = parts.join('');
      let built = '';
      for (let k = i; k < words.length && built.length < joined.length; k++) {
        built += words[k].folded.replaceAll(' ', '');
        if (built === joined || (parts.length > 1 && k === i && built.includes(joined)))
          for (let j = i; j <= k; j++) out.add(j);
      }
    }
  });
  let result = '';
  let at = 0;
  for (const i of [...out].sort((a, b) => a - b)) {
    const { from, to } = words[i];
    // What stands between two that are taken out next to one another goes too.
    if (!(out.has(i - 1) && result.endsWith(takenOut))) result += text.slice(at, from) + takenOut;
    at = to;
  }
  return result + text.slice(at);
}
