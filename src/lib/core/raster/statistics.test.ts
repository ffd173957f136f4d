import { describe, expect, it } from 'vitest';
import { windowOf } from './look/look';
import { firstLook, histogram, percentile } from './statistics';

const ramp = {
  width: 1000,
  height: 1,
  channels: 1 as const,
  bitsStored: 12,
  offset: 0,
  data: Uint16Array.from({ length: 1000 }, (_, i) => i)
};

describe('statistics', () => {
  it('finds percentiles of a ramp', () => {
    const counts = histogram(ramp);
    expect(percentile(counts, 0.5)).toBe(499);
    expect(percentile(counts, 0)).toBe(0);
    expect(percentile(counts, 1)).toBe(999);
  });
  it('opens a ramp over nearly its whole range', () => {
    const window = windowOf(firstLook(ramp))!;
    expect(window.width).toBeGreaterThan(990);
    expect(window.center).toBeCloseTo(500, -1);
  });
  it('ignores one hot sample', () => {
    const data = new Uint16Array(10_000).fill(500);
    data.fill(600, 5000);
    data[7] = 4095;
    expect(windowOf(firstLook({ ...ramp, width: 10_000, data }))!.width).toBeLessThan(110);
  });
  it('gives a usable window for a picture of one grey', () => {
    const look = firstLook({ ...ramp, data: new Uint16Array(1000).fill(7) });
    expect(windowOf(look)!.width).toBeGreaterThanOrEqual(2);
  });
});
