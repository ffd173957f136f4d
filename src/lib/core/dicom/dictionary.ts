import data from './dictionary.json';

export interface DictionaryEntry {
  /** Eight hexadecimal digits, upper case: group and element. */
  tag: string;
  vr: string;
  keyword: string;
}

/** Pixel Data. */
export const pixelDataTag = '7FE00010';

/** Data elements of DICOM PS3.6 (the standard's public registry): by tag, value representation and keyword. */
const byTag = data as unknown as Readonly<Record<string, readonly [vr: string, keyword: string]>>;
let byKeyword: Map<string, DictionaryEntry> | null = null;

export const dictionaryEntries = (): DictionaryEntry[] =>
  Object.entries(byTag).map(([tag, [vr, keyword]]) => ({ tag, vr, keyword }));

/** @throws RangeError for a keyword the standard does not know */
export function entryFor(keyword: string): DictionaryEntry {
  byKeyword ??= new Map(dictionaryEntries().map((entry) => [entry.keyword, entry]));
  const entry = byKeyword.get(keyword);
  if (!entry) throw new RangeError(`no DICOM attribute has the keyword ${keyword}`);
  return entry;
}

export function entryOfTag(tag: string): DictionaryEntry | undefined {
  const upper = tag.toUpperCase();
  const found = byTag[upper];
  return found && { tag: upper, vr: found[0], keyword: found[1] };
}

/** "Patient Birth Date" for 00100030; the bare tag for one that is private or unknown. */
export function attributeName(tag: string): string {
  const entry = entryOfTag(tag);
  if (!entry) return `(${tag.slice(0, 4)},${tag.slice(4)})`;
  return entry.keyword.replace(/([a-z0-9])([A-Z])/g, '$1 $2').replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2');
}
