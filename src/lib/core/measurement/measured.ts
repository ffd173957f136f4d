import type { PlacedPoint, Scale } from '../calibration/scale';
import type { Point } from '../raster/orientation';
import { seededRandom } from '../random';

export type Unit = 'mm' | 'px' | 'deg' | 'mm2' | 'px2' | '%' | '';

/** A measured value with half the width of the interval that holds the truth in 95 of 100 cases. */
export interface Value {
  value: number;
  unit: Unit;
  plusMinus: number;
}

/** Coverage factor of the GUM (ISO/IEC Guide 98-3, 6.2.1) for about 95 %. */
export const coverageFactor = 2;

/** A point in the plane that lengths are measured in, mm or, without a scale, pixels of equal sides. */
export interface PlanePoint extends Point {
  /** Standard uncertainty along x and along y, in the same unit: they differ where pixels are not square. */
  ux: number;
  uy: number;
}

/**
 * Image points to the plane: x and y each by their own spacing, so that angles and lengths are right when pixels are
 * not square. Without a scale pixels are taken to be square.
 * @throws RangeError when a point is missing or the scale is not above 0
 */
export function inPlane(points: readonly PlacedPoint[], scale: Scale | null): PlanePoint[] {
  const sx = scale?.mmPerPixelX ?? 1;
  const sy = scale?.mmPerPixelY ?? 1;
  if (!(sx > 0 && sy > 0 && Number.isFinite(sx) && Number.isFinite(sy)))
    throw new RangeError(`a scale must be above 0, got ${sx} and ${sy} mm per pixel`);
  return points.map(({ x, y, uncertaintyPx }, i) => {
    if (!(Number.isFinite(x) && Number.isFinite(y))) throw new RangeError(`point ${i + 1} is missing`);
    return { x: x * sx, y: y * sy, ux: uncertaintyPx * sx, uy: uncertaintyPx * sy };
  });
}

export const lengthUnit = (scale: Scale | null): 'mm' | 'px' => (scale ? 'mm' : 'px');
export const areaUnit = (scale: Scale | null): 'mm2' | 'px2' => (scale ? 'mm2' : 'px2');

/** Bends of a function within its points' uncertainty, as a share of its slopes, that slopes alone no longer tell. */
const straightShare = 0.1;
const samples = 400;
const tooClose = () => new RangeError('these points lie too close together for a value');

/**
 * Propagates the places of points through any function of them: by slopes (GUM 5.1.2) where the function is straight
 * within their uncertainty, else by drawing the points anew (GUM Supplement 1), the same draws each time. Angles are free
 * of the scale; lengths add its share themselves, through `scaled`.
 * @param scaled power of length in the result: 1 for a length, 2 for an area, 0 for angles and ratios
 * @throws RangeError when the points give no value
 */
export function propagated(
  points: readonly PlanePoint[],
  of: (points: readonly Point[]) => number,
  scaled: 0 | 1 | 2,
  scale: Scale | null
): { value: number; plusMinus: number } {
  const value = of(points);
  if (!Number.isFinite(value)) throw new RangeError('these points give no value: some of them coincide');
  const { variance, bend } = slopes(points, of, value);
  const straight = bend <= straightShare * straightShare * variance;
  const placement = straight ? coverageFactor * Math.sqrt(variance) : drawnHalfWidth(points, of, value);
  const fromScale = coverageFactor * scaled * value * (scale?.relativeUncertainty ?? 0);
  return { value, plusMinus: Math.hypot(placement, fromScale) };
}

/** Variance by slopes, and the square of what second differences add over one standard uncertainty. */
function slopes(
  points: readonly PlanePoint[],
  of: (points: readonly Point[]) => number,
  value: number
): { variance: number; bend: number } {
  let [variance, bend] = [0, 0];
  const moved = points.map(({ x, y }) => ({ x, y }));
  const at = (i: number, axis: 'x' | 'y', by: number): number => {
    moved[i][axis] = points[i][axis] + by;
    const found = of(moved);
    moved[i][axis] = points[i][axis];
    return found;
  };
  points.forEach(({ ux, uy }, i) => {
    for (const [axis, u] of [
      ['x', ux],
      ['y', uy]
    ] as const) {
      if (!(u > 0)) continue;
      const h = 0.1 * u;
      const slope = (at(i, axis, h) - at(i, axis, -h)) / (2 * h);
      const second = at(i, axis, u) + at(i, axis, -u) - 2 * value;
      // Where a step as large as the uncertainty gives no value, the draws tell how often that is.
      bend += Number.isFinite(slope + second) ? second * second : Infinity;
      if (Number.isFinite(slope)) variance += (slope * u) ** 2;
    }
  });
  return { variance, bend };
}

/** Half the width about the value that leaves out at most 2.5 of 100 draws on either side: skewed ones lean to one side. */
function drawnHalfWidth(
  points: readonly PlanePoint[],
  of: (points: readonly Point[]) => number,
  value: number
): number {
  const random = seededRandom(samples);
  const away = Float64Array.from({ length: samples }, () => {
    const drawn = of(
      points.map(({ x, y, ux, uy }) => ({ x: x + ux * random.normal(), y: y + uy * random.normal() }))
    );
    return Number.isFinite(drawn) ? drawn - value : Infinity;
  }).sort();
  const out = Math.floor(samples / 40);
  const width = Math.max(away[samples - 1 - out], -away[out]);
  if (!Number.isFinite(width)) throw tooClose();
  return width;
}
