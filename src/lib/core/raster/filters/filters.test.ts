import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type Patch, type Window, grown, patchOf, samplesOf } from '../patch';
import { edgeKeeping } from './edgeKeeping';
import { equaliseFunction, equaliserOf } from './equalise';
import { gaussian, gaussianMargin } from './gaussian';
import { localContrast, localContrastMargin } from './localContrast';
import { median } from './median';
import { gammaFunction, tableFunction, windowFunction } from './tables';
import { unsharp } from './unsharp';

const size = { width: 61, height: 47 };
const random = seededRandom(4);
const noise = Uint16Array.from({ length: size.width * size.height }, () => random.uniform() * 65535);
const whole = patchOf(noise, size);

const contrast = { tiles: 4, clip: 3, low: 0, high: 65535 };
const filters: Record<string, { margin: number; run: (patch: Patch, window?: Window) => Patch }> = {
  gaussian: { margin: gaussianMargin(1.7), run: (p, w) => gaussian(p, 1.7, w) },
  unsharp: {
    margin: gaussianMargin(2),
    run: (p, w) => unsharp(p, { sigmaPx: 2, amount: 0.8, threshold: 200 }, w)
  },
  'median of 9': { margin: 1, run: (p, w) => median(p, 1, w) },
  'median of 25': { margin: 2, run: (p, w) => median(p, 2, w) },
  'edge-keeping smoother': { margin: 3, run: (p, w) => edgeKeeping(p, { radiusPx: 3, range: 4000 }, w) },
  'local contrast': {
    margin: localContrastMargin(size, contrast),
    run: (p, w) => localContrast(p, contrast, w)
  }
};

describe.each(Object.entries(filters))('%s', (_, { margin, run }) => {
  it('gives windows that join without a seam, from patches no larger than its margin asks for', () => {
    const full = run(whole);
    for (const window of [
      { left: 0, top: 0, width: 20, height: 47 },
      { left: 20, top: 5, width: 41, height: 17 },
      { left: 33, top: 30, width: 1, height: 1 }
    ]) {
      const around = patchOf(noise, size, grown(window, margin, size));
      const part = run(around, window);
      for (let y = 0; y < window.height; y++)
        for (let x = 0; x < window.width; x++)
          expect(part.data[y * window.width + x]).toBe(
            full.data[(window.top + y) * size.width + window.left + x]
          );
    }
  });
  it('makes one grey of one grey, also of a single pixel', () => {
    for (const side of [1, 9]) {
      const flat = patchOf(new Uint16Array(side * side).fill(500), { width: side, height: side });
      const { data } = run(flat);
      expect(new Set(data).size).toBe(1);
      if (_ !== 'local contrast') expect(data[0]).toBeCloseTo(500, 3);
    }
  });
  it('works on signed samples as on unsigned ones, shifted', () => {
    if (_ === 'local contrast') return expect(() => run(whole)).not.toThrow();
    const signed = Int16Array.from(noise, (value) => value - 32768);
    const shifted = run(patchOf(signed, size)).data;
    const plain = run(whole).data;
    for (let i = 0; i < plain.length; i += 7)
      expect(Math.abs(shifted[i] + 32768 - plain[i])).toBeLessThan(0.05);
  });
});

it('a Gaussian of a point is the Gaussian itself, and keeps the sum', () => {
  const data = new Float32Array(41 * 41);
  data[20 * 41 + 20] = 1000;
  const out = gaussian(patchOf(data, { width: 41, height: 41 }), 2).data;
  const at = (dx: number, dy: number) => out[(20 + dy) * 41 + 20 + dx];
  for (const [dx, dy] of [
    [0, 0],
    [1, 0],
    [2, 3],
    [-4, 1]
  ])
    expect(at(dx, dy)).toBeCloseTo((1000 / (8 * Math.PI)) * Math.exp(-(dx * dx + dy * dy) / 8), 1);
  expect(out.reduce((a, b) => a + b)).toBeCloseTo(1000, 2);
});

it('a median is that of a sorted list, at the rim too', () => {
  for (const radius of [1, 2] as const) {
    const out = median(whole, radius).data;
    for (const [x, y] of [
      [0, 0],
      [30, 20],
      [60, 46],
      [5, 0]
    ]) {
      const values = [];
      for (let dy = -radius; dy <= radius; dy++)
        for (let dx = -radius; dx <= radius; dx++)
          values.push(
            noise[Math.min(46, Math.max(0, y + dy)) * size.width + Math.min(60, Math.max(0, x + dx))]
          );
      values.sort((a, b) => a - b);
      expect(out[y * size.width + x]).toBe(values[values.length >> 1]);
    }
  }
});

it('smoothing that keeps edges takes noise away on both sides of a step and leaves the step', () => {
  const width = 40;
  const samples = Float32Array.from(
    { length: width * width },
    (_, i) => (i % width < 20 ? 100 : 300) + 5 * random.normal()
  );
  const out = edgeKeeping(patchOf(samples, { width, height: width }), { radiusPx: 4, range: 20 }).data;
  const spread = (from: number, to: number) => {
    const values = [];
    for (let y = 8; y < 32; y++) for (let x = from; x < to; x++) values.push(out[y * width + x]);
    const mean = values.reduce((a, b) => a + b) / values.length;
    return Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length);
  };
  expect(spread(2, 20)).toBeLessThan(2);
  expect(spread(20, 38)).toBeLessThan(2);
  expect(out[20 * width + 20] - out[20 * width + 19]).toBeGreaterThan(180);
});

it('unsharp masking adds the difference to the blurred picture, but not below its threshold', () => {
  const wish = { sigmaPx: 1.5, amount: 2, threshold: 9000 };
  const blurred = gaussian(whole, 1.5).data;
  const out = unsharp(whole, wish).data;
  let kept = 0;
  for (let i = 0; i < out.length; i++) {
    const difference = noise[i] - blurred[i];
    if (Math.abs(difference) <= 9000) {
      kept++;
      expect(out[i]).toBe(noise[i]);
    } else expect(Math.abs(out[i] - (noise[i] + 2 * difference))).toBeLessThan(0.1);
  }
  expect(kept).toBeGreaterThan(300);
});

it('local contrast widens what a tile holds, never more than its limit, and keeps the order of greys within a tile', () => {
  const width = 128;
  const ramp = Float32Array.from(
    { length: width * width },
    (_, i) => 400 + 20 * ((i % width) / width) + (Math.floor(i / width) > 64 ? 300 : 0)
  );
  const patch = patchOf(ramp, { width, height: width });
  const out = localContrast(patch, { tiles: 2, clip: 6, low: 0, high: 1000 }).data;
  const row = 30 * width;
  for (let x = 1; x < 32; x++) expect(out[row + x]).toBeGreaterThanOrEqual(out[row + x - 1]);
  const widened = (out[row + 127] - out[row]) / 20;
  expect(widened).toBeGreaterThan(2);
  expect(widened).toBeLessThan(6.6);
});

describe('windows and tables', () => {
  it('follow the formulas of the standard', () => {
    expect(windowFunction('linear', 100, 50)(100)).toBeCloseTo(0.5 + 0.5 / 49, 12);
    expect(windowFunction('linear', 2048, 4096)(0)).toBe(0);
    expect(windowFunction('linear', 2048, 4096)(4095)).toBeCloseTo(1, 12);
    expect(windowFunction('linear', 0, 1)(-0.5)).toBe(0);
    expect(windowFunction('linear', 0, 1)(0)).toBe(1);
    expect(windowFunction('linear exact', 100, 50)(100)).toBe(0.5);
    expect(windowFunction('linear exact', 100, 50)(74)).toBe(0);
    expect(windowFunction('sigmoid', 100, 50)(125)).toBeCloseTo(1 / (1 + Math.exp(-2)), 12);
    const table = tableFunction(10, [0, 50, 200], 200);
    expect([9, 10, 11, 11.5, 12, 99].map(table)).toEqual([0, 0, 0.25, 0.625, 1, 1]);
    expect(gammaFunction(2)(0.25)).toBe(0.5);
  });
  it('refuse what has no meaning', () => {
    expect(() => windowFunction('linear', 0, 0.5)).toThrow('at least 1');
    expect(() => windowFunction('sigmoid', 0, 0)).toThrow('above 0');
    expect(() => windowFunction('linear', NaN, 5)).toThrow('number');
    expect(() => tableFunction(0, [], 1)).toThrow('entries');
    expect(() => gammaFunction(0)).toThrow('0.1 to 10');
  });
});

it('equalising gives every share of pixels its share of greys', () => {
  const samples = Float32Array.from({ length: 10_000 }, () => random.normal() * 30);
  const each = equaliseFunction(equaliserOf(patchOf(samples, { width: 100, height: 100 })));
  const out = Array.from(samples, each).sort((a, b) => a - b);
  for (const share of [0.1, 0.5, 0.9]) expect(out[share * 10_000]).toBeCloseTo(share, 2);
  const flat = patchOf(new Uint8Array(9).fill(7), { width: 3, height: 3 });
  expect(equaliseFunction(equaliserOf(flat))(7)).toBe(0.5);
});

describe('bad pictures and wishes', () => {
  it('are refused in words', () => {
    expect(() => patchOf(new Uint8Array(5), { width: 2, height: 2 })).toThrow('samples expected');
    expect(() => patchOf(Float32Array.of(1, NaN), { width: 2, height: 1 })).toThrow('not numbers');
    expect(() =>
      patchOf(new Uint8Array(4), { width: 2, height: 2 }, { left: 1, top: 0, width: 2, height: 1 })
    ).toThrow('leaves the picture');
    expect(() => gaussian(whole, 0)).toThrow('above 0');
    expect(() => gaussian(whole, NaN)).toThrow('above 0');
    expect(() => unsharp(whole, { sigmaPx: 1, amount: -1, threshold: 0 })).toThrow('0 to 10');
    expect(() => edgeKeeping(whole, { radiusPx: 2, range: 0 })).toThrow('above 0');
    const narrow = patchOf(noise, size, { left: 10, top: 10, width: 10, height: 10 });
    expect(() => gaussian(narrow, 2)).toThrow('does not reach');
  });
  it('of 12,000 x 12,000 are worked on window by window', () => {
    const picture = { width: 12_000, height: 12_000 };
    const samples = new Uint8Array(picture.width * picture.height);
    expect(() => patchOf(samples, picture)).toThrow('120000000 pixels');
    const window = { left: 11_000, top: 11_000, width: 1000, height: 1000 };
    samples[11_500 * 12_000 + 11_500] = 255;
    const out = gaussian(patchOf(samples, picture, grown(window, 7, picture)), 2, window);
    expect(out.data[500 * 1000 + 500]).toBeCloseTo(255 / (8 * Math.PI), 1);
  });
});

it('samples go back rounded and limited to what they can hold', () => {
  const patch = patchOf(Float32Array.of(-3, 1.5, 254.6, 70_000), { width: 4, height: 1 });
  expect([...samplesOf(patch, new Uint8Array(4))]).toEqual([0, 2, 255, 255]);
  expect([...samplesOf(patch, new Int16Array(4))]).toEqual([-3, 2, 255, 32767]);
});
