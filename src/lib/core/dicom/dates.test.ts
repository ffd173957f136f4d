import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { dicomDate, dicomTime, instantOfDicom, offsetMinutes, shiftedDate } from './dates';

describe('dates of DICOM', () => {
  it('are moved over the ends of months and years, and over leap days', () => {
    expect(shiftedDate('20240301', -1)).toBe('20240229');
    expect(shiftedDate('20230301', -1)).toBe('20230228');
    expect(shiftedDate('20231231', 1)).toBe('20240101');
    expect(shiftedDate('20240229', 366)).toBe('20250301');
    expect(shiftedDate('', -400)).toBe('');
    expect(() => shiftedDate('March', 1)).toThrow('not a DICOM date: March');
  });
  it('moved there and back are the same, and keep their distance', () => {
    const random = seededRandom(11);
    for (let i = 0; i < 300; i++) {
      const date = dicomDate(new Date(Date.UTC(1920, 0, Math.floor(random.uniform() * 50_000))), 'UTC');
      const days = Math.floor(random.uniform() * 8_000) - 4_000;
      expect(shiftedDate(shiftedDate(date, days), -days)).toBe(date);
      const other = shiftedDate(date, 17);
      expect(shiftedDate(shiftedDate(other, days), -17)).toBe(shiftedDate(date, days));
    }
  });
  it('and times are those of the clinic’s clock', () => {
    const at = new Date('2026-11-25T11:30:05Z');
    expect([dicomDate(at, 'Pacific/Auckland'), dicomTime(at, 'Pacific/Auckland')]).toEqual([
      '20261126',
      '003005'
    ]);
    expect([dicomDate(at, 'America/Anchorage'), dicomTime(at, 'America/Anchorage')]).toEqual([
      '20261125',
      '023005'
    ]);
  });
});

describe('an instant in a file', () => {
  const inOslo = (date: string, time: string, offset?: string) =>
    instantOfDicom({ date, time, offset }, 'Europe/Oslo')?.toISOString() ?? null;
  it('without an offset is the clinic’s, in summer and in winter', () => {
    expect(inOslo('20260115', '093000')).toBe('2026-01-15T08:30:00.000Z');
    expect(inOslo('20260715', '093000')).toBe('2026-07-15T07:30:00.000Z');
  });
  it('with an offset is where that says, whatever zone the clinic is in', () => {
    expect(inOslo('20260715', '093000', '-0500')).toBe('2026-07-15T14:30:00.000Z');
    expect(inOslo('20260715', '093000', '+0530')).toBe('2026-07-15T04:00:00.000Z');
    expect(inOslo('20260715', '093000', '+9900')).toBe('2026-07-15T07:30:00.000Z');
  });
  it('may leave out minutes, seconds and the time itself, and carry parts of a second', () => {
    expect(inOslo('20260115', '0930')).toBe('2026-01-15T08:30:00.000Z');
    expect(inOslo('20260115', '09')).toBe('2026-01-15T08:00:00.000Z');
    expect(inOslo('20260115', '')).toBe('2026-01-14T23:00:00.000Z');
    expect(inOslo('20260115', '093000.123456')).toBe('2026-01-15T08:30:00.000Z');
  });
  it('is none where the date is none', () => {
    for (const date of ['', '2026', '2026-01-15', '20261301', '20260230', 'abcdefgh'])
      expect(inOslo(date, '093000'), date).toBeNull();
  });
  it('comes back from what was written for it, every hour of a year but the one that clocks repeat', () => {
    for (let hour = 0; hour < 365 * 24; hour += 7) {
      const at = new Date(Date.UTC(2026, 0, 1, hour, 14, 9));
      const back = instantOfDicom(
        { date: dicomDate(at, 'Europe/Oslo'), time: dicomTime(at, 'Europe/Oslo') },
        'Europe/Oslo'
      )!;
      const off = Math.abs(back.getTime() - at.getTime());
      // On the last Sunday of October an hour is there twice.
      expect([0, 3_600_000]).toContain(off);
      if (off > 0) expect(at.toISOString().slice(0, 10)).toBe('2026-10-25');
    }
  });
});

it('offsets are minutes east, within what there is on earth', () => {
  expect(['+0000', '-0330', '+1400', ' +0100 '].map(offsetMinutes)).toEqual([0, -210, 840, 60]);
  for (const none of [undefined, '', '0100', '+1401', '+01:00', 'Z'])
    expect(offsetMinutes(none)).toBeUndefined();
});
