import type { z } from 'zod';
import type { Code } from './code';
import type { Side } from './side';
import type { Notation } from './teeth';

/** The anatomical drawings on which places are shown and picked. */
export const bodyMaps = [
  'teeth',
  'dog teeth',
  'cat teeth',
  'horse teeth',
  'bones',
  'animal bones',
  'dog bones',
  'cat bones',
  'horse bones',
  'eyes'
] as const;
export type BodyMap = (typeof bodyMaps)[number];

/** How a place is told in DICOM (PS3.3 10.5, C.7.6.1.1). */
export interface PlaceCodes {
  /** Anatomic Region. */
  region: Code;
  /** Primary Anatomic Structure within it. */
  structure?: Code;
  /** Body Part Examined, where the standard has a term (PS3.16 annex L). */
  bodyPart?: string;
}

/** What a kind of place knows. One file a kind in `places/`. */
export interface PlaceKind<P extends { kind: string }> {
  kind: P['kind'];
  schema: z.ZodType<P>;
  /** In full words: "upper right first molar", "right wrist". */
  words(place: P, notation: Notation): string;
  /** As short as a well or a map needs it: "16", "R wrist". */
  short(place: P, notation: Notation): string;
  /** Unique among all places, and stored: never change one. */
  key(place: P): string;
  side(place: P): Side | null;
  codes(place: P): PlaceCodes;
  /** The drawing it stands on; null for what lies on the shelf beside it. */
  map(place: P): BodyMap | null;
}
