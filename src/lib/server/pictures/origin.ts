import { z } from 'zod';

/** What is known of a picture beside its samples, as stored with it (version 1). */
export const pictureFacts = z.object({
  version: z.literal(1),
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
  firstLook: z.object({
    window: z.object({ center: z.number(), width: z.number() }),
    inverted: z.boolean()
  }),
  /** Every attribute of the DICOM file it came in, tag and text. */
  fileAttributes: z.array(z.object({ tag: z.string(), text: z.string() })).default([]),
  /** What the person should know: another name in the file, a contradiction. */
  remarks: z.array(z.string()).default([])
});
export type PictureFactsStored = z.infer<typeof pictureFacts>;

export const samplesMediaType = 'application/vnd.yonder-tray.samples';
