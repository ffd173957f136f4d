import { z } from 'zod';
import { sct } from '../code';
import type { PlaceKind } from '../placeKind';

/** Where an eye looks, as told to the person: straight ahead, or from there towards nose, temple, up, down. */
export const gazes = [
  'straight ahead',
  'towards the nose',
  'towards the temple',
  'up',
  'down',
  'up and nose',
  'up and temple',
  'down and nose',
  'down and temple'
] as const;
export type Gaze = (typeof gazes)[number];

const schema = z.strictObject({
  kind: z.literal('eye'),
  side: z.enum(['right', 'left']),
  gaze: z.enum(gazes).nullable()
});
export type EyePlace = z.infer<typeof schema>;

/** An eye, and where it looks if that matters. */
export const eyePlaceKind: PlaceKind<EyePlace> = {
  kind: 'eye',
  schema,
  words: ({ side, gaze }) => `${side} eye${gaze ? `, ${gaze}` : ''}`,
  short: ({ side, gaze }) => gaze ?? `${side} eye`,
  key: ({ side, gaze }) => `eye:${side}${gaze ? `:${gaze}` : ''}`,
  side: ({ side }) => side,
  codes: () => ({ region: sct('81745001', 'Eye'), structure: sct('28726007', 'Cornea'), bodyPart: 'EYE' }),
  map: () => 'eyes'
};
