import type { Point } from '../../raster/orientation';

/** A straight line through a picture: a place on it, and its direction. */
export interface Axis {
  center: Point;
  c: number;
  s: number;
}

/** A place on the line, or so far beside it. */
export const on = ({ center, c, s }: Axis, along: number, across = 0): Point => ({
  x: center.x + along * c - across * s,
  y: center.y + along * s + across * c
});
