import { describe, expect, it } from 'vitest';
import { type LearnedReading, readingBy, unlikeness } from './edgeReading';

/** One sign in, a bend, then place and logarithm of the uncertainty, in thousandths. */
const network = (slope: number, logUncertainty: number) => [
  { inputs: 1, weights: [slope], offsets: [0] },
  { inputs: 1, weights: [2000, 0], offsets: [100, logUncertainty] }
];

const reading = (networks: LearnedReading['networks'], wider = 1): LearnedReading => ({
  usual: [3],
  deviations: [2],
  networks,
  wider,
  ways: []
});

describe('a learned reading', () => {
  it('counts signs in usual deviations, bends once, and tells place and uncertainty', () => {
    const { beyond, uncertainty } = readingBy(reading([network(500, -2000)], 1.5), [4]);
    expect(beyond).toBeCloseTo(0.1 + 2 * Math.tanh(0.5 * 0.5), 9);
    expect(uncertainty).toBeCloseTo(1.5 * Math.exp(-2), 9);
  });

  it('takes a sign beyond all that it learned from for the furthest of those', () => {
    const one = reading([network(100, -2000)]);
    expect(readingBy(one, [3 + 2 * 4])).toEqual(readingBy(one, [1e9]));
    expect(readingBy(one, [3 - 2 * 4])).toEqual(readingBy(one, [-1e9]));
    expect(readingBy(one, [3 + 2 * 3]).beyond).toBeLessThan(readingBy(one, [1e9]).beyond);
  });

  it('is the less sure the more its networks differ, and never surer than any could be', () => {
    const agreed = readingBy(reading([network(500, -3000), network(500, -3000)]), [5]);
    const torn = readingBy(reading([network(500, -3000), network(-500, -3000)]), [5]);
    expect(torn.uncertainty).toBeCloseTo(Math.hypot(Math.exp(-3), 2 * Math.tanh(0.5)), 9);
    expect(agreed.uncertainty).toBeCloseTo(Math.exp(-3), 9);
    expect(readingBy(reading([network(0, -50_000)]), [5]).uncertainty).toBeCloseTo(Math.exp(-7), 9);
  });
});

it('is unlike an edge by what none of the usual ways explains', () => {
  const learned = {
    ...reading([]),
    usual: [1, 1, 1, 1],
    ways: [
      [1, 0, 0, 0],
      [0, Math.SQRT1_2, Math.SQRT1_2, 0]
    ]
  };
  expect(unlikeness(learned, [7, 3, 3, 1])).toBeCloseTo(0, 9);
  expect(unlikeness(learned, [1, 1, 1, 1.4])).toBeCloseTo(0.2, 9);
  expect(unlikeness(learned, [1, 2, 0, 1])).toBeCloseTo(Math.SQRT1_2, 9);
});
