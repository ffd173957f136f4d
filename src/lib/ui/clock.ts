import { page } from '$app/state';
import { plainLanguage } from '$core/time/language';
import { language } from './writing';

/** The clinic's time zone: every page shows times as they are there, wherever it is looked at. */
const zone = (): string => (page.data.who as { timeZone: string } | null)?.timeZone ?? 'UTC';

const formats = new Map<string, Intl.DateTimeFormat>();

function format(
  name: string,
  timeZone: string,
  options: Intl.DateTimeFormatOptions,
  written = language()
): Intl.DateTimeFormat {
  const key = `${name} ${timeZone} ${written}`;
  const known = formats.get(key);
  if (known) return known;
  const made = new Intl.DateTimeFormat(written, { ...options, timeZone });
  formats.set(key, made);
  return made;
}

const day = { day: 'numeric', month: 'short', year: 'numeric' } as const;
const hours = { hour: '2-digit', minute: '2-digit' } as const;

/** "7 Oct 2026", of an instant at the clinic. */
export const dayWords = (iso: string): string => format('day', zone(), day).format(new Date(iso));
/** "09:30", of an instant at the clinic; of 24 hours in every language. */
export const clockWords = (iso: string): string =>
  format('clock', zone(), hours, plainLanguage).format(new Date(iso));
/** "09:30:12" */
export const secondsWords = (iso: string): string =>
  format('seconds', zone(), { ...hours, second: '2-digit' }, plainLanguage).format(new Date(iso));

/** "7 Oct 2026, 09:30" */
export const momentWords = (iso: string): string => `${dayWords(iso)}, ${clockWords(iso)}`;
/** The same, of today by its clock alone: "09:30". */
export const whenWords = (iso: string): string =>
  dayAtClinic(iso) === todayAtClinic() ? clockWords(iso) : momentWords(iso);

/** Minutes from midnight of an instant at the clinic. */
export function minutesOfDay(iso: string): number {
  const [hour, minute] = clockWords(iso).split(':').map(Number);
  return hour * 60 + minute;
}

/** "7 Oct 2026", of a calendar day, which has no zone. */
export const dateWords = (date: string): string =>
  format('date', 'UTC', day).format(new Date(`${date}T00:00:00Z`));
/** "Wednesday, 7 October" */
export const weekdayWords = (date: string): string =>
  format('weekday', 'UTC', { weekday: 'long', day: 'numeric', month: 'long' }).format(
    new Date(`${date}T00:00:00Z`)
  );
/** The calendar day that it is now at the clinic, YYYY-MM-DD. */
export const todayAtClinic = (now = new Date()): string =>
  format('iso', zone(), { year: 'numeric', month: '2-digit', day: '2-digit' }, plainLanguage)
    .formatToParts(now)
    .reduce((text, { type, value }) => text.replace(type, value), 'year-month-day');
/** The calendar day of an instant at the clinic, YYYY-MM-DD. */
export const dayAtClinic = (iso: string): string => todayAtClinic(new Date(iso));
