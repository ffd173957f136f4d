import { nameWords } from '../people/names';
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

/**
 * What points to a person, as it is looked for: each part of names, and numbers as one. Of what is no word or number
 * nothing is looked for.
 * @param names names in any order and writing @param numbers record, accession and other numbers
 */
export function identityTerms(names: readonly string[], numbers: readonly string[]): string[] {
  const parts = names.flatMap((name) => folded(name).split(' '));
  return [...new Set([...parts, ...numbers.map(folded)].filter((term) => term !== ''))];
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

function textOf({ tag, vr, value }: DataElement): string | null {
  if (standardsOwn.has(tag) || !textual.has(vr) || !Array.isArray(value)) return null;
  return value.join(' ');
}

function stands(term: string, text: string): boolean {
  if (text === '') return false;
  if (` ${text} `.includes(` ${term} `)) return true;
  if (term.includes(' ')) return text.replaceAll(' ', '').includes(term.replaceAll(' ', ''));
  if (/^\d+$/.test(term) || term.length < shortest) return text.split(' ').includes(`${term}s`);
  return text.split(' ').some((word) => word.startsWith(term) || word.endsWith(term));
}
