import { coverageFactor } from './measured';

export interface Spread {
  count: number;
  mean: number;
  /** Standard deviation of one reading (n - 1). */
  standardDeviation: number;
  least: number;
  greatest: number;
  /** A difference of two readings larger than this is a change, in 95 of 100 cases: 1.96 * sqrt(2) * sd. */
  repeatability: number;
}

/**
 * The spread of repeated readings of one thing, and what change is larger than it: the repeatability coefficient of
 * Bland and Altman (1986), 1.96 sqrt(2) sd. Worked value: 10, 12, 11 have sd 1 and repeatability 2.77.
 * @returns null for fewer than two readings: a spread can't be told from one
 */
export function spreadOf(readings: readonly number[]): Spread | null {
  if (readings.some((reading) => !Number.isFinite(reading))) throw new RangeError('a reading is missing');
  const count = readings.length;
  if (count < 2) return null;
  const mean = readings.reduce((a, b) => a + b, 0) / count;
  const standardDeviation = Math.sqrt(readings.reduce((sum, r) => sum + (r - mean) ** 2, 0) / (count - 1));
  return {
    count,
    mean,
    standardDeviation,
    least: Math.min(...readings),
    greatest: Math.max(...readings),
    repeatability: 1.96 * Math.SQRT2 * standardDeviation
  };
}

/**
 * Within-subject spread from several things each read several times: the root of the mean variance, weighted by its
 * degrees of freedom. Worked value: (1, 3) and (5, 5): variances 2 and 0, sd 1.
 */
export function pooledDeviation(groups: readonly (readonly number[])[]): number | null {
  let squares = 0;
  let freedom = 0;
  for (const group of groups) {
    const spread = spreadOf(group);
    if (!spread) continue;
    squares += spread.standardDeviation ** 2 * (spread.count - 1);
    freedom += spread.count - 1;
  }
  return freedom > 0 ? Math.sqrt(squares / freedom) : null;
}

export type Change = 'larger' | 'smaller' | 'within the spread';

/** Whether a later reading differs by more than both readings' ± can explain. @param before, after with their ± (95 %) */
export function changed(
  before: { value: number; plusMinus: number },
  after: { value: number; plusMinus: number }
): { difference: number; plusMinus: number; change: Change } {
  const difference = after.value - before.value;
  const plusMinus =
    coverageFactor * Math.hypot(before.plusMinus / coverageFactor, after.plusMinus / coverageFactor);
  const change =
    Math.abs(difference) <= plusMinus ? 'within the spread' : difference > 0 ? 'larger' : 'smaller';
  return { difference, plusMinus, change };
}
