import type { PlacedPoint, Scale } from '../../calibration/scale';
import type { Code } from '../../anatomy/code';
import type { Notation } from '../../anatomy/teeth';
import type { Attributes } from '../../dicom/dataset';
import type { Value } from '../../measurement/measured';
import type { Point } from '../../raster/orientation';
import type { Versioned } from '../../versioned';
import type { Drawing } from '../drawing';

/** Of a kind whose points are placed by hand: how it is drawn, moved, measured, and told in DICOM. */
export interface PlacedPart<Body> {
  /** What each point is called that has to be there. */
  pointNames: readonly string[];
  /** The same where it hangs on what it is. */
  namesOf?(body: Body): readonly string[];
  /** What any point after those is called; absent where there is none. */
  further?: string;
  /** Whether edges of the picture can be followed from point to point. */
  followsEdges?: boolean;
  /** Whether it is drawn in one go: its points are then a way, and none of them is moved alone. */
  stroke?: boolean;
  pointsOf(body: Body): PlacedPoint[];
  /** The body with points moved elsewhere. */
  withPoints(body: Body, points: PlacedPoint[]): Body;
  /** @param aspect height of a pixel over its width, 1 when it is left out */
  drawn(body: Body, aspect?: number): Drawing;
  /** What it says by itself, beside its value if it has one. */
  says?(body: Body, notation: Notation): string;
  /** A new one from its points alone; absent where something else has to be known first. */
  made?(points: PlacedPoint[]): Body;
}

/** Of a kind that gives a value. */
export interface MeasuredPart<Body> {
  measured(body: Body, scale: Scale | null): Value;
  /** What is measured, for a structured report (TID 1500). */
  concept: Code;
  /** Further values of the same thing. */
  also?: readonly { words: string; measured(body: Body, scale: Scale | null): Value; concept: Code }[];
  /** The points as a report's spatial coordinates (PS3.3 C.18.6). */
  coordinates(body: Body): { graphicType: 'POINT' | 'MULTIPOINT' | 'POLYLINE'; points: Point[] };
}

/**
 * One kind of thing that can be on a picture: how it is seen, what is drawn on it, what is measured. A folder a kind; a
 * new one is a folder and a line in `all.ts`.
 */
export interface LayerKind<Name extends string, Body> extends Versioned<Body> {
  kind: Name;
  /** In words, as a list names it. */
  words: string;
  /** One a picture, or any number of them, each with an id of its own. */
  many: boolean;
  placed?: PlacedPart<Body>;
  measure?: MeasuredPart<Body>;
  /** Which samples of the picture it reads: inside its points, or along the line between them. */
  samples?: 'inside' | 'along';
  /** Whether there is something to be confirmed though it gives no value by itself. */
  confirms?: true;
  /** What a person has to be allowed for making it, beside changing pictures. */
  right?: 'confirm';
  /**
   * Of two that were made of one state at once, one kept already: both changes as far as they touch different parts.
   * Absent where the later takes the place of the earlier whole.
   */
  joined?(made: { from: Body; kept: Body; now: Body }): Body;
  /** What it changes in a softcopy presentation state (PS3.3 A.33.1), beside its drawing. */
  presentation?(body: Body): Attributes;
}

export const layerKind = <Name extends string, Body>(kind: LayerKind<Name, Body>): LayerKind<Name, Body> =>
  kind;
