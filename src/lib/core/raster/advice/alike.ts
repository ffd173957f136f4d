import { type Orientation } from '../orientation';
import { type Patch } from '../patch';
import { resampled } from '../geometry/resample';

const sidePx = 48;

/** A take as a small square of numbers with mean 0 and spread 1: what two takes are compared by. Null for one grey. */
export function thumb(patch: Patch): Float32Array | null {
  const small = resampled(patch, { width: sidePx, height: sidePx }).data;
  const mean = small.reduce((a, b) => a + b, 0) / small.length;
  const spread = Math.sqrt(small.reduce((sum, v) => sum + (v - mean) ** 2, 0) / small.length);
  if (!(spread > 1e-4 * Math.max(1, Math.abs(mean)))) return null;
  return small.map((v) => (v - mean) / spread);
}

/** Correlation of two thumbs, -1 to 1, the second turned. */
export function correlation(
  a: Float32Array,
  b: Float32Array,
  { quarterTurns, mirrored }: Orientation
): number {
  let sum = 0;
  const last = sidePx - 1;
  for (let y = 0; y < sidePx; y++)
    for (let x = 0; x < sidePx; x++) {
      let [u, v] = [x, y];
      for (let i = 0; i < quarterTurns; i++) [u, v] = [v, last - u];
      if (mirrored) u = last - u;
      sum += a[y * sidePx + x] * b[v * sidePx + u];
    }
  return sum / a.length;
}

/** Two takes of one thing without anything moved between are this alike; a second exposure of a patient is not. */
const sameAgain = 0.9985;

export interface Likeness {
  /** The same picture a second time. */
  same: boolean;
  /** How the second would have to be turned to look like the first, when that is clearly better than as it is. */
  turn: Orientation | null;
  /** Correlation as it is, and at best. */
  asItIs: number;
  atBest: number;
}

const turns: Orientation[] = [0, 1, 2, 3].flatMap((quarterTurns) =>
  [false, true].map((mirrored) => ({ quarterTurns, mirrored }) as Orientation)
);

/** How a take compares with an earlier take of the same slot. Quarter turns are tried only where the shapes allow it. */
export function likenessOf(earlier: Patch, take: Patch): Likeness | null {
  const [a, b] = [thumb(earlier), thumb(take)];
  if (!a || !b) return null;
  const alikeShape = earlier.width > earlier.height === take.width > take.height;
  const tried = turns.filter(
    ({ quarterTurns }) => (quarterTurns % 2 === 0) === alikeShape || earlier.width === earlier.height
  );
  const scored = tried
    .map((turn) => ({ turn, score: correlation(a, b, turn) }))
    .sort((p, q) => q.score - p.score);
  const asItIs = alikeShape ? correlation(a, b, { quarterTurns: 0, mirrored: false }) : -1;
  const [best] = scored;
  const isTurned =
    (best.turn.quarterTurns !== 0 || best.turn.mirrored) && best.score > 0.6 && best.score > asItIs + 0.25;
  return {
    same: asItIs > sameAgain,
    turn: isTurned ? best.turn : null,
    asItIs,
    atBest: best.score
  };
}
