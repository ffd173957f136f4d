import { describe, expect, it } from 'vitest';
import { finished } from '../../longWork';
import { type SeededRandom, seededRandom } from '../../random';
import { inverse, onto } from '../geometry/similarity';
import type { Point } from '../orientation';
import type { Patch } from '../patch';
import { samePlaces } from './samePlaces';

/** Soft blots, rods and rims at random: the same for a seed wherever they are looked at. */
function scene(random: SeededRandom): (point: Point) => number {
  const things = Array.from({ length: 26 }, () => {
    const [x, y] = [600 * random.uniform(), 480 * random.uniform()];
    const r = 14 + 60 * random.uniform();
    const long = 1 + 2 * random.uniform();
    const way = Math.PI * random.uniform();
    return { x, y, r, long, cos: Math.cos(way), sin: Math.sin(way), high: 0.2 + random.uniform() };
  });
  return ({ x, y }) => {
    let sum = 0;
    for (const thing of things) {
      const [dx, dy] = [x - thing.x, y - thing.y];
      const along = (dx * thing.cos + dy * thing.sin) / thing.long;
      const across = dy * thing.cos - dx * thing.sin;
      const inside = 1 - (along * along + across * across) / (thing.r * thing.r);
      if (inside > 0) sum += thing.high * Math.sqrt(inside);
    }
    return sum;
  };
}
function picture(
  size: { width: number; height: number },
  at: (x: number, y: number) => number,
  random: SeededRandom
): Patch {
  const { width, height } = size;
  const data = Float32Array.from(
    { length: width * height },
    (_, i) => at((i % width) + 0.5, Math.floor(i / width) + 0.5) + 0.02 * random.normal()
  );
  return { picture: size, left: 0, top: 0, ...size, data };
}
const size = { width: 600, height: 480 };

describe('the same places of two pictures', () => {
  it.each([1, 2])('are found though one is turned, sized, exposed otherwise and a negative (%i)', (seed) => {
    const random = seededRandom(seed);
    const seen = scene(random);
    const lying = {
      scale: 0.85 + 0.3 * random.uniform(),
      turn: 0.9 * (random.uniform() - 0.5),
      shift: { x: 60 * (random.uniform() - 0.5), y: 60 * (random.uniform() - 0.5) }
    };
    const about = onto({ ...lying, shift: { x: 0, y: 0 } }, { x: 300, y: 240 });
    const back = inverse({
      ...lying,
      shift: { x: lying.shift.x + 300 - about.x, y: lying.shift.y + 240 - about.y }
    });
    const now = picture(size, (x, y) => seen({ x, y }), random);
    const then = picture(
      size,
      (x, y) => {
        const value = seen(onto(inverse(back), { x, y }));
        return seed % 2 ? Math.exp(-value) : value ** 0.6;
      },
      random
    );
    const found = finished(samePlaces(now, then, 1));
    if (found.outcome !== 'found') throw new Error(found.because);
    expect(found.pairs).toHaveLength(4);
    for (const { from, to } of found.pairs) {
      const there = onto(back, to);
      expect(Math.hypot(there.x - from.x, there.y - from.y)).toBeLessThan(1.5);
    }
    const spread =
      Math.max(...found.pairs.map(({ to }) => to.x)) - Math.min(...found.pairs.map(({ to }) => to.x));
    expect(spread).toBeGreaterThan(150);
  });

  it('are told in pixels of each where one has twice as many', () => {
    const random = seededRandom(9);
    const seen = scene(random);
    const now = picture({ width: 1200, height: 960 }, (x, y) => seen({ x: x / 2, y: y / 2 }), random);
    const then = picture(size, (x, y) => seen({ x: x - 20, y: y + 10 }), random);
    const found = finished(samePlaces(now, then, 2));
    if (found.outcome !== 'found') throw new Error(found.because);
    for (const { from, to } of found.pairs)
      expect(Math.hypot(to.x / 2 + 20 - from.x, to.y / 2 - 10 - from.y)).toBeLessThan(1.5);
  });

  it('are refused of two things, of a mirrored one, of nothing but noise, and of a picture too small', () => {
    const random = seededRandom(5);
    const [one, other] = [scene(random), scene(random)];
    const now = picture(size, (x, y) => one({ x, y }), random);
    const flat = picture(size, () => 0, random);
    const small = picture({ width: 90, height: 60 }, (x, y) => one({ x: x * 6, y: y * 6 }), random);
    const mirrored = picture(size, (x, y) => one({ x: 600 - x, y }), random);
    const stranger = picture(size, (x, y) => other({ x, y }), random);
    for (const then of [stranger, mirrored, flat, small])
      expect(finished(samePlaces(now, then, 1))).toMatchObject({ outcome: 'not found' });
  });

  it('tell how far the search is, up to its end', () => {
    const random = seededRandom(6);
    const seen = scene(random);
    const now = picture({ width: 300, height: 240 }, (x, y) => seen({ x: 2 * x, y: 2 * y }), random);
    const told: number[] = [];
    finished(samePlaces(now, now, 1), ({ done, of }) => told.push(done / of));
    expect(told).toEqual(told.toSorted((a, b) => a - b));
    expect(told.at(-1)).toBe(1);
  });
});
