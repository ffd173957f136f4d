import { calendarDay, offsetMinutes } from '../../../core/dicom/dates';
import type { ReadSet } from '../../../core/dicom/readSet';
import { code } from '../../../core/dicom/readValues';
import { cleanText, shortened } from '../../../core/text';
import type { OpenedFile } from './opened';

/** Date and time of the acquisition, of the content, of the study: the first that says a date. */
const stamps = [
  ['00080022', '00080032'],
  ['00080023', '00080033'],
  ['00080020', '00080030']
] as const;
/** The year of the first radiograph. */
const firstYear = 1895;

/** When the picture was taken, as the file says; null, with a remark, where it says no day that there has been. */
export function takenAt(set: ReadSet, remarks: string[]): OpenedFile['takenAt'] {
  const offset = code(set, '00080201');
  const zone = offsetMinutes(offset) === undefined ? undefined : offset;
  const whole = /^(\d{8})(\d{6})?/.exec(code(set, '0008002A') ?? '');
  if (whole && isDay(whole[1])) return { date: whole[1], time: timeOf(whole[2]), offset: zone };
  for (const [dateTag, timeTag] of stamps) {
    const said = code(set, dateTag);
    if (!said) continue;
    const date = said.replace(/^(\d{4})\.(\d{2})\.(\d{2})$/, '$1$2$3');
    if (isDay(date)) return { date, time: timeOf(code(set, timeTag)), offset: zone };
    remarks.push(
      `The file’s date (“${shortened(cleanText(said), 16)}”) is no day; the picture stands under the moment it came in.`
    );
    return null;
  }
  remarks.push('The file does not say when the picture was taken; it stands under the moment it came in.');
  return null;
}

function isDay(date: string): boolean {
  const at = calendarDay(date);
  const tomorrow = Date.now() + 36 * 3_600_000;
  return at !== null && at.getUTCFullYear() >= firstYear && at.getTime() < tomorrow;
}

/** HHMMSS; midnight where there is no such time. */
function timeOf(said: string | undefined): string {
  const match = /^([01]\d|2[0-3]):?([0-5]\d)?:?([0-5]\d)?/.exec(said ?? '');
  return match ? `${match[1]}${match[2] ?? '00'}${match[3] ?? '00'}` : '000000';
}
