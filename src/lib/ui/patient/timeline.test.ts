import { describe, expect, it } from 'vitest';
import { timelineOf } from './timeline';

const marks = [
  { at: '2024-11-01T09:30:00.000Z', count: 4 },
  { at: '2025-11-01T15:00:00.000Z', count: 16 },
  { at: '2026-02-01T08:00:00.000Z', count: 0 }
];

describe('a strip of time', () => {
  it('holds every mark, the tallest being the one with most, and the quarters or years between', () => {
    const line = timelineOf(marks)!;
    expect(line.days).toBe(458);
    expect(line.marks.map(({ tall }) => tall)).toEqual([0.5, 1, 0]);
    for (const { at } of line.marks) expect(at).toBeGreaterThanOrEqual(0);
    expect(line.marks[2].at).toBeLessThan(1);
    expect(line.ticks.map(({ words }) => words)).toEqual(['2025', 'Apr', 'Jul', 'Oct', '2026']);
    const long = timelineOf([{ at: '2019-05-05T00:00:00.000Z', count: 1 }, ...marks])!;
    expect(long.ticks.map(({ words }) => words)).toEqual([
      '2020',
      '2021',
      '2022',
      '2023',
      '2024',
      '2025',
      '2026'
    ]);
  });

  it('gives moments that hold all of the days at its ends, and the same day back', () => {
    const line = timelineOf(marks)!;
    expect(line.momentOf(0) <= marks[0].at).toBe(true);
    expect(line.momentOf(line.days) > marks[2].at).toBe(true);
    for (const day of [0, 1, 200, line.days]) expect(line.dayOf(line.momentOf(day))).toBe(day);
  });

  it('is none for one day, or nothing', () => {
    expect(timelineOf([])).toBeNull();
    expect(timelineOf([marks[0], { at: '2024-11-01T20:00:00.000Z', count: 1 }])).toBeNull();
  });
});
