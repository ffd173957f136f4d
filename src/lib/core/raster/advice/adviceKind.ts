import type { Orientation, Point } from '../orientation';

export const adviceKinds = [
  'nothing exposed',
  'under-exposed',
  'over-exposed',
  'clipped',
  'edge cut off',
  'moved',
  'lines missing',
  'same again',
  'turned',
  'other side'
] as const;
export type AdviceKind = (typeof adviceKinds)[number];

export interface Advice {
  kind: AdviceKind;
  /** 0 to 1. */
  confidence: number;
  /** What to say to the person at the chair: what was seen, and what to do. */
  description: string;
  /** The place it is about, in image points. */
  where?: Point[];
  /** For `moved`: how far, and along which direction, degrees clockwise from the rows. */
  motion?: { lengthPx: number; directionDeg: number };
  /** For `turned`: how the take has to be turned. */
  turn?: Orientation;
}
