import { describe, expect, it } from 'vitest';
import { clockOf, dayAfter, dayOf, dayRange, instantOf, isTimeZone, minutesOfDay } from './clinicTime';

const hours = (from: Date, to: Date) => (to.getTime() - from.getTime()) / 3_600_000;

describe('a clinic’s time', () => {
  it('has its own day and clock', () => {
    const at = new Date('2026-10-06T23:30:15Z');
    expect([dayOf(at, 'Asia/Tokyo'), clockOf(at, 'Asia/Tokyo')]).toEqual(['2026-10-07', '08:30:15']);
    expect([dayOf(at, 'Atlantic/Azores'), clockOf(at, 'Atlantic/Azores')]).toEqual([
      '2026-10-06',
      '23:30:15'
    ]);
    expect(minutesOfDay(at, 'Asia/Kolkata')).toBe(5 * 60);
  });
  it('has days of 23 and 25 hours', () => {
    const spring = dayRange('2026-03-29', 'Europe/Lisbon');
    const autumn = dayRange('2026-10-25', 'Europe/Lisbon');
    expect([hours(spring.start, spring.end), hours(autumn.start, autumn.end)]).toEqual([23, 25]);
    expect(dayRange('2026-07-01', 'Pacific/Auckland').start.toISOString()).toBe('2026-06-30T12:00:00.000Z');
  });
  it('gives an instant to a date and clock without a zone, or with one of their own', () => {
    const wall = { year: 2026, month: 7, day: 1, hour: 9, minute: 5, second: 30 };
    expect(instantOf(wall, 'Europe/Lisbon')?.toISOString()).toBe('2026-07-01T08:05:30.000Z');
    expect(instantOf(wall, 'Europe/Lisbon', -330)?.toISOString()).toBe('2026-07-01T14:35:30.000Z');
    // One o'clock did not exist that morning.
    expect(instantOf({ year: 2026, month: 3, day: 29, hour: 1 }, 'Europe/Lisbon')?.toISOString()).toBe(
      '2026-03-29T01:00:00.000Z'
    );
  });
  it('gives none to a date that never was', () => {
    expect(instantOf({ year: 2026, month: 2, day: 30 }, 'UTC')).toBeNull();
    expect(instantOf({ year: 2026, month: 13, day: 1 }, 'UTC')).toBeNull();
    expect(instantOf({ year: 2026, month: 1, day: 1, hour: 24 }, 'UTC')).toBeNull();
  });
  it('goes back and forth over month ends', () => {
    expect([dayAfter('2024-02-28', 1), dayAfter('2026-01-01', -1)]).toEqual(['2024-02-29', '2025-12-31']);
  });
  it('knows zones from other words', () => {
    expect([isTimeZone('Europe/Lisbon'), isTimeZone('UTC'), isTimeZone('Quill/Sound')]).toEqual([
      true,
      true,
      false
    ]);
  });
});
