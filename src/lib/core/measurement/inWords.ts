import { numberIn, plainLanguage } from '../time/language';
import type { Unit, Value } from './measured';

export const unitWords: Record<Unit, string> = {
  mm: ' mm',
  px: ' px',
  deg: '°',
  mm2: ' mm²',
  px2: ' px²',
  '%': ' %',
  '': ''
};

/**
 * A measured value in words, rounded to what its ± can bear: "11.23 ± 0.21 mm", "652 ± 4 px", "31.4 ± 0.6°".
 * The ± keeps two digits while its first is 1 or 2, else one; the value the same number of decimals.
 * @param language that numbers are written in
 */
export function inWords({ value, unit, plusMinus }: Value, language: string = plainLanguage): string {
  const decimals = decimalsFor(plusMinus);
  const number = (each: number) => numberIn(each, decimals, language);
  return `${number(value)} ± ${number(plusMinus)}${unitWords[unit]}`;
}

function decimalsFor(plusMinus: number): number {
  if (!(plusMinus > 0)) return 2;
  // Not by dividing: 0.3 over a tenth is a little below 3.
  const [mantissa, exponent] = plusMinus.toExponential(3).split('e').map(Number);
  const digits = mantissa < 3 ? 1 : 0;
  return Math.max(0, Math.min(4, digits - exponent));
}
