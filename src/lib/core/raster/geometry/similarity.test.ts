import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type PointPair, type Similarity, inverse, laidOver, onto } from './similarity';

const random = seededRandom(11);
const anywhere = () => ({ x: 2000 * random.uniform(), y: 1500 * random.uniform() });
const any = (): Similarity => ({
  scale: 0.5 + random.uniform(),
  turn: 6 * random.uniform() - 3,
  shift: { x: 400 * random.uniform() - 200, y: 400 * random.uniform() - 200 }
});
const pairsOf = (similarity: Similarity, count: number, errorPx = 0): PointPair[] =>
  Array.from({ length: count }, () => {
    const from = anywhere();
    const { x, y } = onto(similarity, from);
    return { from, to: { x: x + errorPx * random.normal(), y: y + errorPx * random.normal() } };
  });

describe('laying one picture over another', () => {
  it('gives its worked value', () => {
    const laid = laidOver([
      { from: { x: 0, y: 0 }, to: { x: 5, y: 5 } },
      { from: { x: 10, y: 0 }, to: { x: 5, y: 25 } }
    ])!;
    expect(laid.similarity.scale).toBeCloseTo(2, 12);
    expect(laid.similarity.turn).toBeCloseTo(Math.PI / 2, 12);
    expect(onto(laid.similarity, { x: 0, y: 10 }).x).toBeCloseTo(-15, 9);
    expect(laid.residual).toBeNull();
  });

  it('finds any turn, size and shift again from two to four points, and the way back', () => {
    for (let i = 0; i < 60; i++) {
      const truth = any();
      const laid = laidOver(pairsOf(truth, 2 + (i % 3)))!;
      const point = anywhere();
      const [there, wanted] = [onto(laid.similarity, point), onto(truth, point)];
      expect(Math.hypot(there.x - wanted.x, there.y - wanted.y)).toBeLessThan(1e-6);
      const back = onto(inverse(laid.similarity), there);
      expect(Math.hypot(back.x - point.x, back.y - point.y)).toBeLessThan(1e-6);
      if (laid.residual !== null) expect(laid.residual).toBeLessThan(1e-6);
    }
  });

  it('tells by its residual how well points were placed: as many pixels, not fewer for few points', () => {
    for (const count of [3, 4]) {
      const squares = Array.from({ length: 600 }, () => laidOver(pairsOf(any(), count, 3))!.residual! ** 2);
      const rms = Math.sqrt(squares.reduce((a, b) => a + b, 0) / squares.length);
      // Three pixels each way are 4.24 in distance.
      expect(rms / (3 * Math.SQRT2)).toBeGreaterThan(0.92);
      expect(rms / (3 * Math.SQRT2)).toBeLessThan(1.08);
    }
  });

  it('says nothing of points that say nothing', () => {
    const here = { x: 4, y: 4 };
    expect(laidOver([{ from: here, to: here }])).toBeNull();
    expect(
      laidOver([
        { from: here, to: { x: 0, y: 0 } },
        { from: here, to: { x: 9, y: 0 } }
      ])
    ).toBeNull();
    expect(
      laidOver([
        { from: { x: 0, y: 0 }, to: here },
        { from: { x: NaN, y: 0 }, to: { x: 9, y: 0 } }
      ])
    ).toBeNull();
  });
});
