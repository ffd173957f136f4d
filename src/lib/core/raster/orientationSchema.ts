import { z } from 'zod';
import type { Orientation } from './orientation';

export const orientationSchema: z.ZodType<Orientation> = z.strictObject({
  quarterTurns: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]),
  mirrored: z.boolean()
});
