import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { patchOf } from '../patch';
import { binned, regionStatistics } from '../region';
import { cropped, resampled } from './resample';
import { fromRotated, rotated, rotatedSize, toRotated } from './rotate';
import { profile, profileAlong, valueAt } from './sampling';

const wave = (width: number, height: number) =>
  patchOf(
    Float32Array.from(
      { length: width * height },
      (_, i) => 100 + 40 * Math.sin((i % width) / 9) + 30 * Math.cos(Math.floor(i / width) / 7)
    ),
    { width, height }
  );

describe('free rotation', () => {
  it('by quarter turns moves samples and changes none', () => {
    const patch = patchOf(Uint8Array.of(1, 2, 3, 4, 5, 6), { width: 3, height: 2 });
    const turn = rotated(patch, { angleDeg: 90, background: 0 });
    expect(turn.picture).toEqual({ width: 2, height: 3 });
    expect([...turn.data]).toEqual([4, 1, 5, 2, 6, 3]);
    expect([...rotated(patch, { angleDeg: -180, background: 0 }).data]).toEqual([6, 5, 4, 3, 2, 1]);
  });
  it('puts every point where its map says, and back', () => {
    const size = { width: 90, height: 60 };
    const random = seededRandom(2);
    const patch = wave(size.width, size.height);
    const angleDeg = 23.4;
    const turned = rotated(patch, { angleDeg, background: 0 });
    expect(turned.picture).toEqual(rotatedSize(size, angleDeg));
    for (let i = 0; i < 50; i++) {
      const point = { x: 5 + 80 * random.uniform(), y: 5 + 50 * random.uniform() };
      const there = toRotated(point, size, angleDeg);
      const back = fromRotated(there, size, angleDeg);
      expect(back.x).toBeCloseTo(point.x, 9);
      expect(back.y).toBeCloseTo(point.y, 9);
      const truth = 100 + 40 * Math.sin((point.x - 0.5) / 9) + 30 * Math.cos((point.y - 0.5) / 7);
      expect(Math.abs(valueAt(turned, there.x, there.y) - truth)).toBeLessThan(0.5);
    }
  });
  it('gives windows that join', () => {
    const patch = wave(50, 40);
    const wish = { angleDeg: 11, background: -1 };
    const whole = rotated(patch, wish);
    const part = rotated(patch, wish, { left: 13, top: 9, width: 20, height: 15 });
    for (let y = 0; y < 15; y++)
      for (let x = 0; x < 20; x++)
        expect(part.data[y * 20 + x]).toBe(whole.data[(9 + y) * whole.width + 13 + x]);
  });
});

describe('another size', () => {
  it('keeps what a smooth picture shows, larger and smaller', () => {
    const patch = wave(120, 80);
    for (const size of [
      { width: 60, height: 40 },
      { width: 200, height: 170 }
    ]) {
      const out = resampled(patch, size);
      for (let y = 5; y < size.height - 5; y += 7)
        for (let x = 5; x < size.width - 5; x += 7) {
          const from = { x: ((x + 0.5) * 120) / size.width - 0.5, y: ((y + 0.5) * 80) / size.height - 0.5 };
          const truth = 100 + 40 * Math.sin(from.x / 9) + 30 * Math.cos(from.y / 7);
          expect(Math.abs(out.data[y * size.width + x] - truth)).toBeLessThan(0.6);
        }
    }
  });
  it('does not fold what is finer than its samples', () => {
    const width = 256;
    const stripes = patchOf(
      Float32Array.from({ length: width * 4 }, (_, i) => 100 + 50 * Math.sin((i % width) * 2.6)),
      { width, height: 4 }
    );
    const out = resampled(stripes, { width: 64, height: 4 }).data;
    for (let x = 4; x < 60; x++) expect(Math.abs(out[x] - 100)).toBeLessThan(1.5);
  });
  it('of one pixel stays what it is', () => {
    const one = patchOf(Uint8Array.of(9), { width: 1, height: 1 });
    for (const value of resampled(one, { width: 3, height: 2 }).data) expect(value).toBeCloseTo(9, 5);
    expect(() => resampled(one, { width: 0, height: 2 })).toThrow('whole pixels');
  });
});

it('a crop is a picture of its own', () => {
  const out = cropped(wave(20, 20), { left: 3, top: 4, width: 5, height: 6 });
  expect(out.picture).toEqual({ width: 5, height: 6 });
  expect(out.data[0]).toBe(wave(20, 20).data[4 * 20 + 3]);
});

describe('profiles', () => {
  const ramp = patchOf(
    Float32Array.from({ length: 400 }, (_, i) => (i % 20) + 2 * Math.floor(i / 20)),
    { width: 20, height: 20 }
  );
  it('run evenly from end to end', () => {
    const out = profile(ramp, { x: 2.5, y: 3.5 }, { x: 12.5, y: 3.5 });
    expect([...out]).toEqual(Array.from({ length: 11 }, (_, i) => 2 + i + 6));
  });
  it('follow bent paths at the same pace', () => {
    const out = profileAlong(
      ramp,
      [
        { x: 2.5, y: 2.5 },
        { x: 6.5, y: 2.5 },
        { x: 6.5, y: 8.5 }
      ],
      2
    );
    expect([...out]).toEqual([6, 8, 10, 14, 18, 22]);
  });
  it('need two points that are there', () => {
    expect(() => profileAlong(ramp, [{ x: 1, y: 1 }])).toThrow('two points');
    expect(() => profile(ramp, { x: NaN, y: 0 }, { x: 1, y: 1 })).toThrow('missing');
  });
});

describe('statistics of a region', () => {
  const patch = patchOf(
    Uint8Array.from({ length: 100 }, (_, i) => i),
    { width: 10, height: 10 }
  );
  it('count the pixels whose middle is inside', () => {
    const square = [
      { x: 2, y: 3 },
      { x: 5, y: 3 },
      { x: 5, y: 5 },
      { x: 2, y: 5 }
    ];
    const found = regionStatistics(patch, { kind: 'polygon', points: square })!;
    expect(found).toMatchObject({ pixels: 6, least: 32, greatest: 44, mean: 38, median: 38 });
    expect(found.standardDeviation).toBeCloseTo(Math.sqrt((2 * (6 ** 2 + 5 ** 2 + 4 ** 2)) / 5), 10);
    const disc = regionStatistics(patch, {
      kind: 'ellipse',
      center: { x: 5, y: 5 },
      radiusX: 2,
      radiusY: 2
    })!;
    expect(disc.pixels).toBe(12);
  });
  it('can be none, or one', () => {
    const far = { kind: 'ellipse', center: { x: 50, y: 5 }, radiusX: 1, radiusY: 1 } as const;
    expect(regionStatistics(patch, far)).toBeNull();
    const one = regionStatistics(patch, { ...far, center: { x: 1.5, y: 1.5 }, radiusX: 0.4, radiusY: 0.4 });
    expect(one).toMatchObject({ pixels: 1, mean: 11, standardDeviation: NaN });
  });
  it('fall into bins', () => {
    expect([...binned(patch.data, 0, 100, 4)]).toEqual([25, 25, 25, 25]);
  });
});
