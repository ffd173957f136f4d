import type { PlacedPoint, Scale } from '../calibration/scale';
import type { Point } from '../raster/orientation';
import { fittedCircle, fittedEllipse } from './fit/circle';
import { type Value, inPlane, lengthUnit, propagated } from './measured';

export interface MeasuredCircle {
  /** In the plane: mm, or pixels without a scale. */
  center: Point;
  diameter: Value;
  /** Root mean square distance of the points from the circle. */
  residual: number;
}

/**
 * A circle through placed points. Its ± has the points' placement and, where it is larger, their own scatter.
 * @throws RangeError when they lie on a line
 */
export function circle(points: readonly PlacedPoint[], scale: Scale | null): MeasuredCircle {
  const plane = inPlane(points, scale);
  const fit = fittedCircle(plane);
  if (!fit) throw new RangeError('these points lie on a line: no circle goes through them');
  const scatter = plane.length > 3 ? fit.fit.rms * Math.sqrt(plane.length / (plane.length - 3)) : 0;
  const scattered = plane.map((point) => ({
    ...point,
    ux: Math.max(point.ux, scatter),
    uy: Math.max(point.uy, scatter)
  }));
  const diameter = propagated(scattered, (p) => 2 * (fittedCircle(p)?.radius ?? NaN), 1, scale);
  return { center: fit.center, diameter: { ...diameter, unit: lengthUnit(scale) }, residual: fit.fit.rms };
}

export interface MeasuredEllipse {
  center: Point;
  longest: Value;
  shortest: Value;
  /** Of the longer axis, in degrees clockwise from x as seen, -90 to 90. */
  angleDeg: number;
  residual: number;
}

/** An ellipse through placed points, in the same way. */
export function ellipse(points: readonly PlacedPoint[], scale: Scale | null): MeasuredEllipse {
  const plane = inPlane(points, scale);
  const fit = fittedEllipse(plane);
  if (!fit) throw new RangeError('no ellipse can be told from these points');
  const scatter = plane.length > 5 ? fit.fit.rms * Math.sqrt(plane.length / (plane.length - 5)) : 0;
  const scattered = plane.map((point) => ({
    ...point,
    ux: Math.max(point.ux, scatter),
    uy: Math.max(point.uy, scatter)
  }));
  const of = (key: 'radiusLong' | 'radiusShort'): Value => ({
    ...propagated(scattered, (p) => 2 * (fittedEllipse(p)?.[key] ?? NaN), 1, scale),
    unit: lengthUnit(scale)
  });
  return {
    center: fit.center,
    longest: of('radiusLong'),
    shortest: of('radiusShort'),
    angleDeg: (fit.angle * 180) / Math.PI,
    residual: fit.fit.rms
  };
}
