import { animalBodies } from './animalBodies';
import { animalMouths } from './animalMouths';
import { sevenBitewings, twoBitewings } from './bitewings';
import { bonePatterns } from './bones';
import { type PatternBook, bookOf } from '../pattern';
import { fourBitewings } from './fourBitewings';
import { fullMouth } from './fullMouth';
import {
  deciduousMouth,
  fourteenViews,
  mixedMouth,
  panoramicView,
  twentyOneViews,
  twentyViews
} from './mouths';
import { photographPatterns } from './photographs';
import type { ShippedPattern } from './shippedPattern';
import { leftWrist, rightWrist } from './wrist';

/** The patterns that come with the product. */
export const shippedPatterns: readonly ShippedPattern[] = [
  twoBitewings,
  fourBitewings,
  sevenBitewings,
  fourteenViews,
  fullMouth,
  twentyViews,
  twentyOneViews,
  mixedMouth,
  deciduousMouth,
  panoramicView,
  rightWrist,
  leftWrist,
  ...bonePatterns,
  ...animalMouths,
  ...animalBodies,
  ...photographPatterns
];

export const shippedBook: PatternBook = bookOf(
  shippedPatterns.map((each) => each.pattern),
  shippedPatterns.map((each) => each.route)
);

/** @throws RangeError when none has this name */
export function shippedPatternNamed(name: string): ShippedPattern {
  const found = shippedPatterns.find((each) => each.pattern.name === name);
  if (!found) throw new RangeError(`no pattern that came with the product is called ${name}`);
  return found;
}
