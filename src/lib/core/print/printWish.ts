import { z } from 'zod';
import { paperNames } from '../report/paperHead';
import { claimSchema } from '../parcel/claim';
import { headSchema } from './printLayout';
import { sheetNames } from './paper';

export const ways = ['true', 'grid', 'tray', 'claim'] as const;
export type PrintWay = (typeof ways)[number];

/** What is printed, and how. */
export const printWish = z.strictObject({
  pictureIds: z.array(z.uuid()).min(1, 'Choose at least one picture.').max(200),
  /** True to scale, a picture a sheet; many in rows; as they lie on the tray; or with what a claim wants to know. */
  way: z.enum(ways),
  across: z.number().int().min(1).max(6),
  down: z.number().int().min(1).max(8),
  paper: z.enum(sheetNames),
  lying: z.boolean(),
  names: z.enum(paperNames),
  captions: z.boolean(),
  drawn: z.boolean(),
  /** Dark is printed light and light dark: it takes less ink where most is dark. */
  inkSaving: z.boolean(),
  printerId: z.uuid().nullable(),
  /** What is told of each picture for a claim; as it would be proposed where nothing is said. */
  claims: z.record(z.uuid(), claimSchema).optional(),
  /** What stands on the sheets beside the pictures, at places of their own; as usual where there is none. */
  head: headSchema.nullable().optional()
});
export type PrintWish = z.infer<typeof printWish>;

export const plainPrint: PrintWish = {
  pictureIds: [],
  way: 'grid',
  across: 2,
  down: 3,
  paper: 'A4',
  lying: false,
  names: 'initials',
  captions: true,
  drawn: false,
  inkSaving: false,
  printerId: null
};
