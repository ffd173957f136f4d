import { numberWords } from './writing';

/** A size as people say it. Worked values: 900 is "1 kB", 234,567 is "235 kB", 5,600,000 is "5.6 MB". */
export const byteWords = (bytes: number): string =>
  bytes < 999_500 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${numberWords(bytes / 1e6, 1)} MB`;

export const countWords = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;

/** A sentence out of words that stood within one. */
export const capital = (words: string): string => words.slice(0, 1).toUpperCase() + words.slice(1);

export const tradeWords = { teeth: 'Teeth', bones: 'Bones', animals: 'Animals', eyes: 'Eyes' } as const;

/** A number as somebody typed it, with a point or a comma; NaN where it is none. */
export const typedNumber = (text: string): number =>
  text.trim() === '' ? NaN : Number(text.trim().replace(',', '.'));
