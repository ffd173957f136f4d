import { z } from 'zod';
import { type Versioned, readVersioned } from '../../core/versioned';

/** What is known of where a picture comes from, as stored with it. */
const schema = z.object({
  version: z.literal(2),
  /** In words: the device's name, or "file". */
  from: z.string(),
  manufacturer: z.string().default(''),
  model: z.string().default(''),
  /** [rows, columns] in mm, as DICOM orders them. */
  pixelSpacing: z.tuple([z.number(), z.number()]).optional(),
  pixelSpacingCalibration: z.enum(['GEOMETRY', 'FIDUCIAL']).optional(),
  imagerPixelSpacing: z.tuple([z.number(), z.number()]).optional(),
  magnification: z.number().optional(),
  kv: z.number().optional(),
  exposureMas: z.number().optional(),
  /** Every attribute of the DICOM file it came in, tag and text. */
  fileAttributes: z.array(z.object({ tag: z.string(), text: z.string() })).default([]),
  /** What the person should know: another name in the file, a contradiction. */
  remarks: z.array(z.string()).default([])
});
export type Origin = z.infer<typeof schema>;

/** The first version held the first look as well, which has a place of its own since. */
const origin: Versioned<Origin> = {
  version: 2,
  schema: schema as z.ZodType<Origin>,
  upcasters: { 1: (body) => ({ ...(body as object), version: 2, firstLook: undefined }) }
};

export const readOrigin = (stored: unknown): Origin =>
  readVersioned('Where a picture comes from', origin, (stored as { version: number }).version, stored);

export const samplesMediaType = 'application/vnd.yonder-tray.samples';

export const fileText = (from: Origin, tag: string): string | undefined =>
  from.fileAttributes.find((each) => each.tag === tag)?.text;
