import { type PaperBox, type PaperShape, at, dot, inks } from './paperShapes';

/** A result at one time. */
export interface CourseStep {
  takenAt: string;
  value: number;
  /** Expanded, k = 2. */
  plusMinus: number;
}

export const courseBox: PaperBox = { left: 0, top: 0, width: 120, height: 34 };
const margin = 4;
const dotRadius = 1.6;
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
      stroke: inks.grey,
      width: 0.6,
      dashed: true
    })),
    {
      d: points.map((point, i) => `${i === 0 ? 'M' : 'L'}${at(point.x, y(point.value))}`).join(''),
      stroke: inks.black,
      width: 0.8
    },
    ...points.flatMap((point): PaperShape[] => [
      {
        d: `M${at(point.x, y(point.value + point.plusMinus))}V${at(y(point.value - point.plusMinus))}`,
        stroke: inks.red,
        width: 1
      },
      {
        d: dot(point.x, y(point.value), dotRadius),
        stroke: inks.red,
        width: 0.4,
        fill: inks.red
      }
    ])
  ];
}
