import type { PlacedPoint, Scale } from '../calibration/scale';
import type { Point } from '../raster/orientation';
import { angleAtDeg, areaOf, distance, linesDeg, offLine, pathLength, smoothPath } from './geometry';
import { type Value, areaUnit, inPlane, lengthUnit, propagated } from './measured';

type Placed = readonly PlacedPoint[];

function measured(
  placed: Placed,
  count: number,
  scale: Scale | null,
  unit: Value['unit'],
  power: 0 | 1 | 2,
  of: (points: readonly Point[]) => number
): Value {
  if (placed.length < count) throw new RangeError(`${count} points needed, got ${placed.length}`);
  return { ...propagated(inPlane(placed, scale), of, power, scale), unit };
}

/** Along a smooth curve through the points. Worked value: a half circle of radius 10 through 9 points is 31.4. */
export const curveLength = (points: Placed, scale: Scale | null): Value =>
  measured(points, 2, scale, lengthUnit(scale), 1, (p) => pathLength(smoothPath(p)));

/** At the second of three points, 0 to 180 degrees. */
export const angle = (points: Placed, scale: Scale | null): Value =>
  measured(points, 3, scale, 'deg', 0, ([a, corner, b]) => angleAtDeg(a, corner, b));

/** Between the lines through points 1 and 2 and through 3 and 4 (as Cobb, 1948), 0 to 90 degrees. */
export const angleBetweenLines = (points: Placed, scale: Scale | null): Value =>
  measured(points, 4, scale, 'deg', 0, ([a, b, c, d]) => linesDeg(a, b, c, d));

/** Distance of points 1 and 2 over that of 3 and 4. */
export const ratio = (points: Placed, scale: Scale | null): Value =>
  measured(points, 4, scale, '', 0, ([a, b, c, d]) => distance(a, b) / distance(c, d));

/** Of the first point from the line through the next two, square to it; never below 0. */
export const distanceToLine = (points: Placed, scale: Scale | null): Value =>
  measured(points, 3, scale, lengthUnit(scale), 1, ([p, a, b]) => Math.abs(offLine(p, a, b)));

/** Inside an outline, whose last point joins the first. */
export const area = (points: Placed, scale: Scale | null): Value =>
  measured(points, 3, scale, areaUnit(scale), 2, areaOf);
