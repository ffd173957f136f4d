/** The patient's own side. */
export const sides = ['right', 'left', 'both'] as const;
export type Side = (typeof sides)[number];

/** DICOM laterality (PS3.3 C.7.6.1.1): U where a thing has no side. */
export const laterality = (side: Side | null): 'R' | 'L' | 'B' | 'U' =>
  side === 'right' ? 'R' : side === 'left' ? 'L' : side === 'both' ? 'B' : 'U';

/** The one side that several have together: both when they differ, null when none has one. */
export function commonSide(all: readonly (Side | null)[]): Side | null {
  const known = new Set(all.filter((side) => side !== null));
  if (known.size === 0) return null;
  return known.size === 1 ? [...known][0] : 'both';
}
