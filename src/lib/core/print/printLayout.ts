import { z } from 'zod';
import { type SheetName, headMm, marginMm, sheetNames, sheetOf } from './paper';
import type { Versioned } from '../versioned';

/** What can stand on a sheet beside its pictures, each at its own place. */
export const headFields = ['patient', 'about', 'clinic', 'address', 'when', 'words'] as const;
export type HeadField = (typeof headFields)[number];
export const headFieldWords: Readonly<Record<HeadField, string>> = {
  patient: 'The patient',
  about: 'What is told of the patient',
  clinic: 'The clinic',
  address: 'The clinic’s address',
  when: 'Room and day',
  words: 'Words of our own'
};

/** Letters that ship; what one of them has not is written with another. */
export const printFonts = { Atkinson: 'Atkinson', Noto: 'Noto Sans' } as const;
export type PrintFont = keyof typeof printFonts;
const fontNames = Object.keys(printFonts) as [PrintFont, ...PrintFont[]];

const mm = (most: number) =>
  z.number().min(0, 'A place is on the sheet.').max(most, 'A place is on the sheet.');
const place = { leftMm: mm(430), topMm: mm(430), widthMm: z.number().min(10).max(430) };

const field = z.strictObject({
  what: z.enum(headFields),
  /** Said as they stand, where {@link what} is words of one's own. */
  words: z.string().max(300),
  ...place,
  align: z.enum(['left', 'center', 'right']),
  font: z.enum(fontNames),
  pt: z.number().min(5, 'Letters are 5 to 40 points high.').max(40, 'Letters are 5 to 40 points high.'),
  bold: z.boolean(),
  colour: z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is # and six digits: #14211d.')
});
export type PlacedField = z.infer<typeof field>;

/** What stands on sheets beside the pictures. */
export const headSchema = z.strictObject({
  fields: z.array(field).max(20, 'A sheet has at most 20 fields.'),
  logo: z.strictObject(place).nullable()
});
export type PrintHead = z.infer<typeof headSchema>;

/** How sheets are laid out, and what stands on them beside the pictures: the clinic's own, by a name. */
const layout = z.strictObject({
  name: z.string().trim().min(1, 'Give the layout a name.').max(60),
  way: z.enum(['grid', 'tray']),
  across: z.number().int().min(1).max(6),
  down: z.number().int().min(1).max(8),
  paper: z.enum(sheetNames),
  lying: z.boolean(),
  captions: z.boolean(),
  drawn: z.boolean(),
  inkSaving: z.boolean(),
  ...headSchema.shape
});
export type PrintLayout = z.infer<typeof layout>;
export const printLayout: Versioned<PrintLayout> = { version: 1, schema: layout, upcasters: {} };

/** A layout as it is kept. */
export interface KeptLayout {
  layoutId: string;
  layout: PrintLayout;
}

const ink = '#14211d';
export const plainField = (what: HeadField, at: Partial<PlacedField> = {}): PlacedField => ({
  what,
  words: '',
  leftMm: marginMm,
  topMm: marginMm,
  widthMm: 80,
  align: 'left',
  font: 'Atkinson',
  pt: 9,
  bold: false,
  colour: ink,
  ...at
});

/** What a layout of one's own begins with: the same that stands on every sheet, each at its place. */
export function usualHead(paper: SheetName, lying: boolean): PrintHead {
  const { width } = sheetOf(paper, lying);
  const half = Math.round((width - 2 * marginMm) / 2);
  const logoMm = headMm - 2;
  const right = { leftMm: width - marginMm - half, widthMm: half - logoMm - 3, align: 'right' as const };
  return {
    fields: [
      plainField('patient', { widthMm: half, pt: 13, bold: true }),
      plainField('about', { widthMm: half, topMm: marginMm + 6 }),
      plainField('clinic', { ...right, bold: true }),
      plainField('when', { ...right, topMm: marginMm + 5 })
    ],
    logo: { leftMm: width - marginMm - logoMm, topMm: marginMm, widthMm: logoMm }
  };
}
