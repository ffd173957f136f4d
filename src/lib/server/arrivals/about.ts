import { z } from 'zod';
import { type Says, saysSchema } from '../../core/arrivals/says';
import { pictureKinds } from '../../core/picture/pictureView';
import { lookSchema } from '../../core/raster/look/lookSchema';
import { type Versioned, readVersioned } from '../../core/versioned';

const inFile = z.object({ name: z.string(), id: z.string(), birthDate: z.string() }).nullable();

/** What an arriving picture is, as the picture will have it that is made of it. */
const picture = z.object({
  version: z.literal(2),
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
  inFile,
  says: saysSchema.nullable(),
  /** Whether the moment it was taken comes from itself; else it is when it came. */
  dated: z.boolean()
});
export type AboutPicture = z.infer<typeof picture>;

/** An arriving paper, or a video as it came, of which a loop was made. */
const paper = z.object({
  version: z.literal(2),
  mediaType: z.string(),
  kind: z.enum(['paper', 'video']),
  pages: z.number().int().positive()
});
export type AboutPaper = z.infer<typeof paper>;
export type About = AboutPicture | AboutPaper;

const stored: Versioned<About> = {
  version: 2,
  schema: z.union([paper, picture]) as unknown as z.ZodType<About>,
  upcasters: { 1: (body) => ({ ...(body as object), version: 2, says: null, dated: true }) }
};

/** @throws Unreadable for what a newer program has written */
export const readAbout = (body: unknown): About =>
  readVersioned('What arrived', stored, (body as { version?: number } | null)?.version ?? 1, body);

/** Whether it is a picture; else a paper, or a video that lies behind its loop. */
export const isPicture = (about: About): about is AboutPicture =>
  about.kind !== 'paper' && about.kind !== 'video';

/** What an arrival says of itself; of a paper and of a plain picture nothing. */
export const saysOfAbout = (about: About): Says | null => (isPicture(about) ? about.says : null);
