import { z } from 'zod';
import { pointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  /** The same places in this picture and in the other, each in image pixels of its own; the first two to four. */
  pairs: z
    .array(
      z.strictObject({
        here: pointSchema,
        there: pointSchema,
        /** Proposed by the computer, and moved by nobody since. */
        found: z.literal(true).optional()
      })
    )
    .min(1)
    .max(4)
});
export type CommonPoints = z.infer<typeof schema>;
export type CommonPair = CommonPoints['pairs'][number];

/** Where this picture and an earlier one show the same; has the id of the earlier picture. */
export const commonLayer = layerKind<'common', CommonPoints>({
  kind: 'common',
  words: 'Common points',
  version: 2,
  many: true,
  schema,
  // All were placed by hand before.
  upcasters: { 1: (body) => body }
});
