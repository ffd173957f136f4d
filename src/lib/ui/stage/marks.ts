import type { PlacedPoint } from '$core/calibration/scale';

/** A drawing on the stage, in image pixels of the original. */
export interface Mark {
  id: string;
  kind: 'length' | 'scale-line';
  ends: [PlacedPoint, PlacedPoint];
  words: string;
}
