import type { Sides } from './markGrid';
import { oddsTogether } from './writing';

/** A line as it was found in one shade, at one level, one way round. Sides in pixels of the picture, right and bottom beyond. */
export interface FoundLine extends Sides {
  reads: 'along' | 'up or down';
  /** Which plane it was found in: bright, dark, coloured. */
  shade: number;
  /** Height of its letters. */
  letterPx: number;
  marks: number;
  /** What its own form tells, and the log odds that this makes. */
  features: readonly number[];
  odds: number;
}

/** Of its own features those that are looked at again: pixels of its letters, their unevenness and the like. */
const ownFeatures = [2, 3, 4, 8, 12, 13, 14];
/** Log odds are told between these, and none at all is the least. */
const [leastOdds, mostOdds] = [-6, 8];
const mostCounted = 5;
/** Letters of one piece of writing differ in height by no more. */
const alikeTimes = 2.2;

/** Where a line lies along its writing and across it. */
const spanOf = ({ left, top, right, bottom, reads }: FoundLine) =>
  reads === 'along'
    ? { from: left, to: right, upper: top, lower: bottom }
    : { from: top, to: bottom, upper: left, lower: right };

/** Of the smaller of two lines, the share that lies in both. */
function sharedBy(a: Sides, b: Sides): number {
  const w = Math.min(a.right, b.right) - Math.max(a.left, b.left);
  const h = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
  if (w <= 0 || h <= 0) return 0;
  const area = (of: Sides) => (of.right - of.left) * (of.bottom - of.top);
  return (w * h) / Math.min(area(a), area(b));
}

/** Whether the gap between two lines is less than six of their letters: further off, one says nothing of the other. */
const isNear = (a: FoundLine, b: FoundLine): boolean =>
  Math.max(a.left - b.right, b.left - a.right, a.top - b.bottom, b.top - a.bottom) <
  6 * Math.max(a.letterPx, b.letterPx);

/** How two lines that are near stand to one another. */
function relationOf(a: FoundLine, b: FoundLine) {
  const [p, q] = [spanOf(a), spanOf(b)];
  const [low, high] = [Math.min(a.letterPx, b.letterPx), Math.max(a.letterPx, b.letterPx)];
  const alike = high < alikeTimes * low;
  const one = a.reads === b.reads;
  // Both as the first of them reads.
  const other = one ? q : { from: q.upper, to: q.lower, upper: q.from, lower: q.to };
  const gap = Math.max(other.from - p.to, p.from - other.to);
  const acrossGap = Math.max(other.upper - p.lower, p.upper - other.lower);
  return {
    same: sharedBy(a, b) > 0.3,
    one,
    alike,
    /** In one row, no further from each other than words are. */
    inRow: one && alike && gap > -0.3 * low && gap < 4 * high && -acrossGap > 0.5 * low,
    /** One above the other, as rows of one text are. */
    stacked: one && alike && acrossGap > -0.3 * low && acrossGap < 1.6 * high && gap < 0
  };
}

/**
 * The log odds of each line with all others regarded: writing is seen in several sizes at once, its letters' insides are
 * marks of the other shade, it stands in rows; what only looks like it is mostly alone.
 */
export function togetherOdds(lines: readonly FoundLine[]): number[] {
  return lines.map((line, i) => {
    let [sameShade, otherShade, inRow, otherWay] = [leastOdds, leastOdds, leastOdds, leastOdds];
    let [rowSum, stackSum, placeSum, elsewhere] = [0, 0, 0, 0];
    lines.forEach((other, j) => {
      if (i === j) return;
      if (!isNear(line, other)) {
        if (other.odds > 0) elsewhere++;
        return;
      }
      const odds = Math.max(-mostOdds, Math.min(mostOdds, other.odds));
      const counted = Math.max(0, Math.min(mostCounted, odds));
      const { same, one, alike, ...stands } = relationOf(line, other);
      if (same && one && alike) {
        placeSum += counted;
        if (line.shade === other.shade) sameShade = Math.max(sameShade, odds);
        else otherShade = Math.max(otherShade, odds);
      }
      if (same && !one) otherWay = Math.max(otherWay, odds);
      if (stands.inRow) {
        rowSum += counted;
        if (line.shade === other.shade) inRow = Math.max(inRow, odds);
      }
      if (stands.stacked) stackSum += counted;
    });
    return oddsTogether([
      Math.max(-mostOdds, Math.min(mostOdds, line.odds)),
      sameShade,
      otherShade,
      inRow,
      rowSum,
      stackSum,
      otherWay,
      Math.log2(1 + elsewhere),
      placeSum,
      Math.log2(line.marks),
      ...ownFeatures.map((k) => line.features[k])
    ]);
  });
}
