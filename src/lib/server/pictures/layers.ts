import { z } from 'zod';

const finite = z.number().refine(Number.isFinite);
const placedPoint = z.object({ x: finite, y: finite, uncertaintyPx: finite.positive() });
export const look = z.object({
  window: z.object({ center: finite, width: finite.min(1) }),
  inverted: z.boolean()
});
const orientation = z.object({
  quarterTurns: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]),
  mirrored: z.boolean()
});
const scale = z.object({
  source: z.literal('line'),
  mmPerPixelX: finite.positive(),
  mmPerPixelY: finite.positive(),
  relativeUncertainty: finite.nonnegative(),
  says: z.string().max(200),
  ends: z.tuple([placedPoint, placedPoint]),
  knownMm: finite.positive(),
  knownUncertaintyMm: finite.nonnegative()
});
const reading = z.object({ kind: z.literal('length'), ends: z.tuple([placedPoint, placedPoint]) });

/** What people make of a picture, layer by layer. Point coordinates are image pixels of the original. */
export const layerSchemas = { look, orientation, scale, reading };

const readingName = /^reading:[0-9a-f-]{36}$/;

/** A step that a page sends: a layer's new state (null takes it off), with a key so that sending twice is once. */
export const stepWish = z
  .object({ key: z.uuid(), layer: z.string(), body: z.unknown() })
  .superRefine(({ layer, body }, context) => {
    const name = readingName.test(layer) ? 'reading' : layer;
    if (!(name in layerSchemas) || (name === 'reading' && layer === 'reading')) {
      context.addIssue({ code: 'custom', message: `no layer is called ${layer}` });
      return;
    }
    if (body === null) return;
    const checked = layerSchemas[name as keyof typeof layerSchemas].safeParse(body);
    if (!checked.success) context.addIssue({ code: 'custom', message: checked.error.message });
  });
