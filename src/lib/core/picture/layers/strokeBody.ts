import { z } from 'zod';
import type { Point } from '../../raster/orientation';
import { pointSchema } from '../placedPoint';

/** The body of what a hand drew in one go. */
export interface StrokeBody {
  way: Point[];
}

export const mostStrokePoints = 2000;

export const strokeSchema = (least: number): z.ZodType<StrokeBody> =>
  z.strictObject({
    way: z.array(pointSchema).min(least).max(mostStrokePoints)
  });

/** Its points are too many to be moved one by one: it is drawn again instead. */
export const strokePart = {
  pointNames: [],
  stroke: true,
  pointsOf: () => [],
  withPoints: (body: StrokeBody): StrokeBody => body,
  made: (points: readonly Point[]): StrokeBody => ({ way: points.map(({ x, y }) => ({ x, y })) })
};
