import { afterEach, describe, expect, it, vi } from 'vitest';
import { keyMaker } from './ids';

afterEach(() => vi.useRealTimers());
const rising = (ids: readonly string[]) => ids.every((id, i) => i === 0 || id > ids[i - 1]);

describe('keys', () => {
  it('sort by when they were made, also those of one millisecond, and none comes twice', () => {
    const ids = Array.from({ length: 50_000 }, keyMaker());
    expect(rising(ids)).toBe(true);
    expect(new Set(ids).size).toBe(ids.length);
    for (const id of ids.slice(0, 100))
      expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });

  it('sort so while the clock is put back, and by the clock again once it is there', () => {
    vi.useFakeTimers();
    const newId = keyMaker();
    const from = Date.now() + 60_000;
    const ids = [from, from - 5_000, from - 4_999, from, from + 1].map((ms) => {
      vi.setSystemTime(ms);
      return newId();
    });
    expect(rising(ids)).toBe(true);
    expect(parseInt(ids[4].replaceAll('-', '').slice(0, 12), 16)).toBe(from + 1);
  });

  it('can’t be told from the one before', () => {
    vi.useFakeTimers();
    const newId = keyMaker();
    const tails = Array.from({ length: 1_000 }, () => parseInt(newId().slice(-10), 16));
    const steps = tails.slice(1).map((tail, i) => tail - tails[i]);
    expect(new Set(steps).size).toBeGreaterThan(900);
  });
});
