import { z } from 'zod';
import { lookSchema } from '../../../raster/look/lookSchema';
import { partSchema, tiltedOrientationSchema } from '../../../raster/orientationSchema';
import { pointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

/** What a kept view is for. */
export const keptKinds = ['detail', 'measured', 'finding', 'for the patient', 'for a letter'] as const;
export type KeptKind = (typeof keptKinds)[number];

const shape = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('line'),
    from: pointSchema,
    to: pointSchema,
    dashed: z.boolean().optional(),
    head: z.boolean().optional()
  }),
  z.strictObject({
    kind: z.literal('path'),
    points: z.array(pointSchema).max(5000),
    closed: z.boolean().optional(),
    dashed: z.boolean().optional()
  })
]);

const schema = z.strictObject({
  name: z.string().trim().max(80),
  kind: z.enum(keptKinds),
  remark: z.string().trim().max(500),
  keptAt: z.iso.datetime(),
  /** Counted from 0. */
  frame: z.number().int().min(0),
  /** The part that is seen, of the picture as it was turned, in widths of a pixel. */
  window: partSchema,
  orientation: tiltedOrientationSchema,
  look: lookSchema,
  /** What was drawn then, in image pixels, with its words as they were: what is changed later does not change it. */
  drawings: z
    .array(
      z.strictObject({ shapes: z.array(shape).max(40), wordsAt: pointSchema, words: z.string().max(400) })
    )
    .max(200),
  /** Whether they are shown. */
  drawn: z.boolean(),
  /** Where it stands among the visit's kept views: the least first. */
  place: z.number()
});
export type KeptView = z.infer<typeof schema>;
export type KeptDrawing = KeptView['drawings'][number];

/** A picture made of what the stage showed. It holds no samples: they are those of the original, which never change. */
export const keptLayer = layerKind<'kept', KeptView>({
  kind: 'kept',
  words: 'Kept view',
  version: 2,
  many: true,
  schema,
  upcasters: { 1: (body) => body }
});
