import type { Place } from '../anatomy/place';

/** One place on a drawing of the body, in units of the drawing. */
export interface Spot {
  place: Place;
  x: number;
  y: number;
  /** A crown seen from the biting side has its outer side up before it is turned. */
  shape: 'crown' | 'oval';
  width: number;
  height: number;
  turnDeg: number;
  /** Where its short name stands; without one it is named when it is pointed at. */
  label: { x: number; y: number } | null;
}

/** A word on a drawing; one that stands for several places picks them all at once. */
export interface Word {
  text: string;
  x: number;
  y: number;
  picks?: { words: string; places: readonly Place[] };
}

/** A drawing of a part of the body, seen from the front: the patient's right is at the left. */
export interface BodyDrawing {
  width: number;
  height: number;
  /** What the spots lie on: strokes of a width, or filled shapes where that is 0. */
  outline: { path: string; stroke: number }[];
  words: Word[];
  spots: Spot[];
}
