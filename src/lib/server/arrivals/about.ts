import { z } from 'zod';
import { pictureKinds } from '../../core/picture/pictureView';
import { lookSchema } from '../../core/raster/look/lookSchema';
import { type Versioned, readVersioned } from '../../core/versioned';

/** What an arrival is, as the picture will have it that is made of it. */
const schema = z.object({
  version: z.literal(1),
  mediaType: z.string(),
  kind: z.enum(pictureKinds),
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  channels: z.union([z.literal(1), z.literal(3)]),
  bitsStored: z.number().int(),
  offset: z.number(),
  frames: z.number().int().positive(),
  pixelAspect: z.number().positive().optional(),
  frameMs: z.number().nullable(),
  firstLook: lookSchema,
  /** Read by `readOrigin` when it is looked at. */
  origin: z.record(z.string(), z.unknown()),
  inFile: z.object({ name: z.string(), id: z.string(), birthDate: z.string() }).nullable()
});
export type About = z.infer<typeof schema>;

const stored: Versioned<About> = { version: 1, schema: schema as z.ZodType<About>, upcasters: {} };

/** @throws Unreadable for what a newer program has written */
export const readAbout = (body: unknown): About =>
  readVersioned('What arrived', stored, (body as { version?: number } | null)?.version ?? 1, body);
