/** Whole years, and months while below two years. Both are calendar days, YYYY-MM-DD. */
export function ageWords(birthDate: string, today: string): string {
  const [birth, now] = [birthDate, today].map((date) => date.split('-').map(Number));
  let months = (now[0] - birth[0]) * 12 + now[1] - birth[1];
  if (now[2] < birth[2]) months -= 1;
  return months < 24 ? `${months} months` : `${Math.floor(months / 12)} years`;
}

export const countWords = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;
