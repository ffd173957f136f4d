import { z } from 'zod';
import type { Orientation } from './orientation';

const turns = {
  quarterTurns: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]),
  mirrored: z.boolean()
};

/** How a slot's pictures are turned: never tilted. */
export const orientationSchema: z.ZodType<Orientation> = z.strictObject(turns);

/** How somebody has turned a picture. */
export const tiltedOrientationSchema: z.ZodType<Orientation> = z.strictObject({
  ...turns,
  tiltDeg: z.number().min(-45).max(45).optional()
});
