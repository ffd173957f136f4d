import type { PlacedPoint, Scale } from '../calibration/scale';
import type { Point } from '../raster/orientation';

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
  /** Standard uncertainty each way, in the same unit. */
  u: number;
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
    return { x: x * sx, y: y * sy, u: (uncertaintyPx * (sx + sy)) / 2 };
  });
}

export const lengthUnit = (scale: Scale | null): 'mm' | 'px' => (scale ? 'mm' : 'px');
export const areaUnit = (scale: Scale | null): 'mm2' | 'px2' => (scale ? 'mm2' : 'px2');

/**
 * Propagates the places of points through any function of them (GUM 5.1.2), slopes by central differences. Angles are
 * free of the scale; lengths add its share themselves, through `scaled`.
 * @param scaled power of length in the result: 1 for a length, 2 for an area, 0 for angles and ratios
 */
export function propagated(
  points: readonly PlanePoint[],
  of: (points: readonly Point[]) => number,
  scaled: 0 | 1 | 2,
  scale: Scale | null
): { value: number; plusMinus: number } {
  const value = of(points);
  if (!Number.isFinite(value)) throw new RangeError('these points give no value: some of them coincide');
  let variance = 0;
  const moved = points.map(({ x, y }) => ({ x, y }));
  points.forEach((point, i) => {
    for (const axis of ['x', 'y'] as const) {
      const h = point.u > 0 ? point.u * 0.1 : 0;
      if (h === 0) continue;
      moved[i][axis] = point[axis] + h;
      const above = of(moved);
      moved[i][axis] = point[axis] - h;
      const below = of(moved);
      moved[i][axis] = point[axis];
      if (!(Number.isFinite(above) && Number.isFinite(below)))
        throw new RangeError('these points lie too close together for a value');
      variance += (((above - below) / (2 * h)) * point.u) ** 2;
    }
  });
  const fromScale = scaled * value * (scale?.relativeUncertainty ?? 0);
  return { value, plusMinus: coverageFactor * Math.sqrt(variance + fromScale * fromScale) };
}
