import type { Point } from '../orientation';
import type { Patch } from '../patch';
import { valueAt } from './sampling';

export interface Difference {
  width: number;
  height: number;
  /** Today's value less the earlier one, in today's values; NaN where one of the two shows nothing. */
  data: Float32Array;
  /** From the darker to the brighter parts of today's picture: what a difference is seen against. */
  contrast: number;
  /** How much of today's picture the earlier one covers, 0 to 1. */
  coveredShare: number;
}

/** Brightnesses are matched at so many steps from the dark to the bright. */
const knots = 33;
const leastShare = 0.01;
/** Values for matching are taken of so many pixels. */
const mostMatched = 60_000;

/**
 * What has changed from one picture to another that is laid over it. The earlier one is first given today's
 * brightness: its values in their order take the places of today's (matching of cumulative histograms, Gonzalez and
 * Woods, 2018, 3.3), so that another exposure, another curve or a window of the device's own is no change. A picture
 * whose values run the other way round is turned over first.
 *
 * @param now the later picture, at any size
 * @param then the earlier one, at any size
 * @param thenAt where a point of `now` lies in `then`, both in pixels of the patches, which are whole pictures
 */
export function differenceOver(now: Patch, then: Patch, thenAt: (point: Point) => Point): Difference {
  const { width, height } = now;
  const data = new Float32Array(width * height).fill(NaN);
  // The map is a similarity between pictures that may be turned, mirrored and stretched: three points tell it.
  const origin = thenAt({ x: 0.5, y: 0.5 });
  const right = thenAt({ x: 1.5, y: 0.5 });
  const below = thenAt({ x: 0.5, y: 1.5 });
  const across = { x: right.x - origin.x, y: right.y - origin.y };
  const down = { x: below.x - origin.x, y: below.y - origin.y };
  let covered = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = { x: origin.x + x * across.x + y * down.x, y: origin.y + x * across.y + y * down.y };
      if (!(at.x >= 0 && at.y >= 0 && at.x <= then.width && at.y <= then.height)) continue;
      data[y * width + x] = valueAt(then, at.x, at.y);
      covered++;
    }
  const spread = quantiles(now.data);
  const contrast = spread[knots - 2] - spread[1];
  if (covered === 0) return { width, height, data, contrast, coveredShare: 0 };
  const match = matching(data, now.data);
  for (let i = 0; i < data.length; i++) if (!Number.isNaN(data[i])) data[i] = now.data[i] - match(data[i]);
  return { width, height, data, contrast, coveredShare: covered / data.length };
}

/** Takes an earlier value to what today's picture has in its place, told where both are. */
function matching(earlier: Float32Array, today: Float32Array): (value: number) => number {
  const step = Math.max(1, Math.floor(earlier.length / mostMatched));
  const [before, after]: number[][] = [[], []];
  for (let i = 0; i < earlier.length; i += step)
    if (!Number.isNaN(earlier[i])) {
      before.push(earlier[i]);
      after.push(today[i]);
    }
  const sign = together(before, after) < 0 ? -1 : 1;
  const from = quantiles(Float32Array.from(before, (value) => sign * value));
  const to = quantiles(Float32Array.from(after));
  return (value) => between(from, to, sign * value);
}

/** Whether two rows of numbers rise together: above 0, or against each other: below it. */
function together(a: readonly number[], b: readonly number[]): number {
  const [meanA, meanB] = [a, b].map((each) => each.reduce((sum, value) => sum + value, 0) / each.length);
  return a.reduce((sum, value, i) => sum + (value - meanA) * (b[i] - meanB), 0);
}

/** Values from the least to the greatest at even shares of how often they occur. */
function quantiles(values: Float32Array): number[] {
  const step = Math.max(1, Math.floor(values.length / mostMatched));
  const few = step === 1 ? Float32Array.from(values) : values.filter((_, i) => i % step === 0);
  few.sort();
  return Array.from({ length: knots }, (_, i) => {
    const share = leastShare + ((1 - 2 * leastShare) * i) / (knots - 1);
    return few[Math.min(few.length - 1, Math.floor(share * few.length))];
  });
}

/** Straight between the knots, and beyond the outermost as steeply as the whole of them. */
function between(from: readonly number[], to: readonly number[], value: number): number {
  const last = from.length - 1;
  const slope = from[last] > from[0] ? (to[last] - to[0]) / (from[last] - from[0]) : 0;
  if (value <= from[0]) return to[0] + (value - from[0]) * slope;
  if (value >= from[last]) return to[last] + (value - from[last]) * slope;
  let i = 0;
  while (from[i + 1] < value) i++;
  const step = from[i + 1] - from[i];
  return step > 0 ? to[i] + ((to[i + 1] - to[i]) * (value - from[i])) / step : to[i + 1];
}

/** As greys: the middle where nothing changed, brighter where today is brighter. Opaque where both show something. */
export function differencePixels({ data, contrast }: Difference, out: Uint8ClampedArray): void {
  const perUnit = contrast > 0 ? (2 * 127) / contrast : 0;
  for (let i = 0; i < data.length; i++) {
    const known = !Number.isNaN(data[i]);
    const grey = known ? 128 + data[i] * perUnit : 0;
    out[4 * i] = out[4 * i + 1] = out[4 * i + 2] = grey;
    out[4 * i + 3] = known ? 255 : 0;
  }
}
