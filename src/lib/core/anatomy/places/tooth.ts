import { z } from 'zod';
import { sct } from '../code';
import type { PlaceKind } from '../placeKind';
import { isTooth, showTooth, toothName, toothParts } from '../teeth';

const schema = z.strictObject({
  kind: z.literal('tooth'),
  tooth: z.number().int().refine(isTooth, 'no tooth in FDI notation')
});
export type ToothPlace = z.infer<typeof schema>;

/** A tooth of a person, permanent or deciduous. */
export const toothPlaceKind: PlaceKind<ToothPlace> = {
  kind: 'tooth',
  schema,
  words: ({ tooth }) => toothName(tooth),
  short: ({ tooth }, notation) => showTooth(tooth, notation),
  key: ({ tooth }) => `tooth:${tooth}`,
  side: ({ tooth }) => ([1, 4].includes(toothParts(tooth).quadrant) ? 'right' : 'left'),
  codes: ({ tooth }) => ({
    region: sct('661005', 'Jaw region'),
    structure: { value: String(tooth), scheme: 'ISO3950', meaning: toothName(tooth) },
    bodyPart: 'JAW'
  }),
  map: () => 'teeth'
};
