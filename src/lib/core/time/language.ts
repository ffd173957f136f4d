/** How a clinic's days, clocks and numbers are written: by the clock of its zone and in its language. */
export interface Writing {
  /** IANA name. */
  timeZone: string;
  /** BCP 47 tag of one of `languages`. */
  language: string;
}

/** What dates and numbers can be written in: languages whose letters our papers and films have. */
export const languages = [
  'en-GB',
  'en-US',
  'cs',
  'da',
  'de',
  'el',
  'es',
  'et',
  'fi',
  'fr',
  'hr',
  'hu',
  'is',
  'it',
  'lt',
  'lv',
  'nb',
  'nl',
  'pl',
  'pt-BR',
  'pt-PT',
  'ro',
  'sk',
  'sl',
  'sv',
  'tr',
  'uk',
  'vi'
] as const;
export type Language = (typeof languages)[number];
export const plainLanguage: Language = 'en-GB';
/** One of ours; any other is the plain one. */
export const languageOf = (tag: string): Language => languages.find((each) => each === tag) ?? plainLanguage;

const marks = new Map<string, string>();
/** What stands between whole numbers and their parts: "." or ",". */
export function decimalMark(language: string): string {
  const known = marks.get(language);
  if (known) return known;
  const parts = new Intl.NumberFormat(language).formatToParts(1.5);
  const mark = parts.find(({ type }) => type === 'decimal')?.value ?? '.';
  marks.set(language, mark);
  return mark;
}

/** A number with so many decimals, without marks between thousands. `numberIn(12.345, 1, 'de')` is "12,3". */
export const numberIn = (value: number, decimals: number, language: string): string =>
  value.toFixed(decimals).replace('.', decimalMark(language));

/** A number with as many decimals as it has: `shortIn(2.5, 'de')` is "2,5". */
export const shortIn = (value: number, language: string): string =>
  String(value).replace('.', decimalMark(language));

/** What a language is called in itself: "Deutsch". */
export function languageName(language: string): string {
  const name = new Intl.DisplayNames([language], { type: 'language' }).of(language) ?? language;
  return name.charAt(0).toLocaleUpperCase(language) + name.slice(1);
}
