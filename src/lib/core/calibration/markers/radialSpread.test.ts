import { describe, expect, it } from 'vitest';
import { radialGrid, roundMeansAt, spreadTo } from './radialSpread';

const distances = (count: number, from = 0.25) =>
  Float64Array.from({ length: count }, (_, i) => from + 0.5 * i);

/** A disc's image spread by a Gaussian, added up pixel by pixel in the plane. */
function addedUp(radius: number, spread: number, rho: number, loss: (t: number) => number): number {
  const h = 0.05;
  let sum = 0;
  for (let y = -radius; y < radius; y += h)
    for (let x = -radius; x < radius; x += h) {
      const t = Math.hypot(x + h / 2, y + h / 2);
      if (t >= radius) continue;
      const square = (x + h / 2 - rho) ** 2 + (y + h / 2) ** 2;
      sum += loss(t) * Math.exp(-square / (2 * spread * spread)) * h * h;
    }
  return sum / (2 * Math.PI * spread * spread);
}

describe('a round thing spread by a Gaussian', () => {
  it.each([
    ['disc', 3, 1.4],
    ['disc', 9, 0.8],
    ['ball', 4, 1.1]
  ] as const)(
    'a %s of radius %d and spread %d is as adding up in the plane has it',
    (kind, radiusPx, spreadPx) => {
      const at = distances(22);
      const out = new Float64Array(at.length);
      const depth = 3;
      spreadTo(out, at, { kind, radiusPx, spreadPx, skirt: 0, depth }, radialGrid(0, radiusPx + 2, 0.25));
      const loss = (t: number) =>
        kind === 'disc' ? 1 - Math.exp(-depth) : 1 - Math.exp(-depth * Math.sqrt(1 - (t / radiusPx) ** 2));
      for (const i of [0, 3, 7, 12, 18])
        expect(out[i], `at ${at[i]} px`).toBeCloseTo(addedUp(radiusPx, spreadPx, at[i], loss), 2);
    }
  );
  it('takes the steps of a large one as a straight edge: half of it is lost at the rim', () => {
    const at = Float64Array.from({ length: 40 }, (_, i) => 390 + 0.5 * i);
    const out = new Float64Array(at.length);
    spreadTo(
      out,
      at,
      { kind: 'disc', radiusPx: 400, spreadPx: 1.2, skirt: 0.1, depth: 20 },
      radialGrid(380, 402, 0.25)
    );
    expect(out[20]).toBeCloseTo(0.5, 2);
    expect(out[0]).toBeCloseTo(1, 3);
    expect(out[39]).toBeCloseTo(0, 3);
  });
});

it('round means of one value are that value, and of a step lie between', () => {
  const at = distances(40);
  const meansOf = roundMeansAt(at);
  const means = (profile: Float64Array, widthPx: number) => {
    const out = new Float64Array(at.length);
    meansOf(out, profile, Math.log(widthPx));
    return out;
  };
  for (const mean of means(new Float64Array(40).fill(1), 3)) expect(mean).toBeCloseTo(1, 9);
  const step = means(
    Float64Array.from(at, (r) => (r < 10 ? 1 : 0)),
    3
  );
  for (let i = 1; i < step.length; i++) expect(step[i]).toBeLessThanOrEqual(step[i - 1] + 1e-9);
  // In the middle a Gaussian of 3 pixels sees 1 - exp(-10^2 / 2 3^2) of it.
  expect(step[0]).toBeCloseTo(1 - Math.exp(-100 / 18), 2);
});

it.each([1.3, 2.07, 4.4])(
  'a straight edge is as the Gaussian of %d pixels has it, for any width',
  (width) => {
    const at = Float64Array.from({ length: 80 }, (_, i) => 980 + 0.5 * (i + 0.5));
    const out = new Float64Array(at.length);
    roundMeansAt(at)(
      out,
      Float64Array.from(at, (r) => (r < 1000 ? 1 : 0)),
      Math.log(width)
    );
    // At half a spread, one and two: what the normal distribution leaves beyond.
    for (const [spreads, beyond] of [
      [0.5, 0.3085],
      [1, 0.1587],
      [2, 0.0228]
    ]) {
      const place = (1000 + spreads * width - at[0]) / 0.5;
      const i = Math.floor(place);
      expect(out[i] + (place - i) * (out[i + 1] - out[i]), `${spreads}`).toBeCloseTo(beyond, 2);
    }
  }
);
