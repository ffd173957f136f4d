import { z } from 'zod';
import type { Orientation, Part } from './orientation';

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

/** A part of a picture as it is turned. */
export const partSchema: z.ZodType<Part> = z.strictObject({
  left: z.number(),
  top: z.number(),
  width: z.number().positive(),
  height: z.number().positive()
});
