import { z } from 'zod';
import { type Code, sct } from '../code';
import type { PlaceKind } from '../placeKind';

const views = {
  panoramic: { words: 'panoramic view', code: sct('661005', 'Jaw region'), bodyPart: 'JAW' },
  'skull from the side': { words: 'skull from the side', code: sct('89546000', 'Skull'), bodyPart: 'SKULL' },
  'skull from the front': { words: 'skull from the front', code: sct('89546000', 'Skull'), bodyPart: 'SKULL' }
} satisfies Record<string, { words: string; code: Code; bodyPart: string }>;

export type WideView = keyof typeof views;
export const wideViews = Object.keys(views) as [WideView, ...WideView[]];

const schema = z.strictObject({ kind: z.literal('wide view'), view: z.enum(wideViews) });
export type WideViewPlace = z.infer<typeof schema>;

/** A view of the whole: it belongs to no single tooth. */
export const wideViewPlaceKind: PlaceKind<WideViewPlace> = {
  kind: 'wide view',
  schema,
  words: ({ view }) => views[view].words,
  short: ({ view }) => view,
  key: ({ view }) => `wide view:${view}`,
  side: () => 'both',
  codes: ({ view }) => ({ region: views[view].code, bodyPart: views[view].bodyPart }),
  map: () => null
};
