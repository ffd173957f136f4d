/** What takes of one device and view show of their dose, of those that people kept. */
export interface UsualDose {
  /** From thin to dense in steps of noise, in the middle one of them: it grows with the root of the dose. */
  span: number;
  /** Takes with a smaller share of the usual dose than this are grainier than what is kept here. */
  leastShare: number;
}

/** Fewer say nothing of what is usual. */
export const leastKept = 8;
const mostShare = 0.4;
/** Below what is kept, by so much. */
const belowKept = 0.85;

/**
 * What is usual, from the spans of kept takes. Where people differ much in what they let through, less is told.
 * @returns null for too few
 */
export function usualDose(spans: readonly number[]): UsualDose | null {
  if (spans.length < leastKept) return null;
  const sorted = [...spans].sort((a, b) => a - b);
  const span = sorted[sorted.length >> 1];
  // The lowest of them may be one that should not have been kept.
  return { span, leastShare: Math.min(mostShare, belowKept * (sorted[1] / span) ** 2) };
}

/** How much of the usual dose a take shows; about, as bodies differ. */
export const shareOfUsual = (span: number, usual: UsualDose): number => (span / usual.span) ** 2;
