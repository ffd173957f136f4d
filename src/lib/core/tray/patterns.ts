import { fourBitewings } from './fourBitewings';
import { fullMouth } from './fullMouth';
import type { Pattern } from './tray';

/** The patterns that come with the product, by the name they are asked for with. */
export const patterns = { 'four-bitewings': fourBitewings, 'full-mouth': fullMouth } satisfies Record<
  string,
  Pattern
>;
export type PatternName = keyof typeof patterns;
export const patternNames = Object.keys(patterns) as [PatternName, ...PatternName[]];
