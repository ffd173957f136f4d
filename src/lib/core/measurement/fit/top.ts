/**
 * Where a parabola through three values, a step apart, has its top: from the middle one, in steps, at most half a step to
 * either side; 0 where they do not bend down.
 * Worked values: (1, 3, 1) is 0, (1, 3, 2) is 1/6.
 */
export function topBetween(before: number, middle: number, after: number): number {
  const bend = before - 2 * middle + after;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
}
