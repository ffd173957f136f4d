/** A DICOM date, YYYYMMDD, moved by whole days; empty stays empty. `shiftedDate('20240301', -1)` is "20240229". */
export function shiftedDate(date: string, days: number): string {
  if (date === '') return '';
  const match = /^(\d{4})(\d{2})(\d{2})/.exec(date);
  if (!match) throw new RangeError(`not a DICOM date: ${date}`);
  const moved = new Date(Date.UTC(Number(match[1]), Number(match[2]) - 1, Number(match[3]) + days));
  return dicomDate(moved);
}

export function dicomDate(date: Date): string {
  return date.toISOString().slice(0, 10).replaceAll('-', '');
}

export function dicomTime(date: Date): string {
  return date.toISOString().slice(11, 19).replaceAll(':', '');
}
