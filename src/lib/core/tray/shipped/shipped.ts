import { type PatternBook, bookOf } from '../pattern';
import { fourBitewings } from './fourBitewings';
import { fullMouth } from './fullMouth';
import type { ShippedPattern } from './shippedPattern';
import { leftWrist, rightWrist } from './wrist';

/** The patterns that come with the product. */
export const shippedPatterns: readonly ShippedPattern[] = [fourBitewings, fullMouth, rightWrist, leftWrist];

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
