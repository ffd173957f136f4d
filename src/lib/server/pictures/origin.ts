import { z } from 'zod';
import { type OwnLook, ownLookSchema } from '../../core/raster/look/ownLook';
import { Unreadable, type Versioned, readVersioned } from '../../core/versioned';

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
  /** From the tube to the detector, mm. */
  sourceToDetectorMm: z.number().positive().optional(),
  /** How much taller than wide a pixel is, where it is not square. */
  pixelAspect: z.number().positive().optional(),
  kv: z.number().optional(),
  exposureMas: z.number().optional(),
  /** One of the clinic's own looks that its device's pictures opened with when it was taken. */
  opensWith: ownLookSchema.optional(),
  /** What is printed on the plate that it was read from. */
  plate: z.string().optional(),
  /** The SOP instance that the file says it is. */
  instanceUid: z.string().optional(),
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

/**
 * What is stored of where a picture comes from. Whatever of it can't be read is left out and said: a page that shows
 * pictures never stays closed over one of them.
 */
export function readOrigin(stored: unknown): Origin {
  const version = (stored as { version?: number } | null)?.version ?? 2;
  try {
    return readVersioned('Where a picture comes from', origin, version, stored);
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    return salvaged(stored);
  }
}

function salvaged(stored: unknown): Origin {
  const fields = Object.entries((stored ?? {}) as Record<string, unknown>);
  const readable = fields.filter(([name, value]) => {
    const field = schema.shape[name as keyof typeof schema.shape] as z.ZodType | undefined;
    return field !== undefined && name !== 'version' && field.safeParse(value).success;
  });
  const found = schema.parse({ from: 'unknown', ...Object.fromEntries(readable), version: 2 });
  const lost = 'Part of what was known of this picture can’t be read and is not shown; it is kept as it is.';
  return { ...found, remarks: [...found.remarks, lost] };
}

/** A look that pictures open with, as it is stored; none where this program can't read it. */
export const readOpening = (stored: unknown): OwnLook | undefined => ownLookSchema.safeParse(stored).data;

export const samplesMediaType = 'application/vnd.yonder-tray.samples';

export const fileText = (from: Origin, tag: string): string | undefined =>
  from.fileAttributes.find((each) => each.tag === tag)?.text;
