import { z } from 'zod';
import type { PlacedPoint } from '../calibration/scale';
import type { Point } from '../raster/orientation';

const finite = z.number().refine(Number.isFinite);

/** A point in image pixels of the original. */
export const pointSchema: z.ZodType<Point> = z.strictObject({ x: finite, y: finite });

/** The same, with the standard uncertainty of its place. */
export const placedPointSchema: z.ZodType<PlacedPoint> = z.strictObject({
  x: finite,
  y: finite,
  uncertaintyPx: finite.positive()
});
