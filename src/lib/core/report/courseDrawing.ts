import type { PaperShape } from './postureShapes';

/** A result at one time. */
export interface CourseStep {
  takenAt: string;
  value: number;
  /** Expanded, k = 2. */
  plusMinus: number;
}

export const courseBox = { width: 120, height: 34 };
const margin = 4;
const ink = '#14211d';
const grey = '#9aa5a0';
const red = '#b5371f';
const at = (...numbers: number[]) => numbers.map((each) => Number(each.toFixed(2))).join(' ');

/**
 * A result over time as a small drawing: each value with its ± as a bar, joined by a line, the limits of its range dashed
 * where they lie in sight. Times are to scale.
 * @param steps the oldest first
 * @returns none for fewer than two times
 */
export function courseDrawing(
  steps: readonly CourseStep[],
  range: { low: number | null; high: number | null } | null = null
): PaperShape[] {
  if (steps.length < 2) return [];
  const times = steps.map(({ takenAt }) => Date.parse(takenAt));
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const low = Math.min(...steps.map(({ value, plusMinus }) => value - plusMinus));
  const high = Math.max(...steps.map(({ value, plusMinus }) => value + plusMinus));
  const across = courseBox.width - 2 * margin;
  const down = courseBox.height - 2 * margin;
  const x = (time: number) =>
    margin + (last > first ? (across * (time - first)) / (last - first) : across / 2);
  const y = (value: number) => margin + (high > low ? (down * (high - value)) / (high - low) : down / 2);
  const limits = [range?.low, range?.high].filter(
    (limit): limit is number => typeof limit === 'number' && limit > low && limit < high
  );
  const points = steps.map(({ value, plusMinus }, i) => ({ x: x(times[i]), value, plusMinus }));
  return [
    ...limits.map((limit): PaperShape => ({
      d: `M${at(margin, y(limit))}H${at(margin + across)}`,
      stroke: grey,
      width: 0.6,
      dashed: true
    })),
    {
      d: points.map((point, i) => `${i === 0 ? 'M' : 'L'}${at(point.x, y(point.value))}`).join(''),
      stroke: ink,
      width: 0.8
    },
    ...points.flatMap((point): PaperShape[] => [
      {
        d: `M${at(point.x, y(point.value + point.plusMinus))}V${at(y(point.value - point.plusMinus))}`,
        stroke: red,
        width: 1
      },
      {
        d: `M${at(point.x - 1.6, y(point.value))}a1.6 1.6 0 1 0 3.2 0a1.6 1.6 0 1 0 -3.2 0Z`,
        stroke: red,
        width: 0.4,
        fill: red
      }
    ])
  ];
}
