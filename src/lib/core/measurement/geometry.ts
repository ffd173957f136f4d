import type { Point } from '../raster/orientation';

/** Plane geometry on points with equal units along both axes; y runs down, as in pictures. */

export const distance = (a: Point, b: Point): number => Math.hypot(b.x - a.x, b.y - a.y);
/** The point of the stretch from a to b that is nearest to another. */
export function nearestOnSegment(point: Point, a: Point, b: Point): Point {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const squared = dx * dx + dy * dy;
  const along =
    squared > 0 ? Math.min(1, Math.max(0, ((point.x - a.x) * dx + (point.y - a.y) * dy) / squared)) : 0;
  return { x: a.x + along * dx, y: a.y + along * dy };
}
export const distanceToSegment = (point: Point, a: Point, b: Point): number =>
  distance(point, nearestOnSegment(point, a, b));

export const middleOf = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
/** The middle of several points. */
export const meanOf = (points: readonly Point[]): Point => ({
  x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
  y: points.reduce((sum, { y }) => sum + y, 0) / points.length
});

/** From 0 to 180 degrees at the corner. Worked value: (1,0), corner (0,0), (0,1): 90. NaN when a side has no length. */
export function angleAtDeg(a: Point, corner: Point, b: Point): number {
  const [ux, uy] = [a.x - corner.x, a.y - corner.y];
  const [vx, vy] = [b.x - corner.x, b.y - corner.y];
  if ((ux === 0 && uy === 0) || (vx === 0 && vy === 0)) return NaN;
  return (Math.atan2(Math.abs(ux * vy - uy * vx), ux * vx + uy * vy) * 180) / Math.PI;
}

/**
 * The angle from one direction to another, -180 to 180 degrees, positive clockwise as seen (y runs down).
 * Worked value: from (1,0) to (0,1) is 90.
 */
export function turnDeg(from: Point, to: Point): number {
  if ((from.x === 0 && from.y === 0) || (to.x === 0 && to.y === 0)) return NaN;
  return (Math.atan2(from.x * to.y - from.y * to.x, from.x * to.x + from.y * to.y) * 180) / Math.PI;
}

/** The smaller angle between two lines, 0 to 90 degrees, whichever way they were drawn. */
export function linesDeg(a1: Point, a2: Point, b1: Point, b2: Point): number {
  const turn = Math.abs(turnDeg(between(a1, a2), between(b1, b2)));
  return turn > 90 ? 180 - turn : turn;
}

export const between = (from: Point, to: Point): Point => ({ x: to.x - from.x, y: to.y - from.y });

/** Signed distance of a point from a line: positive on the right of the way from a to b as seen. NaN for no line. */
export function offLine(point: Point, a: Point, b: Point): number {
  const length = distance(a, b);
  if (length === 0) return NaN;
  return ((b.x - a.x) * (point.y - a.y) - (b.y - a.y) * (point.x - a.x)) / length;
}

/** How far along the way from a to b a point's foot lies, in units of length from a. */
export function alongLine(point: Point, a: Point, b: Point): number {
  const length = distance(a, b);
  return ((b.x - a.x) * (point.x - a.x) + (b.y - a.y) * (point.y - a.y)) / length;
}

/** Area inside an outline whose last point joins the first (shoelace). */
export function areaOf(points: readonly Point[]): number {
  let twice = 0;
  points.forEach((a, i) => {
    const b = points[(i + 1) % points.length];
    twice += a.x * b.y - b.x * a.y;
  });
  return Math.abs(twice) / 2;
}

export function pathLength(points: readonly Point[]): number {
  return points.slice(1).reduce((sum, point, i) => sum + distance(points[i], point), 0);
}

/**
 * A smooth curve through points (centripetal Catmull and Rom, so that it never loops between near points), as a path
 * of short straight pieces.
 */
export function smoothPath(points: readonly Point[], pieces = 16): Point[] {
  if (points.length < 3) return [...points];
  const out: Point[] = [points[0]];
  const at = (i: number): Point => {
    if (i < 0) return { x: 2 * points[0].x - points[1].x, y: 2 * points[0].y - points[1].y };
    const last = points.length - 1;
    if (i > last)
      return { x: 2 * points[last].x - points[last - 1].x, y: 2 * points[last].y - points[last - 1].y };
    return points[i];
  };
  for (let i = 0; i < points.length - 1; i++) {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    const ab = Math.sqrt(distance(a, b)) || 1e-9;
    const bc = Math.sqrt(distance(b, c)) || 1e-9;
    const cd = Math.sqrt(distance(c, d)) || 1e-9;
    for (let k = 1; k <= pieces; k++) {
      const t = ab + (bc * k) / pieces;
      const mix = (p: Point, q: Point, from: number, to: number): Point => {
        const s = (t - from) / (to - from);
        return { x: p.x + (q.x - p.x) * s, y: p.y + (q.y - p.y) * s };
      };
      const a1 = mix(a, b, 0, ab);
      const a2 = mix(b, c, ab, ab + bc);
      const a3 = mix(c, d, ab + bc, ab + bc + cd);
      const b1 = mix(a1, a2, 0, ab + bc);
      const b2 = mix(a2, a3, ab, ab + bc + cd);
      out.push(mix(b1, b2, ab, ab + bc));
    }
  }
  return out;
}
