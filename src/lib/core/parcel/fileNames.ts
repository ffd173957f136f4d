import { cleanText } from '../text';

/** What a file name can tell of a picture. Who it is of stands under {who}: the name, or the pseudonym. */
export interface Named {
  /** Family name and first name, or what stands for them. */
  who: string;
  number: string;
  /** YYYY-MM-DD. */
  date: string;
  /** What it is called in its slot. */
  what: string;
  place: string;
  kind: string;
}

export const nameParts = ['who', 'number', 'date', 'what', 'place', 'kind', 'n'] as const;
export type NamePart = (typeof nameParts)[number];

export const partWords: Readonly<Record<NamePart, string>> = {
  who: 'who it is of',
  number: 'record number',
  date: 'date taken',
  what: 'what it shows',
  place: 'place in the body',
  kind: 'kind',
  n: 'running number'
};

/** No name is longer, ending left out: old systems cut what is. */
const longest = 100;
/** Names that some systems keep for themselves. */
const reserved = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/** A part of a file name as every system takes it. */
export function asFileName(text: string): string {
  const kept = cleanText(text)
    .replace(/[<>:"/\\|?*\p{Cc}]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/^[. ]+|[. ]+$/g, '');
  const short = [...kept].slice(0, longest).join('').trim();
  return reserved.test(short) ? `${short}_` : short;
}

/** Names as they are given, each once: one that was there before gets a number behind it. */
export function eachOnce(): (name: string) => string {
  const used = new Set<string>();
  return (name) => {
    let unique = name;
    for (let again = 2; used.has(unique.toLowerCase()); again++) unique = `${name} (${again})`;
    used.add(unique.toLowerCase());
    return unique;
  };
}

/**
 * Gives file names by a pattern, each once: what comes out the same gets a number behind it. `'{who} {date} {n}'` gives
 * "Marrowby Isolde 2026-03-01 01". A part in braces that nobody knows stays as it is written.
 * @param count how many there will be, for the digits of the running number
 */
export function fileNamer(pattern: string, count: number): (picture: Named) => string {
  const digits = Math.max(2, String(count).length);
  const once = eachOnce();
  let running = 0;
  return (picture) => {
    running += 1;
    const values: Record<NamePart, string> = { ...picture, n: String(running).padStart(digits, '0') };
    const filled = pattern.replace(/\{(\w+)\}/g, (whole, part: string) =>
      (nameParts as readonly string[]).includes(part) ? values[part as NamePart] : whole
    );
    return once(asFileName(filled) || `picture ${values.n}`);
  };
}
