const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

function isoDate(year: number, month: number, day: number): string | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  const real =
    date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
  return real && year >= 1880 ? date.toISOString().slice(0, 10) : null;
}

/** Two figures are of this century up to this year, else of the last. */
const fullYear = (text: string, thisYear: number): number => {
  if (text.length === 4) return Number(text);
  const short = Number(text);
  return short + (short <= thisYear % 100 ? 2000 : 1900);
};

/**
 * The days that somebody may have meant, as YYYY-MM-DD, in any usual way of writing one: `1987-03-14`, `14.3.1987`,
 * `14/03/87`, `14 Mar 1987`, `140387`, `19870314`. Where day and month could be either, both are given, the day first.
 * Empty for what is no day.
 */
export function daysMeant(text: string, thisYear: number): string[] {
  const typed = text.trim().toLowerCase();
  const found: (string | null)[] = [];
  const named = /^(\d{1,2})\.?[\s-]*([a-z]{3})[a-z]*[\s,.-]*(\d{4}|\d{2})$/.exec(typed);
  if (named) {
    const month = months.indexOf(named[2]) + 1;
    if (month > 0) found.push(isoDate(fullYear(named[3], thisYear), month, Number(named[1])));
  }
  const iso = /^(\d{4})[-./ ](\d{1,2})[-./ ](\d{1,2})$/.exec(typed) ?? /^(\d{4})(\d{2})(\d{2})$/.exec(typed);
  if (iso) found.push(isoDate(Number(iso[1]), Number(iso[2]), Number(iso[3])));
  const parts =
    /^(\d{1,2})[-./ ](\d{1,2})[-./ ](\d{4}|\d{2})$/.exec(typed) ??
    /^(\d{2})(\d{2})(\d{4})$/.exec(typed) ??
    /^(\d{2})(\d{2})(\d{2})$/.exec(typed);
  if (parts) {
    const year = fullYear(parts[3], thisYear);
    found.push(
      isoDate(year, Number(parts[2]), Number(parts[1])),
      isoDate(year, Number(parts[1]), Number(parts[2]))
    );
  }
  return [...new Set(found.filter((each): each is string => each !== null))];
}
