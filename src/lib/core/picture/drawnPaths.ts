import type { Point } from '../raster/orientation';
import { type Shape, segmentsOf } from './drawing';

const headPx = 16;
const headRad = 0.42;

/** The lines of shapes as they are seen. @param seen where an image point is seen, in pixels of what shows it */
export const linesSeen = (shapes: readonly Shape[], seen: (point: Point) => Point): [Point, Point][] =>
  shapes.flatMap(segmentsOf).map(([from, to]) => [seen(from), seen(to)]);

/** A shape as an SVG path, with the two barbs of an arrow's head, which are the same size at every zoom. */
export function pathSeen(shape: Shape, seen: (point: Point) => Point): string {
  const lines = linesSeen([shape], seen).map(([from, to]) => `M${from.x} ${from.y}L${to.x} ${to.y}`);
  if (shape.kind !== 'line' || !shape.head) return lines.join('');
  const [from, to] = [seen(shape.from), seen(shape.to)];
  const way = Math.atan2(to.y - from.y, to.x - from.x);
  const barbs = [-1, 1]
    .map((side) => way + Math.PI + side * headRad)
    .map((at) => `M${to.x} ${to.y}L${to.x + headPx * Math.cos(at)} ${to.y + headPx * Math.sin(at)}`);
  return [...lines, ...barbs].join('');
}
