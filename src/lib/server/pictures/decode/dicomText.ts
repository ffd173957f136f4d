import type { Says } from '../../../core/arrivals/says';
import { saysOf } from '../../../core/dicom/saysOf';
import type { ReadElement, ReadSet } from '../../../core/dicom/readSet';
import { binary, codes, countOf, decimal, valueBytes } from '../../../core/dicom/readValues';
import { cleanText, shortened } from '../../../core/text';
import { type TextReader, textReader } from './characterSets';

/** Longer values are shown by their size. */
const longestText = 300;
const mostNumbers = 24;
const worded = new Set(['LO', 'LT', 'PN', 'SH', 'ST', 'UC', 'UT']);
const numbered = new Set(['US', 'SS', 'UL', 'SL', 'FL', 'FD', 'UV', 'SV']);

export const readerFor = (set: ReadSet): TextReader => textReader(codes(set, '00080005'));

/** A text value in the file's own character set, without what can't be stored. */
export function words(set: ReadSet, tag: string, reader: TextReader): string {
  const bytes = valueBytes(set, tag);
  if (!bytes || bytes.length === 0) return '';
  const vr = set.elements.get(tag)!.vr;
  return cleanText(reader.read(bytes, worded.has(vr) ? vr : 'LO')).trim();
}

/** What a data set says of whose it is and what it shows, its texts in its own character sets. */
export const saysIn = (set: ReadSet, reader = readerFor(set)): Says =>
  saysOf(set, (of, tag) => words(of, tag, of === set ? reader : readerFor(of)));

/** Every attribute for people to read: text as text, numbers as numbers, binary by size, items inside sequences too. */
export function attributeList(set: ReadSet, reader = readerFor(set)): { tag: string; text: string }[] {
  return [...set.elements.values()].map((element) => ({
    tag: element.tag,
    text: textOf(set, element, reader)
  }));
}

function textOf(set: ReadSet, element: ReadElement, reader: TextReader): string {
  const { tag, vr, items, length, fragments } = element;
  if (items) {
    const inside = items.map((item) => {
      const itemReader = item.elements.has('00080005') ? readerFor(item) : reader;
      const texts = attributeList(item, itemReader).map((each) => each.text);
      return `{ ${texts.filter(Boolean).join(', ')} }`;
    });
    return shortened(inside.join(' '), longestText);
  }
  const size = `${length.toLocaleString('en')} bytes`;
  if (fragments) return size;
  if (numbered.has(vr)) {
    const count = countOf(set, tag);
    if (count > mostNumbers) return size;
    return Array.from({ length: count }, (_, i) => String(binary(set, tag, i) ?? '')).join(' \\ ');
  }
  if (length > longestText || !(worded.has(vr) || /^(AE|AS|CS|DA|DS|DT|IS|TM|UI|UR)$/.test(vr))) return size;
  return words(set, tag, reader);
}

/** A number within what it can be; one that is written and isn't is left out, and named in a remark. */
export function numberWithin(
  set: ReadSet,
  tag: string,
  what: string,
  [least, most]: readonly [number, number],
  remarks: string[],
  index = 0
): number | undefined {
  const text = codes(set, tag)[index] ?? '';
  if (!set.elements.get(tag)?.length || text === '') return undefined;
  const value = decimal(set, tag, index);
  if (value !== undefined && value >= least && value <= most) return value;
  const said = value === undefined ? cleanText(text) : String(value);
  remarks.push(`The file’s ${what} (“${shortened(said, 24)}”) can’t be right and is left out.`);
  return undefined;
}
