import { z } from 'zod';
import { type Code, sct } from '../code';
import type { PlaceKind } from '../placeKind';
import type { Side } from '../side';

const face = sct('89545001', 'Face');
const mouth = sct('123851003', 'Mouth');
const body = sct('38266002', 'Entire body');

/** Views of the photographs that are taken again and again. */
const views = {
  'face from the front': { code: face, bodyPart: 'FACE', side: null },
  'face smiling': { code: face, bodyPart: 'FACE', side: null },
  'face from the right': { code: face, bodyPart: 'FACE', side: 'right' },
  'face from the left': { code: face, bodyPart: 'FACE', side: 'left' },
  'bite from the front': { code: mouth, bodyPart: 'MOUTH', side: null },
  'bite from the right': { code: mouth, bodyPart: 'MOUTH', side: 'right' },
  'bite from the left': { code: mouth, bodyPart: 'MOUTH', side: 'left' },
  'upper arch': { code: mouth, bodyPart: 'MOUTH', side: null },
  'lower arch': { code: mouth, bodyPart: 'MOUTH', side: null },
  'posture from the front': { code: body, bodyPart: 'WHOLEBODY', side: null },
  'posture from the right': { code: body, bodyPart: 'WHOLEBODY', side: 'right' },
  'posture from the left': { code: body, bodyPart: 'WHOLEBODY', side: 'left' },
  wound: { code: sct('39937001', 'Skin'), bodyPart: undefined, side: null }
} satisfies Record<string, { code: Code; bodyPart: string | undefined; side: Side | null }>;

export type PhotographView = keyof typeof views;
export const photographViews = Object.keys(views) as [PhotographView, ...PhotographView[]];

const schema = z.strictObject({ kind: z.literal('photograph'), view: z.enum(photographViews) });
export type PhotographPlace = z.infer<typeof schema>;

/** A photograph's view. */
export const photographPlaceKind: PlaceKind<PhotographPlace> = {
  kind: 'photograph',
  schema,
  words: ({ view }) => view,
  short: ({ view }) => view,
  key: ({ view }) => `photograph:${view}`,
  side: ({ view }) => views[view].side,
  codes: ({ view }) => ({ region: views[view].code, bodyPart: views[view].bodyPart }),
  map: () => null
};
