import { alongLine, middleOf } from '../../measurement/geometry';
import type { Point } from '../../raster/orientation';
import type { Shape } from '../drawing';

/** Pieces that several kinds of drawings are made of. Everything in image pixels; `aspect` is a pixel's height over its width. */

export const line = (from: Point, to: Point, dashed = false): Shape => ({ kind: 'line', from, to, dashed });

export const closed = (points: readonly Point[]): Shape => ({ kind: 'path', points, closed: true });

/** Between the middles of two lines: where the words of what is measured between them stand. */
export const betweenLines = ([a, b, c, d]: readonly Point[]): Point =>
  middleOf(middleOf(a, b), middleOf(c, d));

export const squared = ({ x, y }: Point, aspect: number): Point => ({ x, y: y * aspect });
export const unsquared = ({ x, y }: Point, aspect: number): Point => ({ x, y: y / aspect });

/** The foot of a point on the line through two others, square to it as the eye sees it; null for no line. */
export function footOn(point: Point, a: Point, b: Point, aspect: number): Point | null {
  const [p, from, to] = [point, a, b].map((each) => squared(each, aspect));
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (!(length > 0)) return null;
  const share = alongLine(p, from, to) / length;
  return { x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) };
}

const roundSteps = 96;

/** An ellipse as a closed path. @param angle of its first radius, clockwise from x as seen */
export function roundPath(
  center: Point,
  radiusOne: number,
  radiusTwo: number,
  angle: number,
  aspect: number
): Shape {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return closed(
    Array.from({ length: roundSteps }, (_, i) => {
      const at = (2 * Math.PI * i) / roundSteps;
      const [u, v] = [radiusOne * Math.cos(at), radiusTwo * Math.sin(at)];
      return unsquared({ x: center.x + u * cos - v * sin, y: center.y + u * sin + v * cos }, aspect);
    })
  );
}
