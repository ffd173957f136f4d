import { z } from 'zod';
import { placeSchema } from '../../../anatomy/place';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  /** Where it is; null for the picture as a whole. */
  place: placeSchema.nullable(),
  words: z.string().trim().min(1).max(500)
});
export type Finding = z.infer<typeof schema>;

/** What is seen at a place, in words. */
export const findingLayer = layerKind<'finding', Finding>({
  kind: 'finding',
  words: 'Finding',
  version: 1,
  many: true,
  schema,
  upcasters: {}
});
