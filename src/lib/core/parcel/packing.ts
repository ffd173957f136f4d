import { z } from 'zod';
import type { Versioned } from '../versioned';

/** What pictures are packed as. A package holds DICOM, pages that show it anywhere, and what other systems read. */
export const formats = ['dicom', 'png', 'png16', 'jpeg', 'tiff', 'raw', 'pdf', 'csv', 'package'] as const;
export type Format = (typeof formats)[number];

export const formatWords: Readonly<Record<Format, string>> = {
  dicom: 'DICOM',
  png: 'PNG, as it is seen',
  png16: 'PNG, samples as stored',
  jpeg: 'JPEG, as it is seen',
  tiff: 'TIFF, samples as stored',
  raw: 'Raw samples with a JSON header',
  pdf: 'PDF, a page a picture',
  csv: 'Readings as CSV',
  package: 'Open package'
};

/** Formats whose pictures are made by look, turn and crop, so that drawings can stand in them. */
export const shownFormats: readonly Format[] = ['png', 'jpeg', 'pdf', 'package'];

const schema = z.strictObject({
  format: z.enum(formats),
  /** Whether a DICOMDIR goes along; its names are then the standard's short ones. */
  index: z.boolean(),
  /** Not at all, in the picture itself, or as a presentation state and a report beside it. */
  drawings: z.enum(['out', 'in', 'beside']),
  /** How files are called, see {@link fileNamesOf}. */
  names: z.string().max(120),
  /** What stands in the mail, or as a file beside the pictures. */
  words: z.string().max(4_000),
  /** Whether the papers of its pictures' visits go along: in a package that keeps its identity, and nowhere else. */
  papers: z.boolean()
});
export type Packing = z.infer<typeof schema>;
export const packing: Versioned<Packing> = {
  version: 2,
  schema,
  upcasters: { 1: (body) => ({ ...(body as object), papers: false }) }
};

export const plainPacking: Packing = {
  format: 'dicom',
  index: false,
  drawings: 'out',
  names: '{date} {what} {n}',
  words: '',
  papers: false
};

/** Whether papers may go along: nobody looks through what stands in them. */
export const takesPapers = (format: Format, identity: 'identified' | 'deidentified'): boolean =>
  format === 'package' && identity === 'identified';

export const endingOf: Readonly<Record<Exclude<Format, 'package'>, string>> = {
  dicom: 'dcm',
  png: 'png',
  png16: 'png',
  jpeg: 'jpg',
  tiff: 'tif',
  raw: 'raw',
  pdf: 'pdf',
  csv: 'csv'
};
