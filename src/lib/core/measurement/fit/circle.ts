import type { Point } from '../../raster/orientation';
import { type FitResult, fitted } from './levenberg';
import { leastSquares } from './linear';

export interface CircleFit {
  center: Point;
  radius: number;
  fit: FitResult;
}

/**
 * The circle with the least squares of distances from points to it, started from the algebraic one (Kasa, 1976).
 * @returns null when the points coincide or lie on a line
 */
export function fittedCircle(points: readonly Point[]): CircleFit | null {
  if (points.length < 3) throw new RangeError(`a circle needs three points, got ${points.length}`);
  if (points.some(({ x, y }) => !Number.isFinite(x + y)))
    throw new RangeError('a point of the circle is missing');
  const mx = points.reduce((sum, { x }) => sum + x, 0) / points.length;
  const my = points.reduce((sum, { y }) => sum + y, 0) / points.length;
  const size = Math.max(...points.map(({ x, y }) => Math.hypot(x - mx, y - my)));
  if (!(size > 0)) return null;
  const near = points.map(({ x, y }) => ({ x: (x - mx) / size, y: (y - my) / size }));
  const start = leastSquares(
    near.map(({ x, y }) => [x, y, 1]),
    near.map(({ x, y }) => x * x + y * y)
  );
  if (!start) return null;
  const r = Math.sqrt(Math.max(0, start[2] + (start[0] ** 2 + start[1] ** 2) / 4));
  if (!(r > 0 && r < 1e4)) return null;
  const fit = fitted({
    count: near.length,
    start: [start[0] / 2, start[1] / 2, r],
    steps: [1e-6, 1e-6, 1e-6],
    residuals: ([cx, cy, radius], out) =>
      near.forEach(({ x, y }, i) => (out[i] = Math.hypot(x - cx, y - cy) - radius))
  });
  const [cx, cy, radius] = fit.parameters;
  return {
    center: { x: mx + cx * size, y: my + cy * size },
    radius: radius * size,
    fit: { ...fit, rms: fit.rms * size }
  };
}

export interface EllipseFit {
  center: Point;
  /** Half axes, the longer first, and the longer's direction in radians from x towards y. */
  radiusLong: number;
  radiusShort: number;
  angle: number;
  fit: FitResult;
}

/**
 * The ellipse whose outline lies nearest to points. Distances are taken along the ray from the centre, scaled to be
 * square to the outline to first order (Sampson, 1982).
 * @returns null when the points don't tell an ellipse
 */
export function fittedEllipse(points: readonly Point[]): EllipseFit | null {
  if (points.length < 5) throw new RangeError(`an ellipse needs five points, got ${points.length}`);
  const circle = fittedCircle(points);
  if (!circle) return null;
  const size = circle.radius;
  const near = points.map(({ x, y }) => ({
    x: (x - circle.center.x) / size,
    y: (y - circle.center.y) / size
  }));
  // A conic a x^2 + b xy + c y^2 + d x + e y = 1 as the start.
  const conic = leastSquares(
    near.map(({ x, y }) => [x * x, x * y, y * y, x, y]),
    near.map(() => 1)
  );
  const begin = conic ? axesOf(conic) : null;
  const fit = fitted({
    count: near.length,
    start: begin ?? [0, 0, 1.05, 0.95, 0],
    steps: [1e-6, 1e-6, 1e-6, 1e-6, 1e-6],
    lower: [-20, -20, 1e-3, 1e-3, -10],
    upper: [20, 20, 50, 50, 10],
    mostIterations: 200,
    residuals: ([cx, cy, a, b, angle], out) => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      near.forEach(({ x, y }, i) => {
        const u = c * (x - cx) + s * (y - cy);
        const v = -s * (x - cx) + c * (y - cy);
        const f = (u / a) ** 2 + (v / b) ** 2 - 1;
        const slope = 2 * Math.hypot(u / (a * a), v / (b * b));
        out[i] = f / Math.max(1e-9, slope);
      });
    }
  });
  const [cx, cy, a, b, angle] = fit.parameters;
  if (!fit.converged) return null;
  const turn = a >= b ? angle : angle + Math.PI / 2;
  return {
    center: { x: circle.center.x + cx * size, y: circle.center.y + cy * size },
    radiusLong: Math.max(a, b) * size,
    radiusShort: Math.min(a, b) * size,
    angle: Math.atan2(Math.sin(2 * turn), Math.cos(2 * turn)) / 2,
    fit: { ...fit, rms: fit.rms * size }
  };
}

function axesOf([a, b, c, d, e]: number[]): number[] | null {
  const det = 4 * a * c - b * b;
  if (!(det > 0)) return null;
  const x = (b * e - 2 * c * d) / det;
  const y = (b * d - 2 * a * e) / det;
  const f = 1 + a * x * x + b * x * y + c * y * y;
  const angle = Math.atan2(b, a - c) / 2;
  const [co, si] = [Math.cos(angle), Math.sin(angle)];
  const la = a * co * co + b * co * si + c * si * si;
  const lb = a * si * si - b * co * si + c * co * co;
  if (!(f / la > 0 && f / lb > 0)) return null;
  return [x, y, Math.sqrt(f / la), Math.sqrt(f / lb), angle];
}

/** The circle through three points; null when they lie on a line. */
export function throughThree(a: Point, b: Point, c: Point): { x: number; y: number; r: number } | null {
  const d = 2 * (a.x * (b.y - c.y) + b.x * (c.y - a.y) + c.x * (a.y - b.y));
  if (Math.abs(d) < 1e-9) return null;
  const [sa, sb, sc] = [a, b, c].map((p) => p.x * p.x + p.y * p.y);
  const x = (sa * (b.y - c.y) + sb * (c.y - a.y) + sc * (a.y - b.y)) / d;
  const y = (sa * (c.x - b.x) + sb * (a.x - c.x) + sc * (b.x - a.x)) / d;
  return { x, y, r: Math.hypot(a.x - x, a.y - y) };
}
