import { medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import { deviationOf, secondDifference } from '../../raster/noise';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type Outline, ellipseRadius, seenWays } from './outline';

/** Distances of a profile are so far apart. */
export const stepPx = 0.5;
const withinPx = 14;
const beyondPx = 14;
/** What the model leaves out of a profile, as a share of the step. */
const modelShare = 0.002;
/** Pixels share some of their noise with their neighbours: what is added to their scatter. */
const dependent = 1.2;

export interface Profile {
  /** Distances from the centre, and the greys there: 1 inside and 0 well outside. */
  distances: Float64Array;
  shape: Float64Array;
  sigma: Float64Array;
  /** The inside, or the outside, is all of one value at the end of the range. */
  topCut: boolean;
  groundCut: boolean;
  /** The greys inside and outside, as stored, and the noise inside where there is room to see it. */
  inside: number;
  outside: number;
  insideNoise: number | null;
}

/**
 * The profile from the pixels themselves, each at its own distance from the middle (of an oval: as it would be in a
 * circle), half a pixel of distance at a time: nothing is interpolated, so that pixels stay independent of one another.
 * What lies beside differs from direction to direction: each has its own outside.
 */
export function profileOf(patch: Patch, outline: Outline, bright: boolean): Profile | null {
  const { center, radiusPx, ovalPx, ovalAngle, offPx } = outline;
  const seen = seenWays(outline);
  const { width, height, data } = patch;
  const inner = Math.max(0, radiusPx - withinPx);
  const outer = radiusPx + Math.min(beyondPx, 4.5 + radiusPx * 0.5);
  const count = Math.floor((outer - inner) / stepPx);
  const rays = offPx.length;
  const sign = bright ? 1 : -1;
  /** How much further out the outline lies in a direction than a circle of the mean radius. */
  const further = (a: number) => ellipseRadius(radiusPx, ovalPx, ovalAngle, a) - radiusPx;
  const outsides = new Float64Array(rays).fill(NaN);
  let kept = 0;
  for (let i = 0; i < rays; i++) {
    if (!seen[i]) continue;
    const a = (2 * Math.PI * i) / rays;
    const far = outer + further(a);
    const [x, y] = [center.x + far * Math.cos(a), center.y + far * Math.sin(a)];
    if (x < 0 || y < 0 || x > width || y > height) continue;
    const line = [0, 0.5, 1, 1.5].map((nearer) => {
      const r = outer - nearer + further(a);
      return sign * valueAt(patch, center.x + r * Math.cos(a), center.y + r * Math.sin(a));
    });
    outsides[i] = medianOf(line);
    kept++;
  }
  if (kept < 8) return null;
  // A direction's own outside is noisy where the picture is: its neighbours' help.
  const grounds = outsides.map((value, i) => {
    if (Number.isNaN(value)) return NaN;
    const near = [-2, -1, 0, 1, 2]
      .map((by) => outsides[(i + by + rays) % rays])
      .filter((v) => !Number.isNaN(v));
    return medianOf(near);
  });
  const within: number[] = [];
  const bins: number[][] = Array.from({ length: count }, () => []);
  const flatPx = Math.max(1, Math.min(2.5, radiusPx * 0.3));
  const reach = outer + ovalPx + 1;
  const pixels: { k: number; value: number; ray: number }[] = [];
  for (let y = Math.max(0, Math.floor(center.y - reach)); y < Math.min(height, center.y + reach); y++)
    for (let x = Math.max(0, Math.floor(center.x - reach)); x < Math.min(width, center.x + reach); x++) {
      const [dx, dy] = [x + 0.5 - center.x, y + 0.5 - center.y];
      const far = Math.sqrt(dx * dx + dy * dy);
      if (far > reach || far < inner - ovalPx - 1) continue;
      const a = Math.atan2(dy, dx);
      const r = far - further(a);
      const k = Math.floor((r - inner) / stepPx);
      if (k < 0 || k >= count) continue;
      const ray = (Math.round((a / (2 * Math.PI)) * rays) + rays) % rays;
      if (Number.isNaN(grounds[ray])) continue;
      const value = sign * data[y * width + x];
      pixels.push({ k, value, ray });
      if (r < inner + flatPx) within.push(value);
    }
  if (within.length < 3) return null;
  const inside = medianOf(within);
  for (const { k, value, ray } of pixels)
    if (inside > grounds[ray]) bins[k].push((value - grounds[ray]) / (inside - grounds[ray]));
  const distances: number[] = [];
  const shape: number[] = [];
  const sigma: number[] = [];
  // Close to the middle there may be none at a distance: the profile begins where all have some.
  const start = bins.reduce((last, bin, k) => (bin.length < 3 ? k + 1 : last), 0);
  if (start * stepPx > 0.6 * radiusPx) return null;
  bins.forEach((bin, k) => {
    if (k < start) return;
    const { mean, deviation } = trimmed(Float64Array.from(bin));
    distances.push(inner + (k + 0.5) * stepPx);
    shape.push(mean);
    sigma.push(dependent * Math.hypot(deviation / Math.sqrt(bin.length), modelShare));
  });
  if (shape.length < 10) return null;
  const without = [...grounds].filter((value) => !Number.isNaN(value));
  return {
    distances: Float64Array.from(distances),
    shape: Float64Array.from(shape),
    sigma: Float64Array.from(sigma),
    topCut: ofOneValue(within),
    groundCut: ofOneValue(without),
    inside: sign * inside,
    outside: sign * medianOf(without),
    insideNoise: noiseWithin(patch, center, radiusPx)
  };
}

/** Most of them are the very same: the range ended there. */
export const ofOneValue = (values: readonly number[]): boolean => {
  const middle = medianOf(values);
  return values.filter((value) => value === middle).length > 0.5 * values.length;
};

/** Mean of the middle half, and the standard deviation that the whole would have. */
function trimmed(values: Float64Array): { mean: number; deviation: number } {
  const sorted = values.sort();
  const from = Math.floor(sorted.length / 4);
  const to = sorted.length - from;
  let sum = 0;
  for (let i = from; i < to; i++) sum += sorted[i];
  return { mean: sum / (to - from), deviation: (sorted[to - 1] - sorted[from]) / 1.349 };
}

const leastPixels = 40;

/** Standard deviation of the noise in the middle of a round thing; null where there is too little room to see it. */
function noiseWithin({ data, width, height }: Patch, center: Point, radiusPx: number): number | null {
  const reach = 0.62 * radiusPx - 1;
  if (!(Math.PI * reach * reach > leastPixels)) return null;
  const offs: number[] = [];
  const stride = Math.max(1, Math.floor(reach / 12));
  for (let y = Math.ceil(center.y - reach); y < center.y + reach; y += stride)
    for (let x = Math.ceil(center.x - reach); x < center.x + reach; x += stride) {
      if (Math.hypot(x + 0.5 - center.x, y + 0.5 - center.y) > reach) continue;
      if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1) continue;
      offs.push(Math.abs(secondDifference(data, y * width + x, width)));
    }
  if (offs.length < leastPixels) return null;
  const raw = deviationOf(medianOf(offs));
  return raw > 0.5 ? Math.sqrt(Math.max(0.1, raw * raw - 1 / 12)) : null;
}
