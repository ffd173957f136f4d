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
 */
export function inWords({ value, unit, plusMinus }: Value): string {
  const decimals = decimalsFor(plusMinus);
  return `${value.toFixed(decimals)} ± ${plusMinus.toFixed(decimals)}${unitWords[unit]}`;
}

function decimalsFor(plusMinus: number): number {
  if (!(plusMinus > 0)) return 2;
  const exponent = Math.floor(Math.log10(plusMinus));
  const first = Math.floor(plusMinus / 10 ** exponent);
  const digits = first <= 2 ? 1 : 0;
  return Math.max(0, Math.min(4, digits - exponent));
}
