import { describe, expect, it } from 'vitest';
import { halved, level, levelCount, levelForZoom } from './pyramid';
import type { Raster } from './raster';

const grey = (width: number, height: number, values: number[]): Raster => ({
  width,
  height,
  channels: 1,
  bitsStored: 16,
  offset: 0,
  data: Uint16Array.from(values)
});

describe('halved', () => {
  it('takes the rounded mean of two by two', () => {
    expect([...halved(grey(4, 2, [0, 2, 65535, 65535, 4, 7, 65535, 65534])).data]).toEqual([3, 65535]);
  });
  it('repeats the edge of an odd picture', () => {
    const half = halved(grey(3, 3, [1, 1, 5, 1, 1, 5, 9, 9, 13]));
    expect([half.width, half.height, ...half.data]).toEqual([2, 2, 1, 5, 9, 13]);
  });
  it('keeps colours apart', () => {
    const half = halved({
      width: 2,
      height: 1,
      channels: 3,
      bitsStored: 8,
      offset: 0,
      data: Uint8Array.from([10, 20, 30, 20, 40, 60])
    });
    expect([...half.data]).toEqual([15, 30, 45]);
  });
  it('keeps the mean of an even picture', () => {
    const values = Array.from({ length: 64 }, (_, i) => (i * 977) % 4096);
    const mean = (data: ArrayLike<number>) => Array.from(data).reduce((a, b) => a + b, 0) / data.length;
    expect(Math.abs(mean(level(grey(8, 8, values), 3).data) - mean(values))).toBeLessThan(1.5);
  });
});

describe('levels', () => {
  it('counts down to the smallest', () => expect(levelCount(2500, 3000)).toBe(5));
  it('chooses at least one sample a screen pixel', () => {
    expect([1, 0.51, 0.5, 0.26, 0.25, 0.01, 3].map((z) => levelForZoom(z, 5))).toEqual([0, 0, 1, 1, 2, 4, 0]);
  });
});
