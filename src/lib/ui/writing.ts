import { page } from '$app/state';
import { inWords } from '$core/measurement/inWords';
import type { Value } from '$core/measurement/measured';
import { numberIn, plainLanguage } from '$core/time/language';

/** What the clinic's dates and numbers are written in. */
export const language = (): string =>
  (page.data.who as { language?: string } | null | undefined)?.language ?? plainLanguage;

/** A measured value as the clinic writes it: "11.23 ± 0.21 mm". */
export const readingWords = (value: Value): string => inWords(value, language());
/** A number with so many decimals as the clinic writes it. */
export const numberWords = (value: number, decimals: number): string => numberIn(value, decimals, language());
