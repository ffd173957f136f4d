import { clockOf, dayOf, instantOf } from '../time/clinicTime';

/** A DICOM date, YYYYMMDD, moved by whole days; empty stays empty. `shiftedDate('20240301', -1)` is "20240229". */
export function shiftedDate(date: string, days: number): string {
  if (date === '') return '';
  const match = /^(\d{4})(\d{2})(\d{2})/.exec(date);
  if (!match) throw new RangeError(`not a DICOM date: ${date}`);
  return dicomDate(
    new Date(Date.UTC(Number(match[1]), Number(match[2]) - 1, Number(match[3]) + days)),
    'UTC'
  );
}

/** The day of a DICOM date, YYYYMMDD, at midnight of UTC; null for what is no day of the calendar. */
export function calendarDay(date: string): Date | null {
  const [, year, month, day] = (/^(\d{4})(\d{2})(\d{2})$/.exec(date) ?? []).map(Number);
  if (day === undefined) return null;
  const at = new Date(Date.UTC(year, month - 1, day));
  return at.getUTCMonth() === month - 1 && at.getUTCDate() === day ? at : null;
}

/** The date of an instant at the clinic, as DICOM writes it. */
export const dicomDate = (at: Date, timeZone: string): string => dayOf(at, timeZone).replaceAll('-', '');

/** The time of an instant at the clinic, HHMMSS. */
export const dicomTime = (at: Date, timeZone: string): string => clockOf(at, timeZone).replaceAll(':', '');

/** Minutes east of UTC in a Timezone Offset From UTC (0008,0201); undefined where it is none. */
export function offsetMinutes(text: string | undefined): number | undefined {
  const match = /^([+-])(\d{2})(\d{2})$/.exec(text?.trim() ?? '');
  if (!match) return undefined;
  const minutes = Number(match[2]) * 60 + Number(match[3]);
  return minutes > 14 * 60 ? undefined : match[1] === '-' ? -minutes : minutes;
}

/** The instant of a DICOM date and time, which without an offset are the clinic's. Null when there is no such date. */
export function instantOfDicom(
  stamp: { date: string; time: string; offset?: string },
  timeZone: string
): Date | null {
  const date = /^(\d{4})(\d{2})(\d{2})$/.exec(stamp.date);
  if (!date) return null;
  const [hour = 0, minute = 0, second = 0] = (stamp.time.match(/^(\d{2})(\d{2})?(\d{2})?/) ?? [])
    .slice(1)
    .map((part) => Number(part ?? 0));
  const [year, month, day] = date.slice(1).map(Number);
  return instantOf({ year, month, day, hour, minute, second }, timeZone, offsetMinutes(stamp.offset));
}
