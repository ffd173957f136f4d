import type { Code } from '../../anatomy/code';
import { type Place, placeCodes, sideOf } from '../../anatomy/place';
import { laterality } from '../../anatomy/side';
import type { Attributes } from '../dataset';
import type { ObjectFacts } from './objectFacts';

export const codeItem = ({ value, scheme, meaning }: Code): Attributes => ({
  CodeValue: value,
  CodingSchemeDesignator: scheme,
  CodeMeaning: meaning
});

/** Anatomic region, structures in it, body part and side (PS3.3 10.5, C.7.6.1). Nothing where no place is known. */
export function anatomyAttributes(places: readonly Place[]): Attributes {
  if (places.length === 0) return {};
  const codes = places.map(placeCodes);
  const structures = codes.flatMap(({ structure }) => structure ?? []);
  return {
    BodyPartExamined: codes[0].bodyPart,
    AnatomicRegionSequence: [codeItem(codes[0].region)],
    PrimaryAnatomicStructureSequence: structures.length > 0 ? structures.map(codeItem) : undefined
  };
}

export const imageLaterality = (places: readonly Place[]): string => laterality(sideOf(places));

/** Directions of the stored rows and columns; empty where they are not known. */
export const patientOrientation = ({ directions }: ObjectFacts): string[] => directions ?? [];
