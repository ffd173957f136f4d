import { language } from '../writing';

/** A visit on the strip of time. */
export interface TimeMark {
  at: string;
  count: number;
}

const dayMs = 86_400_000;
const mostTicks = 9;

export interface Timeline {
  /** Days since the first, of the last day on it. */
  days: number;
  /** Where marks stand, 0 to 1, and how tall they are, 0 to 1. */
  marks: { at: number; tall: number }[];
  /** Where a year, a quarter or a month begins, as many as can be read. */
  ticks: { words: string; at: number }[];
  /** The moment at which a day of the strip begins. */
  momentOf: (day: number) => string;
  /** The day of the strip that a moment lies in. */
  dayOf: (moment: string) => number;
}

const monthWords = (date: Date): string =>
  new Intl.DateTimeFormat(language(), { month: 'short', timeZone: 'UTC' }).format(date);

/** A strip of time from the first mark's day to the day after the last; null for fewer than two days. */
export function timelineOf(marks: readonly TimeMark[]): Timeline | null {
  if (marks.length === 0) return null;
  const times = marks.map(({ at }) => Date.parse(at));
  const first = Math.floor(Math.min(...times) / dayMs) * dayMs;
  const days = Math.floor((Math.max(...times) - first) / dayMs) + 1;
  if (days < 2) return null;
  const most = Math.max(1, ...marks.map(({ count }) => count));
  const at = (time: number) => (time - first) / dayMs / days;
  const ticks: Timeline['ticks'] = [];
  const start = new Date(first);
  const months = Math.ceil(days / 30.4);
  const step = months <= mostTicks ? 1 : months <= 3 * mostTicks ? 3 : 12;
  for (let month = Math.ceil((start.getUTCMonth() + 1) / step) * step; ; month += step) {
    const begins = Date.UTC(start.getUTCFullYear(), month, 1);
    if (begins >= first + days * dayMs) break;
    const date = new Date(begins);
    const words = date.getUTCMonth() === 0 ? String(date.getUTCFullYear()) : monthWords(date);
    ticks.push({ words, at: at(begins) });
  }
  return {
    days,
    marks: marks.map(({ count }, i) => ({ at: at(times[i]), tall: Math.sqrt(count / most) })),
    ticks,
    momentOf: (day) => new Date(first + day * dayMs).toISOString(),
    dayOf: (moment) => Math.round((Date.parse(moment) - first) / dayMs)
  };
}
