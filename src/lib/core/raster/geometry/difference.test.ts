import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type Patch, patchOf } from '../patch';
import { differenceOver, differencePixels } from './difference';
import { inverse, onto } from './similarity';

const size = { width: 240, height: 180 };
/** Soft shapes of many sizes, and a spot that is there or not. */
const scene = (x: number, y: number, spot: boolean) =>
  900 +
  300 * Math.sin(x / 31 + 0.4) * Math.cos(y / 23) +
  160 * Math.sin((x + 2 * y) / 17) +
  (spot && Math.hypot(x - 150, y - 70) < 12 ? 400 : 0);

function picture(at: (x: number, y: number) => number, noise = 0): Patch {
  const random = seededRandom(3);
  return patchOf(
    Float32Array.from({ length: size.width * size.height }, (_, i) => {
      const [x, y] = [(i % size.width) + 0.5, Math.floor(i / size.width) + 0.5];
      return at(x, y) + noise * random.normal();
    }),
    size
  );
}
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

describe('the difference of two pictures laid over each other', () => {
  const now = picture((x, y) => scene(x, y, true), 4);
  const laid = { scale: 0.9, turn: 0.12, shift: { x: 14, y: -9 } };

  it.each([
    ['the same curve', (value: number) => value],
    ['another exposure', (value: number) => 0.6 * value + 200],
    ['a logarithmic detector', (value: number) => 700 * Math.log(value)],
    ['values the other way round', (value: number) => 4000 - 1.3 * value]
  ])('shows what came anew and nothing else, whatever the curve: %s', (_, curve) => {
    // The earlier picture, turned, larger and shifted, without the spot.
    const then = picture((x, y) => {
      const there = onto(laid, { x, y });
      return curve(scene(there.x, there.y, false));
    });
    const found = differenceOver(now, then, (point) => onto(inverse(laid), point));
    expect(found.coveredShare).toBeGreaterThan(0.6);
    const [spot, rest]: number[][] = [[], []];
    found.data.forEach((value, i) => {
      if (Number.isNaN(value)) return;
      const [x, y] = [(i % size.width) + 0.5, Math.floor(i / size.width) + 0.5];
      const away = Math.hypot(x - 150, y - 70);
      if (away < 9) spot.push(value);
      else if (away > 16) rest.push(Math.abs(value));
    });
    expect(median(spot)).toBeGreaterThan(300);
    expect(median(rest)).toBeLessThan(16);
  });

  it('is grey in the middle where nothing changed, and clear where one of the two shows nothing', () => {
    const found = differenceOver(now, now, ({ x, y }) => ({ x: x + 60, y }));
    expect(found.coveredShare).toBeCloseTo(0.75, 2);
    const same = differenceOver(now, now, (point) => point);
    const out = new Uint8ClampedArray(4 * same.data.length);
    differencePixels(same, out);
    expect([...out.subarray(0, 4)]).toEqual([128, 128, 128, 255]);
    differencePixels(found, out);
    expect([...out.subarray(4 * 239, 4 * 240)]).toEqual([0, 0, 0, 0]);
  });

  it('of pictures that do not touch covers nothing, and one of a single grey is told without a fault', () => {
    const away = differenceOver(now, now, ({ x, y }) => ({ x: x + 1000, y }));
    expect(away.coveredShare).toBe(0);
    expect(away.data.every(Number.isNaN)).toBe(true);
    const flat = picture(() => 5);
    const out = new Uint8ClampedArray(4 * flat.data.length);
    differencePixels(
      differenceOver(flat, flat, (point) => point),
      out
    );
    expect(out[0]).toBe(128);
  });
});
