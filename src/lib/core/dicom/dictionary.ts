import { dictionaryLines } from './dictionary.data';

export interface DictionaryEntry {
  /** Eight hexadecimal digits, upper case: group and element. */
  tag: string;
  vr: string;
  keyword: string;
}

let byTag: Map<string, DictionaryEntry> | null = null;
let byKeyword: Map<string, DictionaryEntry> | null = null;

function load(): { byTag: Map<string, DictionaryEntry>; byKeyword: Map<string, DictionaryEntry> } {
  if (!byTag || !byKeyword) {
    byTag = new Map();
    byKeyword = new Map();
    for (const line of dictionaryLines.trim().split('\n')) {
      const [tag, vr, keyword] = line.split(' ');
      const entry = { tag, vr, keyword };
      byTag.set(tag, entry);
      byKeyword.set(keyword, entry);
    }
  }
  return { byTag, byKeyword };
}

/** @throws RangeError for a keyword the standard does not know */
export function entryFor(keyword: string): DictionaryEntry {
  const entry = load().byKeyword.get(keyword);
  if (!entry) throw new RangeError(`no DICOM attribute has the keyword ${keyword}`);
  return entry;
}

export function entryOfTag(tag: string): DictionaryEntry | undefined {
  return load().byTag.get(tag.toUpperCase());
}

/** "Patient Birth Date" for 00100030; the bare tag for one that is private or unknown. */
export function attributeName(tag: string): string {
  const entry = entryOfTag(tag);
  if (!entry) return `(${tag.slice(0, 4)},${tag.slice(4)})`;
  return entry.keyword.replace(/([a-z0-9])([A-Z])/g, '$1 $2').replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2');
}
