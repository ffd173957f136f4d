import { z } from 'zod';
import type { Versioned } from '../versioned';
import { type DataElement, type Dataset, withElements } from './dataset';
import { calendarDay } from './dates';
import { attributeName, dictionaryEntries, entryOfTag } from './dictionary';

/** What somebody says of a picture that came without attributes of its own: as typed, values parted by a backslash. */
export interface SaidAttribute {
  /** Eight hexadecimal digits, upper case. */
  tag: string;
  text: string;
}

/** So many of one picture; more would be a report. */
export const mostSaid = 60;
const longest = 10_240;

interface Shape {
  /** Characters of one value at most. */
  most: number;
  pattern?: RegExp;
  /** Least and greatest number it may be. */
  range?: readonly [number, number];
  whole?: boolean;
  /** Whether a backslash parts values; else it is a character like any other. */
  one?: boolean;
  says: string;
}

const text = (most: number, one = false): Shape => ({
  most,
  one,
  says: `text of ${most} characters at most`
});
const number = (most: number, range: readonly [number, number], whole = true): Shape => ({
  most,
  range,
  whole,
  says: whole ? `a whole number from ${range[0]} to ${range[1]}` : 'a number, like 1.25'
});
const decimal = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$/i;

/** Value representations that can be typed (PS3.5 6.2). */
const shapes: Readonly<Record<string, Shape>> = {
  AE: { ...text(16), pattern: /^[\x20-\x7e]+$/ },
  AS: { most: 4, pattern: /^\d{3}[DWMY]$/, says: 'an age, like 042Y' },
  CS: { most: 16, pattern: /^[A-Z0-9 _]+$/, says: 'capitals, digits, spaces and _, 16 at most' },
  DA: { most: 8, pattern: /^\d{8}$/, says: 'a date, like 20261128' },
  DS: { ...number(16, [-Infinity, Infinity], false), pattern: decimal },
  DT: {
    most: 26,
    pattern: /^\d{4}(\d{2}){0,5}(\.\d{1,6})?([+-]\d{4})?$/,
    says: 'a moment, like 20261128101500'
  },
  FD: { ...number(30, [-Infinity, Infinity], false), pattern: decimal },
  FL: { ...number(30, [-3.4e38, 3.4e38], false), pattern: decimal },
  IS: number(12, [-(2 ** 31), 2 ** 31 - 1]),
  LO: text(64),
  LT: text(longest, true),
  PN: text(64),
  SH: text(16),
  SL: number(11, [-(2 ** 31), 2 ** 31 - 1]),
  SS: number(6, [-32_768, 32_767]),
  ST: text(1024, true),
  TM: { most: 13, pattern: /^([01]\d|2[0-3])([0-5]\d([0-5]\d(\.\d{1,6})?)?)?$/, says: 'a time, like 101500' },
  UC: text(longest),
  UI: { most: 64, pattern: /^(0|[1-9]\d*)(\.(0|[1-9]\d*))+$/, says: 'a UID: numbers and dots, 64 at most' },
  UL: number(10, [0, 2 ** 32 - 1]),
  UR: { most: longest, pattern: /^[^\s\\]+$/, one: true, says: 'an address without spaces' },
  US: number(5, [0, 65_535]),
  UT: text(longest, true)
};

const numeric: ReadonlySet<string> = new Set(['FD', 'FL', 'SL', 'SS', 'UL', 'US']);
const ofChart: ReadonlySet<string> = new Set(['00100010', '00100020', '00100030', '00100040']);
/** The same in all pictures of a visit: one that says otherwise would tear its study apart. */
const ofVisit: ReadonlySet<string> = new Set(['00080020', '00080030', '00080050', '00200010', '00200011']);
const ofObject: ReadonlySet<string> = new Set([
  '00080005',
  '00080016',
  '00080018',
  '00080060',
  '0020000D',
  '0020000E'
]);
const ofSamples = /^(0028|5400|7FE0|60|50)/;
const ofSpacing: ReadonlySet<string> = new Set(['00181164', '00181114', '00189402', '00280030']);

/** Why an attribute can't be said of a picture by hand; null where it can. */
export function unsayable(tag: string): string | null {
  const entry = entryOfTag(tag);
  if (!entry) return 'No attribute of the standard has this name or tag.';
  if (ofChart.has(entry.tag)) return 'This comes from the chart: change it there.';
  if (ofVisit.has(entry.tag)) return 'This is the same for all pictures of a visit, and comes from it.';
  if (ofObject.has(entry.tag) || /^000[0-2]/.test(entry.tag))
    return 'This says which object it is, and is set by itself.';
  if (ofSamples.test(entry.tag) || ofSpacing.has(entry.tag))
    return 'This tells how the picture is stored or how large things are in it: it follows from the picture and its scale.';
  if (entry.tag.startsWith('0012')) return 'This is said by de-identifying, and by nobody else.';
  if (!shapes[entry.vr]) return 'This holds other attributes or bytes, which can’t be typed.';
  return null;
}

/** What of a value does not fit its attribute's value representation, in words; null where it fits. Empty fits always. */
export function misfit({ tag, text: typed }: SaidAttribute): string | null {
  const no = unsayable(tag);
  if (no) return no;
  const { vr } = entryOfTag(tag)!;
  const shape = shapes[vr];
  const wants = (value: string) => `${attributeName(tag)} is ${shape.says}; “${cut(value)}” is not.`;
  if (typed.length > longest) return wants(typed);
  for (const value of valuesOf(tag, typed)) {
    // One of several values may be left empty, but for those that are stored as numbers.
    if (value === '' && !numeric.has(vr)) continue;
    // eslint-disable-next-line no-control-regex -- no text of DICOM may hold them
    if (/[\u0000-\u0009\u000b\u000e-\u001f]/.test(value)) return wants(value);
    if (!shape.one && /[\n\r\f]/.test(value)) return wants(value);
    if ([...value].length > shape.most || (shape.pattern && !shape.pattern.test(value))) return wants(value);
    if (shape.range && !inRange(value, shape)) return wants(value);
    if (vr === 'DA' && !calendarDay(value)) return wants(value);
  }
  return null;
}

function inRange(value: string, { range, whole }: Shape): boolean {
  const read = Number(value);
  if (!Number.isFinite(read) || value.trim() === '' || (whole && !/^[+-]?\d+$/.test(value))) return false;
  return read >= range![0] && read <= range![1];
}

const cut = (value: string): string => (value.length > 40 ? `${value.slice(0, 39)}…` : value);

/** Values as they stand in the attribute; none where nothing is typed. */
function valuesOf(tag: string, typed: string): string[] {
  if (typed === '') return [];
  return shapes[entryOfTag(tag)!.vr].one ? [typed] : typed.split('\\');
}

const one = z.strictObject({
  tag: z.string().regex(/^[0-9A-F]{8}$/),
  text: z.string()
});
const schema = z
  .array(one)
  .max(mostSaid)
  .superRefine((all, context) => {
    for (const each of all) {
      const why = misfit(each);
      if (why) context.addIssue({ code: 'custom', message: why });
    }
    if (new Set(all.map(({ tag }) => tag)).size < all.length)
      context.addIssue({ code: 'custom', message: 'One attribute is said twice.' });
  });
export const saidAttributes: Versioned<SaidAttribute[]> = { version: 1, schema, upcasters: {} };

/** A new data set in which what was said stands in place of what was proposed, or beside it. */
export const withSaid = (set: Dataset, said: readonly SaidAttribute[]): Dataset =>
  said.length === 0 ? set : withElements(set, said.map(elementOf));

function elementOf({ tag, text: typed }: SaidAttribute): DataElement {
  const { vr } = entryOfTag(tag)!;
  const values = valuesOf(tag, typed);
  return { tag, vr, value: numeric.has(vr) ? values.map(Number) : values };
}

/** So many attributes are offered for what is typed. */
const mostOffered = 8;

/** Attributes whose name or tag holds all of these words, that can be said and are not there yet; the shortest names first. */
export function sayable(
  words: string,
  there: ReadonlySet<string> = new Set()
): { tag: string; name: string }[] {
  const wanted = words.toLowerCase().replace(/[(),]/g, ' ').split(/\s+/).filter(Boolean);
  if (wanted.length === 0) return [];
  return dictionaryEntries()
    .filter(({ tag }) => !there.has(tag))
    .map(({ tag }) => ({ tag, name: attributeName(tag) }))
    .filter(({ tag, name }) => {
      const all = `${name} ${tag.slice(0, 4)} ${tag}`.toLowerCase();
      return wanted.every((word) => all.includes(word)) && unsayable(tag) === null;
    })
    .sort((a, b) => a.name.length - b.name.length)
    .slice(0, mostOffered);
}
