/**
 * One input of a measured quantity: its standard uncertainty as a share of the quantity (relative, 0.01 is one in a
 * hundred), after its sensitivity. `says` names it for the person who asks where a ± comes from.
 */
export interface Contribution {
  description: string;
  relative: number;
}

/** Uncorrelated inputs in quadrature (GUM, ISO/IEC Guide 98-3, 5.1.2). Worked value: 0.003 and 0.004 give 0.005. */
export function combined(contributions: readonly Contribution[]): number {
  let sum = 0;
  for (const { description, relative } of contributions) {
    if (!(relative >= 0 && Number.isFinite(relative)))
      throw new RangeError(`the uncertainty of ${description} must be 0 or more, got ${relative}`);
    sum += relative * relative;
  }
  return Math.sqrt(sum);
}

/** Standard uncertainty of something known only to lie within a range, equally likely anywhere (GUM 4.3.7). */
export function uniformWithin(halfWidth: number): number {
  if (!(halfWidth >= 0)) throw new RangeError(`a range's half width must be 0 or more, got ${halfWidth}`);
  return halfWidth / Math.sqrt(3);
}
