import type { Point } from '../../raster/orientation';

/** What a search answers: one, several that are alike, none, or something that it is not sure of, and why. */
export type Found<M> =
  | { outcome: 'found'; best: M; others: M[] }
  /** Two or more are alike: a person has to say which. */
  | { outcome: 'several'; others: M[] }
  /** The first of the others might be it. */
  | { outcome: 'unsure'; why: string; others: M[] }
  | { outcome: 'none'; others: M[] };

/** Where somebody pointed, and how far from there it may be. */
export interface Hint {
  at: Point;
  withinPx: number;
}
export const nearHint = (point: Point, hint: Hint | undefined) =>
  !hint || Math.hypot(point.x - hint.at.x, point.y - hint.at.y) <= hint.withinPx;

export const anotherLikeIt = 'another like it';
/** A candidate below this is not taken as the marker, and below the second not offered. */
export const leastConfidence = 0.7;
export const worthOffering = 0.35;
/** So many doubts are too many to take it. */
const tooDoubtful = 2;
/** The best must be this much surer than the next to be taken without asking. */
export const clearlyBetter = 0.2;

/** What is doubtful stands behind what is as sure without a doubt. */
const standing = ({ confidence, doubts }: { confidence: number; doubts: string[] }) =>
  confidence * 0.72 ** doubts.length;

/**
 * Takes the surest, or says why nobody can.
 * @param alike whether two could be mistaken for one another; those are told of even when one is less sure
 */
export function judged<M extends { confidence: number; doubts: string[] }>(
  found: readonly M[],
  alike: (a: M, b: M) => boolean
): Found<M> {
  const sure = found
    .filter(({ confidence }) => confidence > worthOffering)
    .sort((a, b) => standing(b) - standing(a));
  if (sure.length === 0) return { outcome: 'none', others: [] };
  const [best, ...rest] = sure;
  if (best.confidence < leastConfidence || best.doubts.length >= tooDoubtful)
    return { outcome: 'unsure', why: best.doubts.join('; ') || 'it is not clear enough', others: sure };
  const rivals = rest.filter(
    (other) => other.confidence > leastConfidence && standing(other) > standing(best) - clearlyBetter
  );
  if (rivals.length > 0 && best.doubts.some((doubt) => doubt !== anotherLikeIt))
    return {
      outcome: 'unsure',
      why: `several might be it; of the likeliest: ${best.doubts[0]}`,
      others: sure
    };
  if (rivals.length > 0) return { outcome: 'several', others: sure };
  const shadowed =
    !best.doubts.includes(anotherLikeIt) &&
    rest.some((other) => standing(other) > standing(best) - 2 * clearlyBetter && alike(best, other));
  return {
    outcome: 'found',
    best: shadowed ? { ...best, doubts: [...best.doubts, anotherLikeIt] } : best,
    others: rest
  };
}
