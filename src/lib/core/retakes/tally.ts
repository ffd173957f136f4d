import { type GradeReason, reasonOfAdvice } from '../picture/gradeReasons';
import { type AdviceView, standingAdvice } from '../picture/adviceView';
import type { Graded } from '../picture/layers/grade/grade';

/** By what retakes are counted. */
export const tallyBy = ['month', 'operator', 'device', 'slot'] as const;
export type TallyBy = (typeof tallyBy)[number];

/** A take that was exposed for a slot. */
export interface CountedTake {
  /** YYYY-MM at the clinic. */
  month: string;
  operator: string;
  device: string;
  slot: string;
  /** Another exposure took its place. */
  retaken: boolean;
  grade: Graded | null;
  advice: readonly AdviceView[] | null;
}

export const unsaid = 'not said';
export type RetakeReason = GradeReason | typeof unsaid;

export interface TallyRow {
  group: string;
  takes: number;
  retakes: number;
  reasons: Partial<Record<RetakeReason, number>>;
}

/**
 * Why a take was taken again: what a person said when grading it, the first of several; else what the computer saw and
 * nobody denied; else nobody said.
 */
export function retakeReason({ grade, advice }: Pick<CountedTake, 'grade' | 'advice'>): RetakeReason {
  const said = grade?.reasons[0];
  if (said) return said;
  const [seen] = standingAdvice(advice);
  return seen ? reasonOfAdvice(seen.kind) : unsaid;
}

/** Every month from the first to the last, those without any take too. */
function monthsBetween(months: readonly string[]): string[] {
  const [first, last] = [months.toSorted()[0], months.toSorted().at(-1)];
  const all: string[] = [];
  for (let at = first; at && at <= last!; at = monthAfter(at)) all.push(at);
  return all;
}
function monthAfter(month: string): string {
  const [year, number] = month.split('-').map(Number);
  return number === 12 ? `${year + 1}-01` : `${year}-${String(number + 1).padStart(2, '0')}`;
}

/** How many of the takes were taken again, and why: months in their order, everything else by the most retakes. */
export function tally(takes: readonly CountedTake[], by: TallyBy): TallyRow[] {
  const rows = new Map<string, TallyRow>();
  for (const take of takes) {
    const group = take[by];
    const row = rows.get(group) ?? { group, takes: 0, retakes: 0, reasons: {} };
    rows.set(group, row);
    row.takes += 1;
    if (!take.retaken) continue;
    row.retakes += 1;
    const reason = retakeReason(take);
    row.reasons[reason] = (row.reasons[reason] ?? 0) + 1;
  }
  const all = [...rows.values()];
  return by === 'month'
    ? monthsBetween(all.map(({ group }) => group)).map(
        (group) => rows.get(group) ?? { group, takes: 0, retakes: 0, reasons: {} }
      )
    : all.sort((a, b) => b.retakes - a.retakes || b.takes - a.takes || a.group.localeCompare(b.group));
}
