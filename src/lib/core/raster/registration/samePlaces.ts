import { topBetween } from '../../measurement/fit/top';
import type { LongWork } from '../../longWork';
import { resampled } from '../geometry/resample';
import { type PointPair, type Similarity, inverse, laidOver, onto } from '../geometry/similarity';
import type { Point } from '../orientation';
import type { Patch } from '../patch';
import { reducedTo } from '../reduced';
import { type EdgeField, edgeFieldOf } from './edgeField';
import { coarseSidePx, lyingOver, settled } from './lyingOver';

/** Longest sides at which the two are settled onto each other, and at which places are matched. */
const settleSidePx = 160;
const matchSidePx = 480;
const smoothedPx = 1.2;
/** So many of the likeliest ways to lie are looked at closer. */
const candidates = 10;
/** A place is compared over a square of so many pixels to each side, and looked for so far away. */
const reachPx = 24;
const searchPx = 14;
const cellsAcross = 7;
/** Places agree that lie no further from where all others put them: two projections of a body are no flat sheets. */
const agreesPx = 5;
const leastAgreeing = 7;
const leastAgreeingShare = 0.5;
/** A place is as clear as what it is like here above what it is like anywhere else nearby. */
const leastAlike = 0.35;
const leastAhead = 0.06;
const most = 4;

export type SamePlaces =
  | {
      outcome: 'found';
      /** Two to four, far apart: `from` in the earlier picture, `to` in the later one, in pixels of each. */
      pairs: PointPair[];
      /** Of so many places that were compared, so many agree. */
      compared: number;
      agreeing: number;
    }
  | { outcome: 'not found'; because: string };

/**
 * Places that two pictures of one thing have in common: how the two lie over each other as a whole first, then clear
 * places one by one, each looked for near where it should be, and of those the ones that agree (a consensus of all
 * pairs: Fischler and Bolles, 1981). Pictures may be exposed otherwise, turned by up to 30 degrees, and one the negative
 * of the other; not mirrored. Too little in common is refused rather than guessed. Two bodies of one kind are alike: whose
 * pictures they are is not told by it.
 *
 * @param expectedScale pixels of `now` to one of `then`, as far as is known; it may be wrong by a quarter
 */
export function* samePlaces(now: Patch, then: Patch, expectedScale: number): LongWork<SamePlaces> {
  const later = reducedTo(now, 4 * matchSidePx);
  const earlier = reducedTo(then, 4 * matchSidePx);
  const size = matchSidePx / Math.max(later.small.width, later.small.height);
  const here = sized(later.small, Math.min(1, size));
  // Of one size with the later one, as far as is known.
  const there = sized(
    earlier.small,
    (here.width / now.width) * expectedScale * (then.width / earlier.small.width)
  );
  if (Math.min(here.width, here.height, there.width, there.height) < 4 * reachPx)
    return { outcome: 'not found', because: 'The pictures are too small.' };
  const shrink = coarseSidePx / Math.max(here.width, here.height, there.width / 1.2, there.height / 1.2);
  const found = yield* lyingOver(sized(here, shrink), sized(there, shrink));
  const settleShare = settleSidePx / Math.max(here.width, here.height);
  const fieldsAt = (share: number) =>
    [here, there].map((each) => edgeFieldOf(sized(each, share), smoothedPx));
  const best = likeliest(
    found.slice(0, candidates).map(({ similarity }) => similarity),
    [
      { share: shrink, fields: fieldsAt(shrink), stepPx: 2, leastStepPx: 0.5, kept: 3 },
      { share: settleShare, fields: fieldsAt(settleShare), stepPx: 1, leastStepPx: 0.25, kept: 1 }
    ]
  );
  if (!best) return { outcome: 'not found', because: 'Too little of the two pictures is alike.' };
  const lying = enlarged(best, 1 / settleShare);
  const fields = [here, there].map((each) => edgeFieldOf(each, smoothedPx)) as [EdgeField, EdgeField];
  const matched = clearPlaces(fields[0]).flatMap((at) => matchOf(fields, lying, at) ?? []);
  const agreeing = consensus(matched);
  if (agreeing.length < leastAgreeing || agreeing.length < leastAgreeingShare * matched.length)
    return { outcome: 'not found', because: 'Too few places of the two pictures agree.' };
  const [toNow, toThen] = [now.width / here.width, then.width / there.width];
  return {
    outcome: 'found',
    pairs: farApart(agreeing).map(({ from, to }) => ({
      from: { x: from.x * toThen, y: from.y * toThen },
      to: { x: to.x * toNow, y: to.y * toNow }
    })),
    compared: matched.length,
    agreeing: agreeing.length
  };
}

interface Round {
  /** Of the full size. */
  share: number;
  fields: EdgeField[];
  stepPx: number;
  leastStepPx: number;
  kept: number;
}

/** Settles all of them at a small size, the best of those at a larger one. */
function likeliest(from: readonly Similarity[], rounds: readonly Round[]): Similarity | undefined {
  let [left, share] = [from, rounds[0].share];
  for (const { fields, stepPx, leastStepPx, kept, ...round } of rounds) {
    const by = round.share / share;
    left = left
      .map((each) => settled(fields[0], fields[1], enlarged(each, by), stepPx, leastStepPx))
      .toSorted((a, b) => b.alike - a.alike)
      .slice(0, kept)
      .map(({ similarity }) => similarity);
    share = round.share;
  }
  return left[0];
}

const sized = (patch: Patch, share: number): Patch => {
  const width = Math.max(1, Math.round(patch.width * share));
  const height = Math.max(1, Math.round(patch.height * share));
  return width === patch.width && height === patch.height ? patch : resampled(patch, { width, height });
};

const enlarged = ({ scale, turn, shift }: Similarity, by: number): Similarity => ({
  scale,
  turn,
  shift: { x: shift.x * by, y: shift.y * by }
});

/** The clearest place of each cell: where edges run in more than one direction (Harris and Stephens, 1988). */
function clearPlaces({ width, height, re, im }: EdgeField): Point[] {
  const cell = Math.max(width, height) / cellsAcross;
  const radius = 7;
  const places: (Point & { clear: number })[] = [];
  for (let top = reachPx; top < height - reachPx; top += cell)
    for (let left = reachPx; left < width - reachPx; left += cell) {
      let best: (Point & { clear: number }) | null = null;
      for (let y = Math.ceil(top); y < Math.min(height - reachPx, top + cell); y += 3)
        for (let x = Math.ceil(left); x < Math.min(width - reachPx, left + cell); x += 3) {
          let [amount, a, b] = [0, 0, 0];
          for (let v = -radius; v <= radius; v += 2)
            for (let u = -radius; u <= radius; u += 2) {
              const i = (y + v) * width + x + u;
              amount += Math.hypot(re[i], im[i]);
              a += re[i];
              b += im[i];
            }
          const clear = amount - Math.hypot(a, b);
          if (!best || clear > best.clear) best = { x: x + 0.5, y: y + 0.5, clear };
        }
      if (best && best.clear > 0) places.push(best);
    }
  return places;
}

interface Match extends PointPair {
  alike: number;
}

/** Where a place of the later picture is in the earlier one, near where it should be; null where that is not clear. */
function matchOf([now, then]: [EdgeField, EdgeField], lying: Similarity, at: Point): Match | null {
  const back = inverse(lying);
  const side = 2 * reachPx + 1;
  // What the earlier picture shows around there, turned and sized as the later one is.
  const wide = side + 2 * searchPx;
  const seen = fieldAround(then, back, lying.turn, at, reachPx + searchPx);
  const own = fieldAround(now, { scale: 1, turn: 0, shift: { x: 0, y: 0 } }, 0, at, reachPx);
  let ownEnergy = 0;
  for (let i = 0; i < own.re.length; i++) ownEnergy += own.re[i] ** 2 + own.im[i] ** 2;
  const across = 2 * searchPx + 1;
  const scores = new Float64Array(across * across).fill(NaN);
  /** @param every of so many samples one is looked at */
  const scoreAt = (dx: number, dy: number, every: number): number => {
    let [sum, energy, mine] = [0, 0, 0];
    for (let v = 0; v < side; v += every) {
      let j = (v + dy) * wide + dx;
      let i = v * side;
      for (let u = 0; u < side; u += every, i += every, j += every) {
        const [a, b] = [seen.re[j], seen.im[j]];
        const [c, d] = [own.re[i], own.im[i]];
        sum += c * a + d * b;
        energy += a * a + b * b;
        if (every > 1) mine += c * c + d * d;
      }
    }
    const norm = energy * (every > 1 ? mine : ownEnergy);
    return norm > 0 ? sum / Math.sqrt(norm) : 0;
  };
  // Roughly everywhere, then exactly around the best.
  let best = 0;
  for (let dy = 0; dy < across; dy += 2)
    for (let dx = 0; dx < across; dx += 2) {
      const i = dy * across + dx;
      scores[i] = scoreAt(dx, dy, 2);
      if (scores[i] > scores[best]) best = i;
    }
  const rough = { x: best % across, y: Math.floor(best / across) };
  let second = 0;
  for (let i = 0; i < scores.length; i++) {
    const far = Math.hypot((i % across) - rough.x, Math.floor(i / across) - rough.y) > 6;
    if (far && scores[i] > second) second = scores[i];
  }
  best = -1;
  for (let dy = Math.max(0, rough.y - 2); dy <= Math.min(across - 1, rough.y + 2); dy++)
    for (let dx = Math.max(0, rough.x - 2); dx <= Math.min(across - 1, rough.x + 2); dx++) {
      const i = dy * across + dx;
      scores[i] = scoreAt(dx, dy, 1);
      if (best < 0 || scores[i] > scores[best]) best = i;
    }
  const [bx, by] = [best % across, Math.floor(best / across)];
  // At the rim of what was looked through, the best may lie beyond it.
  const within = Math.abs(bx - rough.x) < 2 && Math.abs(by - rough.y) < 2;
  const inside = Math.min(bx, by, across - 1 - bx, across - 1 - by) > 0;
  if (!within || !inside || scores[best] < leastAlike || scores[best] - second < leastAhead) return null;
  const ahead = {
    x: at.x + bx - searchPx + topBetween(scores[best - 1], scores[best], scores[best + 1]),
    y: at.y + by - searchPx + topBetween(scores[best - across], scores[best], scores[best + across])
  };
  return { from: onto(back, ahead), to: at, alike: scores[best] };
}

/** The field about a point, taken through a similarity; what lies outside is 0. */
function fieldAround(field: EdgeField, through: Similarity, turn: number, at: Point, reach: number) {
  const side = 2 * reach + 1;
  const out = { re: new Float32Array(side * side), im: new Float32Array(side * side) };
  const [cos2, sin2] = [Math.cos(2 * turn), Math.sin(2 * turn)];
  for (let v = 0; v < side; v++)
    for (let u = 0; u < side; u++) {
      const from = onto(through, { x: at.x + u - reach, y: at.y + v - reach });
      const [x, y] = [from.x - 0.5, from.y - 0.5];
      const [ix, iy] = [Math.floor(x), Math.floor(y)];
      if (ix < 0 || iy < 0 || ix >= field.width - 1 || iy >= field.height - 1) continue;
      const [p, q] = [x - ix, y - iy];
      const j = iy * field.width + ix;
      const mix = (part: Float32Array) =>
        (1 - q) * ((1 - p) * part[j] + p * part[j + 1]) +
        q * ((1 - p) * part[j + field.width] + p * part[j + field.width + 1]);
      const [a, b] = [mix(field.re), mix(field.im)];
      out.re[v * side + u] = a * cos2 - b * sin2;
      out.im[v * side + u] = a * sin2 + b * cos2;
    }
  return out;
}

/** Those that one similarity brings together: the one of all that pairs tell with which most agree. */
function consensus(matches: readonly Match[]): Match[] {
  let best: Match[] = [];
  const agreeingWith = (similarity: Similarity) =>
    matches.filter(({ from, to }) => {
      const there = onto(similarity, from);
      return Math.hypot(there.x - to.x, there.y - to.y) <= agreesPx;
    });
  for (let i = 0; i < matches.length; i++)
    for (let j = i + 1; j < matches.length; j++) {
      const { to } = matches[i];
      if (Math.hypot(matches[j].to.x - to.x, matches[j].to.y - to.y) < 4 * reachPx) continue;
      const laid = laidOver([matches[i], matches[j]]);
      const agreeing = laid ? agreeingWith(laid.similarity) : [];
      if (agreeing.length > best.length) best = agreeing;
    }
  const laid = best.length > 2 ? laidOver(best) : null;
  const again = laid ? agreeingWith(laid.similarity) : best;
  return again.length >= best.length ? again : best;
}

/** Up to four of them: the two furthest apart, then the ones that lie furthest from all taken, clear ones rather. */
function farApart(matches: readonly Match[]): Match[] {
  const middle = {
    x: matches.reduce((sum, { to }) => sum + to.x, 0) / matches.length,
    y: matches.reduce((sum, { to }) => sum + to.y, 0) / matches.length
  };
  const taken: Match[] = [];
  while (taken.length < Math.min(most, matches.length)) {
    const away = ({ to, alike }: Match) =>
      alike *
      (taken.length === 0
        ? Math.hypot(to.x - middle.x, to.y - middle.y)
        : Math.min(...taken.map((each) => Math.hypot(each.to.x - to.x, each.to.y - to.y))));
    taken.push(matches.reduce((best, each) => (away(each) > away(best) ? each : best)));
  }
  return taken;
}
