import { gaussian } from '../../raster/filters/gaussian';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { medianOf } from '../../measurement/fit/linear';

/** A round spot that might be a marker: roughly where and how large, in pixels of the full picture. */
export interface Spot {
  center: Point;
  radiusPx: number;
  /** How much brighter (darker: negative) than around, in the picture's values. */
  contrast: number;
}

const narrowPx = 1.7;
const widePx = 3;
/** Where a spot is has to be known to a pixel only: short taps do. */
const roughReach = 2.2;
/** A disc of this radius answers most to the two widths above. */
const bestRadiusPx = 3.2;
const mostALevel = 60;
/** Answers below this many times the level's own scatter are noise. */
const leastScatter = 5;

/**
 * Round spots of a level of the picture, strongest first: where the difference of two Gaussians has a peak or a pit
 * (Marr and Hildreth, 1980). A level tells of radii from about 2 to 5 of its own pixels.
 * @param factor full-size pixels on a side of one of the level's
 */
export function spots(level: Patch, factor: number): Spot[] {
  const { width, height } = level;
  if (width < 5 || height < 5) return [];
  const narrow = gaussian(level, narrowPx, level, roughReach).data;
  const wide = gaussian(level, widePx, level, roughReach).data;
  const answer = narrow;
  for (let i = 0; i < answer.length; i++) answer[i] -= wide[i];
  const step = Math.max(1, Math.floor(answer.length / 20_000));
  const sampled: number[] = [];
  for (let i = 0; i < answer.length; i += step) sampled.push(Math.abs(answer[i]));
  const least = Math.max(1e-6, leastScatter * medianOf(sampled));
  const found: Spot[] = [];
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      const value = answer[at];
      if (value < least && value > -least) continue;
      if (!isPeak(answer, at, width)) continue;
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

function isPeak(answer: Float32Array, at: number, width: number): boolean {
  const sign = answer[at] > 0 ? 1 : -1;
  const peak = answer[at] * sign;
  for (const by of [-width - 1, -width, -width + 1, -1]) if (answer[at + by] * sign >= peak) return false;
  for (const by of [1, width - 1, width, width + 1]) if (answer[at + by] * sign > peak) return false;
  return true;
}
