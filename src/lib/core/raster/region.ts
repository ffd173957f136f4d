import type { Point } from './orientation';
import type { Patch } from './patch';

export type Region =
  | { kind: 'polygon'; points: readonly Point[] }
  | { kind: 'ellipse'; center: Point; radiusX: number; radiusY: number };

export interface RegionStatistics {
  pixels: number;
  mean: number;
  /** Of the pixels themselves, with n - 1. NaN for a single one. */
  standardDeviation: number;
  least: number;
  greatest: number;
  median: number;
}

/**
 * Grey values of the pixels whose middle lies in a region.
 * @returns null when there is none
 */
export function regionStatistics(patch: Patch, region: Region): RegionStatistics | null {
  const values: number[] = [];
  const box = boxOf(region);
  const has = insideOf(region);
  const right = Math.min(patch.left + patch.width, Math.ceil(box.right));
  const bottom = Math.min(patch.top + patch.height, Math.ceil(box.bottom));
  for (let y = Math.max(patch.top, Math.floor(box.top)); y < bottom; y++)
    for (let x = Math.max(patch.left, Math.floor(box.left)); x < right; x++)
      if (has(x + 0.5, y + 0.5)) values.push(patch.data[(y - patch.top) * patch.width + x - patch.left]);
  if (values.length === 0) return null;
  values.sort((a, b) => a - b);
  const count = values.length;
  const mean = values.reduce((a, b) => a + b, 0) / count;
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return {
    pixels: count,
    mean,
    standardDeviation: count > 1 ? Math.sqrt(squares / (count - 1)) : NaN,
    least: values[0],
    greatest: values[count - 1],
    median: (values[(count - 1) >> 1] + values[count >> 1]) / 2
  };
}

/** Counts of values in evenly wide bins from `low` to `high`; what lies outside is in none. */
export function binned(values: ArrayLike<number>, low: number, high: number, bins: number): Uint32Array {
  if (!(high > low)) throw new RangeError(`high must be above low, got ${low} and ${high}`);
  const counts = new Uint32Array(bins);
  const toBin = bins / (high - low);
  for (let i = 0; i < values.length; i++) {
    const value = values[i];
    if (value >= low && value <= high) counts[Math.min(bins - 1, Math.floor((value - low) * toBin))]++;
  }
  return counts;
}

function boxOf(region: Region) {
  if (region.kind === 'ellipse') {
    const { center, radiusX, radiusY } = region;
    if (!(radiusX > 0 && radiusY > 0))
      throw new RangeError(`an ellipse's radii must be above 0, got ${radiusX} and ${radiusY}`);
    return {
      left: center.x - radiusX,
      right: center.x + radiusX,
      top: center.y - radiusY,
      bottom: center.y + radiusY
    };
  }
  if (region.points.length < 3)
    throw new RangeError(`an outline needs three points, got ${region.points.length}`);
  const xs = region.points.map(({ x }) => x);
  const ys = region.points.map(({ y }) => y);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** Even-odd rule for polygons. */
export function insideOf(region: Region): (x: number, y: number) => boolean {
  if (region.kind === 'ellipse') {
    const { center, radiusX, radiusY } = region;
    return (x, y) => ((x - center.x) / radiusX) ** 2 + ((y - center.y) / radiusY) ** 2 <= 1;
  }
  const { points } = region;
  return (x, y) => {
    let odd = false;
    for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
      const [a, b] = [points[i], points[j]];
      if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) odd = !odd;
    }
    return odd;
  };
}
