import {
  CalendarDateTime,
  fromDate,
  parseDate,
  toCalendarDate,
  toTimeZone,
  toZoned
} from '@internationalized/date';
import type { Writing } from './language';

/** Whether a name is a time zone of the IANA database that this machine knows. */
export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** A time zone's name as people read it: "America/New York". */
export const zoneWords = (zone: string): string => zone.replaceAll('_', ' ');

/** The calendar day of an instant at a clinic, YYYY-MM-DD. `dayOf(new Date('2026-10-06T23:30Z'), 'Asia/Tokyo')` is "2026-10-07". */
export const dayOf = (at: Date, timeZone: string): string =>
  toCalendarDate(fromDate(at, timeZone)).toString();

/** The clock of an instant at a clinic, HH:MM:SS. */
export const clockOf = (at: Date, timeZone: string): string =>
  fromDate(at, timeZone).toString().slice(11, 19);

/** The day of an instant at a clinic for people to read: "7 Oct 2026", "7. Okt. 2026". */
export const dayInWords = (at: Date, { timeZone, language }: Writing): string =>
  new Intl.DateTimeFormat(language, { day: 'numeric', month: 'short', year: 'numeric', timeZone }).format(at);

/** A calendar day, YYYY-MM-DD, for people to read; it has no zone. */
export const dateInWords = (date: string, language: string): string =>
  dayInWords(new Date(`${date}T00:00:00Z`), { timeZone: 'UTC', language });

/**
 * When a calendar day begins and ends at a clinic; the end is the next day's beginning. A day is 23 or 25 hours long
 * when the clocks are changed.
 * @throws when it is no calendar day
 */
export function dayRange(day: string, timeZone: string): { start: Date; end: Date } {
  const date = parseDate(day);
  return {
    start: toZoned(date, timeZone).toDate(),
    end: toZoned(date.add({ days: 1 }), timeZone).toDate()
  };
}

export const dayAfter = (day: string, days: number): string => parseDate(day).add({ days }).toString();

/**
 * The instant that a date and a clock without a zone mean at a clinic. A clock that was skipped when the clocks went
 * forward is taken as the one after the gap.
 * @param offsetMinutes east of UTC, where the file says it; then the clinic's zone does not count
 * @returns null when there is no such date
 */
export function instantOf(
  wall: { year: number; month: number; day: number; hour?: number; minute?: number; second?: number },
  timeZone: string,
  offsetMinutes?: number
): Date | null {
  const { year, month, day, hour = 0, minute = 0, second = 0 } = wall;
  const real = new Date(Date.UTC(year, month - 1, day));
  if (real.getUTCMonth() !== month - 1 || real.getUTCDate() !== day || real.getUTCFullYear() !== year)
    return null;
  if (hour > 23 || minute > 59 || second > 60) return null;
  const local = new CalendarDateTime(year, month, day, hour, minute, Math.min(59, second));
  if (offsetMinutes !== undefined)
    return new Date(toZoned(local, 'UTC').toDate().getTime() - offsetMinutes * 60_000);
  return toZoned(local, timeZone).toDate();
}

/** Minutes from midnight of an instant at a clinic. */
export function minutesOfDay(at: Date, timeZone: string): number {
  const { hour, minute } = toTimeZone(fromDate(at, timeZone), timeZone);
  return hour * 60 + minute;
}
