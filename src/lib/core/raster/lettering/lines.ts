import { type Mark, isTall } from './strokes';

/** Marks that stand beside one another as letters of one line do. */
export interface Line {
  marks: Mark[];
  left: number;
  top: number;
  right: number;
  bottom: number;
  /** Height of most of its letters. */
  height: number;
}

const sidesOf = (marks: readonly Mark[]) => ({
  left: Math.min(...marks.map(({ left }) => left)),
  top: Math.min(...marks.map(({ top }) => top)),
  right: Math.max(...marks.map(({ right }) => right)),
  bottom: Math.max(...marks.map(({ bottom }) => bottom))
});
const heightOf = ({ top, bottom }: Mark) => bottom - top + 1;

/** The middle value, of an even number the upper of the two: what the trees that judge lines were fitted to. */
const upperMedianOf = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1];

/** Furthest apart that two letters of a line stand, in heights: a gap between words and a little. */
const widestGap = 1.1;

function belongTogether(a: Mark, b: Mark): boolean {
  const [ha, hb] = [heightOf(a), heightOf(b)];
  const [low, high] = [Math.min(ha, hb), Math.max(ha, hb)];
  if (high > 2.1 * low) return false;
  if (b.left - a.right - 1 > widestGap * high) return false;
  const shared = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) + 1;
  if (shared < 0.5 * low) return false;
  if (Math.max(a.ink, b.ink) > 1.6 * Math.min(a.ink, b.ink)) return false;
  return Math.max(a.stroke, b.stroke) <= 2.2 * Math.min(a.stroke, b.stroke);
}

/** Marks as lines, each mark in one line at most; single marks are none. */
export function linesOf(all: readonly Mark[]): Line[] {
  const marks = all.filter(isTall).sort((a, b) => a.left - b.left);
  const parent = marks.map((_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  const widest = marks.reduce((most, mark) => Math.max(most, mark.right - mark.left), 0);
  for (let i = 0; i < marks.length; i++)
    for (let j = i + 1; j < marks.length; j++) {
      // Sorted by their left sides: nothing further on can be near.
      if (marks[j].left - marks[i].left > widest + 2 * heightOf(marks[i]) * widestGap + 40) break;
      if (marks[j].top > marks[i].bottom || marks[j].bottom < marks[i].top) continue;
      if (belongTogether(marks[i], marks[j])) parent[root(j)] = root(i);
    }
  const groups = new Map<number, Mark[]>();
  marks.forEach((mark, i) => {
    const key = root(i);
    groups.set(key, [...(groups.get(key) ?? []), mark]);
  });
  return [...groups.values()]
    .filter((group) => group.length >= 2)
    .map((group) => ({ marks: group, ...sidesOf(group), height: upperMedianOf(group.map(heightOf)) }));
}

/** What tells writing from what looks like it: numbers of about 0 to 1 each. */
export function featuresOf(line: Line, level: number): number[] {
  const { marks, height } = line;
  const n = marks.length;
  const mean = (of: (mark: Mark) => number) => marks.reduce((sum, mark) => sum + of(mark), 0) / n;
  const spread = (of: (mark: Mark) => number) => {
    const m = mean(of);
    return Math.sqrt(mean((mark) => (of(mark) - m) ** 2));
  };
  const ink = mean((mark) => mark.ink);
  const stroke = upperMedianOf(marks.map((mark) => mark.stroke));
  const boxes = marks.reduce((sum, mark) => sum + (mark.right - mark.left + 1), 0);
  const bars = marks.filter((mark) => {
    const fill = mark.pixels / ((mark.right - mark.left + 1) * heightOf(mark));
    return fill > 0.82 || mark.right - mark.left + 1 < 0.28 * heightOf(mark);
  }).length;
  return [
    Math.min(1, Math.log2(n) / 4),
    Math.min(1, spread((mark) => mark.ink) / ink / 0.5),
    Math.min(1, mean((mark) => mark.unevenness) / 0.4),
    Math.min(
      1,
      mean((mark) => mark.sharpness)
    ),
    Math.min(
      1,
      Math.log2(
        Math.max(
          1,
          mean((mark) => mark.standsOut)
        )
      ) / 6
    ),
    Math.min(1, Math.min(offLevel(marks, 'bottom'), offLevel(marks, 'top')) / (0.5 * height)),
    Math.min(1, offLevel(marks, 'bottom') / (0.5 * height)),
    Math.min(1, spread((mark) => mark.stroke) / stroke),
    Math.min(1, stroke / height / 0.5),
    Math.min(1, boxes / (line.right - line.left + 1)),
    bars / n,
    variety(marks),
    mean((mark) => mark.pixels / ((mark.right - mark.left + 1) * heightOf(mark))),
    Math.min(
      2,
      mean((mark) => mark.crispness)
    ) / 2,
    level / 4
  ];
}

/** Median distance of the marks' upper or lower ends from a straight line through them. */
function offLevel(marks: readonly Mark[], end: 'top' | 'bottom'): number {
  const at = marks.map((mark) => ({ x: (mark.left + mark.right) / 2, y: mark[end] }));
  // The slope by the median of all pairs (Theil and Sen), so that letters with tails do not bend it.
  const slopes = at.flatMap((a, i) =>
    at.slice(i + 1, i + 12).flatMap((b) => (Math.abs(b.x - a.x) > 2 ? [(b.y - a.y) / (b.x - a.x)] : []))
  );
  const slope = slopes.length > 0 ? upperMedianOf(slopes) : 0;
  const rest = at.map(({ x, y }) => y - slope * x);
  const middle = upperMedianOf(rest);
  return upperMedianOf(rest.map((value) => Math.abs(value - middle))) + 3 * Math.abs(slope);
}

/** How different the marks' forms are: 0 all alike, 1 as letters differ. */
function variety(marks: readonly Mark[]): number {
  let [sum, pairs] = [0, 0];
  for (let i = 0; i < marks.length; i++)
    for (let j = i + 1; j < Math.min(marks.length, i + 8); j++) {
      sum += bits(marks[i].pattern ^ marks[j].pattern);
      pairs++;
    }
  return Math.min(1, sum / pairs / 10);
}

function bits(value: number): number {
  let count = 0;
  for (let v = value; v !== 0; v &= v - 1) count++;
  return count;
}
