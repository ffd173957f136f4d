import { distanceToSegment } from '../measurement/geometry';
import type { Point } from '../raster/orientation';

/** What a drawing is made of, in image pixels of the original. */
export type Shape =
  | { kind: 'line'; from: Point; to: Point; dashed?: boolean; /** An arrow's, at its end. */ head?: boolean }
  | { kind: 'path'; points: readonly Point[]; closed?: boolean; dashed?: boolean };

/** Lines of a drawing, and where its words stand. */
export interface Drawing {
  shapes: Shape[];
  wordsAt: Point;
}

/** How far a point is from the lines of a drawing, in image pixels; Infinity for one without lines. */
export function distanceTo(shapes: readonly Shape[], point: Point): number {
  let least = Infinity;
  for (const shape of shapes)
    for (const [from, to] of segmentsOf(shape)) least = Math.min(least, distanceToSegment(point, from, to));
  return least;
}

export function segmentsOf(shape: Shape): [Point, Point][] {
  if (shape.kind === 'line') return [[shape.from, shape.to]];
  const { points, closed } = shape;
  const open = points.slice(1).map((to, i): [Point, Point] => [points[i], to]);
  return closed && points.length > 2 ? [...open, [points[points.length - 1], points[0]]] : open;
}
