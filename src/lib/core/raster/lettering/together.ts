import { type Area, overlap } from '../area';
import { oddsTogether } from './writing';

/** A line as it was found in one shade, at one level, one way round, in pixels of the picture. */
export interface FoundLine extends Area {
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

/** Of its own features those that are looked at again: how even, crisp and thick its letters are, and its level. */
const ownFeatures = [2, 3, 4, 8, 12, 13, 14];
/** What stands for the odds of a line that is not there; more than so much tells no more, one by one and in sums. */
const noLine = -6;
const mostOdds = 8;
const mostCounted = 5;
/** Letters of one piece of writing differ in height by no more. */
export const alikeTimes = 2.2;

/** How many times as high the letters of one line are as those of another. */
export const timesAsHigh = (a: FoundLine, b: FoundLine): number =>
  Math.max(a.letterPx, b.letterPx) / Math.min(a.letterPx, b.letterPx);

/** How far apart two areas are, along or across, whichever is further; below 0 where they share something. */
export const gapBetween = (a: Area, b: Area): number =>
  Math.max(
    a.left - b.left - b.width,
    b.left - a.left - a.width,
    a.top - b.top - b.height,
    b.top - a.top - a.height
  );

/** Where a line lies along its writing and across it. */
const spanOf = ({ left, top, width, height }: Area, reads: FoundLine['reads']) => {
  const [across, down] = [
    [left, left + width],
    [top, top + height]
  ];
  const [[from, to], [upper, lower]] = reads === 'along' ? [across, down] : [down, across];
  return { from, to, upper, lower };
};

/** Further off than so many of their letters, one line says nothing of the other. */
const nearHeights = 6;

/** How two lines that are near stand to one another. */
function relationOf(a: FoundLine, b: FoundLine) {
  // Both as the first of them reads.
  const [p, q] = [spanOf(a, a.reads), spanOf(b, a.reads)];
  const [low, high] = [Math.min(a.letterPx, b.letterPx), Math.max(a.letterPx, b.letterPx)];
  const alike = timesAsHigh(a, b) < alikeTimes;
  const one = a.reads === b.reads;
  const gap = Math.max(q.from - p.to, p.from - q.to);
  const acrossGap = Math.max(q.upper - p.lower, p.upper - q.lower);
  return {
    same: overlap(a, b) > 0.3,
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
    let [sameShade, otherShade, inRow, otherWay] = [noLine, noLine, noLine, noLine];
    let [rowSum, stackSum, placeSum, elsewhere] = [0, 0, 0, 0];
    lines.forEach((other, j) => {
      if (i === j) return;
      if (gapBetween(line, other) >= nearHeights * Math.max(line.letterPx, other.letterPx)) {
        if (other.odds > 0) elsewhere++;
        return;
      }
      const odds = Math.min(mostOdds, other.odds);
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
      Math.min(mostOdds, line.odds),
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
