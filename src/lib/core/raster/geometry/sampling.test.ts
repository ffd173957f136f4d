import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import type { Patch } from '../patch';
import { profile, profileAlong, valueAt } from './sampling';

/** A patch cut out of a larger picture, whose samples are those of a function at their middles. */
function patchOf(
  width: number,
  height: number,
  f: (x: number, y: number) => number,
  left = 0,
  top = 0
): Patch {
  const data = Float32Array.from({ length: width * height }, (_, i) =>
    f(left + (i % width) + 0.5, top + Math.floor(i / width) + 0.5)
  );
  return { data, width, height, left, top } as Patch;
}
const plane = (x: number, y: number) => 3 * x - 2 * y + 7;

describe('a value between samples', () => {
  it('of a plane is the plane’s, in a patch from anywhere', () => {
    const random = seededRandom(5);
    const patch = patchOf(20, 15, plane, 100, 40);
    for (let i = 0; i < 200; i++) {
      const [x, y] = [100.5 + random.uniform() * 19, 40.5 + random.uniform() * 14];
      expect(valueAt(patch, x, y)).toBeCloseTo(plane(x, y), 3);
    }
  });
  it('at a sample’s middle is the sample', () => {
    const patch = patchOf(4, 3, (x, y) => Math.sin(x * 9) + y);
    for (let i = 0; i < 12; i++)
      expect(valueAt(patch, (i % 4) + 0.5, Math.floor(i / 4) + 0.5)).toBeCloseTo(patch.data[i], 6);
  });
  it('outside goes on as the outermost samples', () => {
    const patch = patchOf(4, 3, plane);
    expect(valueAt(patch, -20, 1.5)).toBeCloseTo(plane(0.5, 1.5), 5);
    expect(valueAt(patch, 2.5, 99)).toBeCloseTo(plane(2.5, 2.5), 5);
    expect(valueAt(patch, 99, -99)).toBeCloseTo(plane(3.5, 0.5), 5);
  });
  it('is there also in a picture of one row, one column, one sample', () => {
    expect(valueAt(patchOf(5, 1, plane), 2.25, 0.9)).toBeCloseTo(plane(2.25, 0.5), 5);
    expect(valueAt(patchOf(1, 5, plane), 0.1, 2.25)).toBeCloseTo(plane(0.5, 2.25), 5);
    expect(valueAt(patchOf(1, 1, plane), 7, 7)).toBeCloseTo(plane(0.5, 0.5), 5);
  });
});

describe('a profile', () => {
  const patch = patchOf(30, 30, plane);
  it('holds both ends and steps no wider than asked', () => {
    const values = profile(patch, { x: 2, y: 2 }, { x: 5, y: 6 }, 1);
    expect(values).toHaveLength(6);
    expect(values[0]).toBeCloseTo(plane(2, 2), 4);
    expect(values[5]).toBeCloseTo(plane(5, 6), 4);
    expect(profile(patch, { x: 2, y: 2 }, { x: 5, y: 6 }, 0.4)).toHaveLength(14);
    expect([...profile(patch, { x: 4, y: 4 }, { x: 4, y: 4 })]).toEqual([plane(4, 4), plane(4, 4)]);
  });
  it('along a bent path is evenly spaced over the bend, and points twice in one place do no harm', () => {
    const path = [
      { x: 2, y: 2 },
      { x: 2, y: 2 },
      { x: 10, y: 2 },
      { x: 10, y: 8 }
    ];
    const values = profileAlong(patch, path, 2);
    const expected = [2, 4, 6, 8, 10].map((x) => plane(x, 2)).concat([4, 6, 8].map((y) => plane(10, y)));
    expect(values).toHaveLength(expected.length);
    expected.forEach((value, i) => expect(values[i]).toBeCloseTo(value, 4));
  });
  it('of no path, no step or a missing point is refused', () => {
    expect(() => profileAlong(patch, [{ x: 1, y: 1 }])).toThrow('two points');
    expect(() => profile(patch, { x: 1, y: 1 }, { x: 2, y: 2 }, 0)).toThrow('above 0');
    expect(() => profile(patch, { x: NaN, y: 1 }, { x: 2, y: 2 })).toThrow('missing');
  });
});
