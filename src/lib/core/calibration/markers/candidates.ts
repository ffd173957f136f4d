import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { squareSums } from './squareMeans';
import { medianOf } from '../../measurement/fit/linear';

/** A round spot that might be a marker: roughly where and how large, in pixels of the full picture. */
export interface Spot {
  center: Point;
  radiusPx: number;
  /** How much brighter (darker: negative) than around, in the picture's values. */
  contrast: number;
}

/** Sides of the squares whose means are compared: a disc of the radius below answers most. */
const innerPx = 5;
const outerPx = 11;
const bestRadiusPx = 3.2;
const mostALevel = 24;
const mostSampled = 8_000;
/** Answers below this many times the level's own scatter are noise. */
const leastScatter = 5;

/**
 * Round spots of a level of the picture, strongest first: where the mean of a small square about a place differs
 * most from that of a large one. A level tells of radii from about 2 to 5 of its own pixels.
 * @param factor full-size pixels on a side of one of the level's
 */
export function spots(level: Patch, factor: number): Spot[] {
  const { width, height } = level;
  if (width < 5 || height < 5) return [];
  const answer = differences(level.data, width, height);
  const step = Math.max(1, Math.floor(answer.length / mostSampled));
  const sampled: number[] = [];
  for (let i = 0; i < answer.length; i += step) sampled.push(Math.abs(answer[i]));
  const least = Math.max(1e-6, leastScatter * medianOf(sampled));
  const found: Spot[] = [];
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      const value = answer[at];
      if (value < least && value > -least) continue;
      if (!isPeak(answer, at, width) || !standsAlone(level, x, y, value)) continue;
      found.push({
        center: { x: (x + 0.5) * factor, y: (y + 0.5) * factor },
        radiusPx: bestRadiusPx * factor,
        contrast: value
      });
    }
  }
  const strongest = (sign: number) =>
    found
      .filter(({ contrast }) => contrast * sign > 0)
      .sort((a, b) => Math.abs(b.contrast) - Math.abs(a.contrast))
      .slice(0, mostALevel);
  return [...strongest(1), ...strongest(-1)];
}

/** Mean of the small square less mean of the large one; squares are smaller at the picture's border. */
function differences(data: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  const small = squareSums(data, width, height, (innerPx - 1) / 2);
  const large = squareSums(data, width, height, (outerPx - 1) / 2);
  for (let y = 0; y < height; y++) {
    const [ofSmall, ofLarge] = [small.at(y), large.at(y)];
    for (let x = 0, at = y * width; x < width; x++, at++)
      out[at] =
        (small.before[x + innerPx] - small.before[x]) * small.share[x] * ofSmall -
        (large.before[x + outerPx] - large.before[x]) * large.share[x] * ofLarge;
  }
  return out;
}

const ringPx = 7;
const ring = Array.from({ length: 16 }, (_, i) => ({
  x: Math.round(ringPx * Math.cos((Math.PI * i) / 8)),
  y: Math.round(ringPx * Math.sin((Math.PI * i) / 8))
}));
/** In more than half of the directions it must be lower around; along an edge it is in half of them at most. */
const leastLower = 9;
const lowerShare = 0.5;

/** Whether a peak is a spot rather than a place beside an edge. Directions beyond the picture's border say nothing against it. */
function standsAlone({ data, width, height }: Patch, x: number, y: number, answer: number): boolean {
  const sign = answer > 0 ? 1 : -1;
  const at = y * width + x;
  const middle = (data[at] + data[at - 1] + data[at + 1] + data[at - width] + data[at + width]) / 5;
  let lower = 0;
  for (const by of ring) {
    const [u, v] = [x + by.x, y + by.y];
    if (u < 0 || v < 0 || u >= width || v >= height) lower += 0.6;
    else if (sign * (middle - data[v * width + u]) > lowerShare * sign * answer) lower++;
  }
  return lower >= leastLower;
}

function isPeak(answer: Float32Array, at: number, width: number): boolean {
  const sign = answer[at] > 0 ? 1 : -1;
  const peak = answer[at] * sign;
  for (const by of [-width - 1, -width, -width + 1, -1]) if (answer[at + by] * sign >= peak) return false;
  for (const by of [1, width - 1, width, width + 1]) if (answer[at + by] * sign > peak) return false;
  return true;
}
