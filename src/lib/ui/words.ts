const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' });

export const dayWords = (iso: string): string => day.format(new Date(iso));
export const clockWords = (iso: string): string => clock.format(new Date(iso));
export const weekdayWords = (date: Date): string => weekday.format(date);

/** Whole years, and months while below two years. */
export function ageWords(birthDate: string, now: Date): string {
  const birth = new Date(`${birthDate}T00:00:00`);
  let months = (now.getFullYear() - birth.getFullYear()) * 12 + now.getMonth() - birth.getMonth();
  if (now.getDate() < birth.getDate()) months -= 1;
  return months < 24 ? `${months} months` : `${Math.floor(months / 12)} years`;
}

export const countWords = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;
