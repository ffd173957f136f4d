/** What no text may hold that is stored or shown: control characters but tab and line ends. */
// eslint-disable-next-line no-control-regex
const unseen = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g;
/** Half of a pair that codes one character, without its other half. */
const halfPair = /\p{Surrogate}/gu;

/**
 * A text as it can be stored anywhere: without control characters, a half of a surrogate pair replaced by U+FFFD.
 * `cleanText('Pan\0der')` is "Pander".
 */
export const cleanText = (text: string): string => text.replace(unseen, '').replace(halfPair, '\ufffd');

/** The same for every text in something that is made of plain objects and lists, keys included. What else it holds stays. */
export function cleanTexts<T>(value: T): T {
  if (typeof value === 'string') return cleanText(value) as T;
  if (Array.isArray(value)) return value.map(cleanTexts) as T;
  if (value !== null && typeof value === 'object' && Object.getPrototypeOf(value) === Object.prototype)
    return Object.fromEntries(
      Object.entries(value).map(([key, each]) => [cleanText(key), cleanTexts(each)])
    ) as T;
  return value;
}

const byNumbersToo = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
/** Names in the order that people expect: `['a10', 'A2'].sort(naturally)` is A2, a10. */
export const naturally = (a: string, b: string): number => byNumbersToo.compare(a, b);

/** A text of at most so many characters; one that is longer loses its end, and never half a character. */
export const shortened = (text: string, most: number): string => [...text].slice(0, most).join('');
