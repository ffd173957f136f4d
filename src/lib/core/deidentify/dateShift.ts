import { shiftedDate } from '../dicom/dates';

/** How far a patient's dates are moved: the same for all of them, so that what lay between them stays. */
export interface Shift {
  /** Whole days, negative for earlier. */
  dateShiftDays: number;
  /** Beside them, seconds of the day, where times are moved too. */
  clockShiftSeconds: number;
}

const daySeconds = 86_400;

/** Seconds since midnight of a DICOM time, which may leave out what comes after the hour; null where it is none. */
function secondsOf(time: string): number | null {
  const match = /^(\d{2})(\d{2})?(\d{2})?(\.\d{1,6})?$/.exec(time.trim());
  if (!match) return null;
  return Number(match[1]) * 3600 + Number(match[2] ?? 0) * 60 + Number(match[3] ?? 0);
}

const fractionOf = (time: string): string => /\.\d{1,6}$/.exec(time.trim())?.[0] ?? '';

const clock = (seconds: number): string =>
  [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
    .map((part) => String(part).padStart(2, '0'))
    .join('');

/** A time of day, moved; around midnight it goes on from the other end, and its date goes with it. */
export function movedTime(time: string, { clockShiftSeconds }: Shift): string {
  const seconds = secondsOf(time);
  if (seconds === null) return '';
  const moved = (((seconds + clockShiftSeconds) % daySeconds) + daySeconds) % daySeconds;
  return clock(moved) + fractionOf(time);
}

/**
 * A DICOM date, moved, by one day more or less where its time goes over midnight. What is no date is left out.
 * @param time that stands beside it; empty where there is none or it is not moved
 */
export function movedDate(date: string, time: string, shift: Shift): string {
  if (!/^\d{8}$/.test(date.trim())) return '';
  const seconds = secondsOf(time);
  const days = seconds === null ? 0 : Math.floor((seconds + shift.clockShiftSeconds) / daySeconds);
  return shiftedDate(date.trim(), shift.dateShiftDays + days);
}

/** A DICOM date and time in one. What it says of its offset from UTC is left out. @param fixed time instead of its own */
export function movedMoment(moment: string, shift: Shift, fixed: string | null): string {
  const match = /^(\d{8})(\d{2,6}(?:\.\d{1,6})?)?(?:[+-]\d{4})?$/.exec(moment.trim());
  if (!match) return '';
  const [, date, time = ''] = match;
  if (fixed !== null) return movedDate(date, '', shift) + fixed;
  return movedDate(date, time, shift) + (time === '' ? '' : movedTime(time, shift));
}
