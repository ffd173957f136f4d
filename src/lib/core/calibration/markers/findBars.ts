import { leastSquares, medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import { type NoiseCurve, noiseCurve } from '../../raster/noise';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type Axis, on } from './axis';
import { type EndSeen, endSeen, measuredEnd } from './barEnds';
import type { Relationship } from './edgeSigns';
import { type Found, type Hint, anotherLikeIt, judged, nearHint, worthOffering } from './judged';
import { type Piece, pieceFinder } from './pieces';
import { rising } from './rising';

export type BarDoubt =
  | 'its sides are not parallel'
  | 'its ends are not flat'
  | 'not even along its length'
  | 'one end is cut off'
  | 'an end fits no bar'
  | 'something goes on from it'
  | 'thin as a wire'
  | 'too short to measure by'
  | 'another like it';

export interface BarMarker {
  kind: 'bar';
  ends: [Point, Point];
  lengthPx: number;
  /** Standard uncertainty of the length. */
  uncertaintyPx: number;
  widthPx: number;
  bright: boolean;
  confidence: number;
  doubts: BarDoubt[];
}

export interface BarSearch {
  lengthPx?: { least: number; most: number };
  /** Both are looked for when it is left out. */
  bright?: boolean;
  relationship?: Relationship;
  hint?: Hint;
}

const mostLooked = 8;
/** Beside what stands out most, bone does by less than these shares. */
const [faint, plain] = [0.15, 0.4];
/** What is so unlikely a bar is not compared with those that may be one. */
const hardlyOne = 0.1;

/**
 * Bars of metal: long pieces of one grey with parallel sides and flat ends, which are found to a part of a pixel by the
 * same model of an edge as balls' are. Finger bones bulge, pins end round, screws have thread: those are told of.
 */
export function findBars(patch: Patch, search: BarSearch = {}): Found<BarMarker> {
  const noise = noiseCurve(patch);
  const finder = pieceFinder(patch);
  const looks: Looked[] = [];
  const all: Sides[] = [];
  const { hint, relationship } = search;
  const { least, most } = search.lengthPx ?? { least: 0, most: Infinity };
  for (const bright of search.bright === undefined ? [true, false] : [search.bright]) {
    const pieces = [...finder.standingOut(bright), ...finder.solid(bright)].filter(
      ({ filled, lengthPx, widthPx, center }) =>
        filled > 0.6 && lengthPx > 2.5 * widthPx && nearHint(center, hint)
    );
    const straight = pieces
      .flatMap((piece) => sidesOf(patch, piece, bright) ?? [])
      .sort((a, b) => likeBar(b) - likeBar(a));
    all.push(...straight);
    for (const sides of straight.slice(0, mostLooked)) {
      if (looks.some((other) => sameBar(other, roughly(sides)))) continue;
      const looked = lookedAt(patch, sides);
      if (!looked || looked.confidence < hardlyOne) continue;
      if (looked.lengthPx <= least - roughPx || looked.lengthPx >= most + roughPx) continue;
      if (!looks.some((other) => sameBar(other, looked))) looks.push(looked);
    }
  }
  const strongest = Math.max(1e-9, ...looks.map(({ step }) => step));
  // To measure an end takes longer than all before: only what may be offered is.
  const bars = looks.flatMap((looked) => {
    const confidence = looked.confidence * rising(looked.step / strongest, faint, plain);
    if (confidence <= worthOffering) return [];
    const more = all.some((other) => besideIt(looked, other)) ? [anotherLikeIt as BarDoubt] : [];
    const doubts = [...looked.doubts, ...more];
    const bar = measured(patch, { ...looked, confidence, doubts }, noise, relationship);
    return bar && bar.lengthPx >= least && bar.lengthPx <= most ? [bar] : [];
  });
  return judged(bars, (a, b) => Math.min(a.lengthPx, b.lengthPx) > 0.85 * Math.max(a.lengthPx, b.lengthPx));
}

/** Bars are told from bones by how they stand out and by how straight their sides are. */
const likeBar = ({ step, spread, piece }: Sides) =>
  step * Math.sqrt(piece.lengthPx) * (1 - spread / mostSpread) * Math.min(1, piece.filled);

/** Lines of a ruler are bars too, side by side, one as long as the next. */
function besideIt({ axis, lengthPx, widthPx, step, bright }: Looked, other: Sides): boolean {
  const [dx, dy] = [other.axis.center.x - axis.center.x, other.axis.center.y - axis.center.y];
  const lengths = other.piece.lengthPx / lengthPx;
  return (
    bright === other.bright &&
    Math.abs(axis.c * other.axis.c + axis.s * other.axis.s) > parallel &&
    Math.min(lengths, 1 / lengths) > 0.75 &&
    Math.abs(dy * axis.c - dx * axis.s) > 1.2 * widthPx &&
    Math.hypot(dx, dy) < 2 * lengthPx &&
    other.step > 0.6 * step
  );
}
const parallel = 0.985;

type Lying = Pick<BarMarker, 'ends' | 'widthPx'>;
/** As its piece tells, before its ends are measured. */
const roughly = ({ piece, axis, widthPx }: Sides): Lying => ({
  ends: [on(axis, piece.lengthPx / 2), on(axis, -piece.lengthPx / 2)],
  widthPx
});
const sameBar = (a: Lying, b: Lying) =>
  [0, 1].every(
    (i) => Math.hypot(a.ends[i].x - b.ends[i].x, a.ends[i].y - b.ends[i].y) < Math.min(a.widthPx, b.widthPx)
  );

/** A piece with two long sides. */
interface Sides {
  piece: Piece;
  bright: boolean;
  axis: Axis;
  /** Greys along its middle line, brighter ones higher where it is bright, and the usual one. */
  middles: number[];
  inside: number;
  /** How much brighter (darker) that is than beside its sides. */
  step: number;
  widthPx: number;
  /** How much the width varies along it, as a share of it. */
  spread: number;
}

const mostSpread = 0.4;

function sidesOf(patch: Patch, piece: Piece, bright: boolean): Sides | null {
  const sign = bright ? 1 : -1;
  const axis = straightened(patch, piece, sign);
  const half = piece.lengthPx / 2;
  const grey = (along: number, across = 0) => {
    const { x, y } = on(axis, along, across);
    return sign * valueAt(patch, x, y);
  };
  const middles = Array.from({ length: 31 }, (_, i) => grey(((i - 15) / 15) * half * 0.82));
  const inside = medianOf(middles);
  const widths = widthsOf(grey, half, piece.widthPx, inside);
  return widths && widths.spread <= mostSpread ? { piece, bright, axis, middles, inside, ...widths } : null;
}

/** A bar but for its ends, which are known roughly. */
interface Looked extends Lying {
  axis: Axis;
  ways: { first: EndSeen; last: EndSeen };
  lengthPx: number;
  /** Of its ends, the lesser. */
  step: number;
  bright: boolean;
  confidence: number;
  doubts: BarDoubt[];
}

function lookedAt(
  patch: Patch,
  { piece, bright, axis, middles, inside, widthPx, spread }: Sides
): Looked | null {
  const sign = bright ? 1 : -1;
  const half = piece.lengthPx / 2;
  const asPiece = rising(piece.filled, 0.5, 0.72) * rising(mostSpread - spread, 0, 0.2);
  if (asPiece < hardlyOne) return null;
  const first = endSeen(patch, axis, 1, half, widthPx, sign);
  const last = first && endSeen(patch, axis, -1, half, widthPx, sign);
  if (!last) return null;
  const lengthPx = first.about + last.about;
  const step = Math.min(first.step, last.step);
  const offs = middles.map((value) => Math.abs(value - inside) / Math.max(1e-9, step)).sort((a, b) => a - b);
  const uneven = 1.4826 * medianOf(offs);
  const holed = offs[Math.floor(holedShare * offs.length)];
  const ends: [Point, Point] = [on(axis, first.about), on(axis, -last.about)];
  const border = ends.some(({ x, y }) => Math.min(x, y, patch.width - x, patch.height - y) < 2);
  const doubts: BarDoubt[] = [];
  const doubt = (when: boolean, what: BarDoubt) => {
    if (when) doubts.push(what);
  };
  doubt(border, 'one end is cut off');
  doubt(spread > 0.1, 'its sides are not parallel');
  doubt(Math.max(first.round, last.round) > mostRound, 'its ends are not flat');
  doubt(uneven > 0.15 || holed > mostHoled, 'not even along its length');
  doubt(widthPx < wireShare * lengthPx, 'thin as a wire');
  const confidence =
    asPiece *
    rising(lengthPx / widthPx, 2, 3.2) *
    rising(step / Math.max(first.step, last.step), 0.08, 0.4) *
    rising(0.45 - uneven, 0, 0.25);
  return { axis, ways: { first, last }, ends, lengthPx, widthPx, step, bright, confidence, doubts };
}

function measured(
  patch: Patch,
  { axis, ways, widthPx, step, bright, confidence, doubts }: Looked,
  noise: NoiseCurve | null,
  relationship: Relationship | undefined
): BarMarker | null {
  const first = measuredEnd(ways.first, noise, relationship);
  const last = first && measuredEnd(ways.last, noise, relationship);
  if (!last) return null;
  const sign = bright ? 1 : -1;
  const beside = (along: number) => besideEnd(patch, axis, along, widthPx, sign);
  const more: BarDoubt[] = [];
  if (Math.max(first.rms, last.rms) > mostOff) more.push('an end fits no bar');
  if (Math.max(beside(first.along), beside(-last.along)) > mostBeside * step)
    more.push('something goes on from it');
  const lengthPx = first.along + last.along;
  const uncertaintyPx = Math.hypot(first.uncertaintyPx, last.uncertaintyPx, 0.003 * widthPx);
  // Where something else is doubted already, that is why.
  if (doubts.length + more.length === 0 && uncertaintyPx > shortShare * lengthPx)
    more.push('too short to measure by');
  return {
    kind: 'bar',
    ends: [on(axis, first.along), on(axis, -last.along)],
    lengthPx,
    uncertaintyPx,
    widthPx,
    bright,
    confidence,
    doubts: [...doubts, ...more]
  };
}

/** A length that is less sure than this share of it is no scale. */
const shortShare = 0.0125;
/** Where an end lies by its steepest place differs from where it is measured by less. */
const roughPx = 6;
/** Of an end's greys against the model of an edge, as a share of the step. */
const mostOff = 0.05;
/** Two holes take at least an eighth of a plate's length. */
const holedShare = 0.87;
const mostHoled = 0.5;
/** A plate's end is half a circle, by which its middle reaches a fifteenth of the width further than its quarters. */
const mostRound = 0.055;
/** Bone beside an end is fainter than this against the bar's own step. */
const mostBeside = 0.5;
/** Bars that are made to be measured are wider than this share of their length. */
const wireShare = 0.05;

/**
 * How much brighter it is beside an end than beside the bar further in, just off its sides: the other arm of a letter, the
 * heads of a bone. In the picture's values.
 */
function besideEnd(patch: Patch, axis: Axis, end: number, widthPx: number, sign: number): number {
  const off = 0.5 * widthPx + Math.max(2, 0.15 * widthPx);
  const toMiddle = Math.sign(end);
  const beside = (along: number, side: number) => {
    const { x, y } = on(axis, along, side * off);
    return sign * valueAt(patch, x, y);
  };
  return Math.max(
    ...[1, -1].map((side) => {
      const further = medianOf([0.2, 0.3, 0.4, 0.5].map((share) => beside(end * share, side)));
      const near = [0.2, 0.5, 0.8].map((by) => beside(end - toMiddle * by * widthPx, side));
      return Math.max(...near) - further;
    })
  );
}

/** The bar's width half of the way up, and how much it varies along it as a share of it. */
function widthsOf(
  grey: (along: number, across: number) => number,
  half: number,
  roughly: number,
  inside: number
): { widthPx: number; spread: number; step: number } | null {
  const reach = Math.max(4, 1.6 * roughly);
  const widths: number[] = [];
  const steps: number[] = [];
  for (let i = -6; i <= 6; i++) {
    const along = (i / 6) * half * 0.8;
    const sides = [1, -1].map((side) => {
      const ground = medianOf([0, 0.5, 1].map((by) => grey(along, side * (reach - by))));
      const level = (inside + ground) / 2;
      steps.push(inside - ground);
      for (let across = 0; across < reach; across += 0.25)
        if (grey(along, side * across) < level) return across;
      return NaN;
    });
    const width = sides[0] + sides[1];
    if (width > 0.5) widths.push(width);
  }
  if (widths.length < 7) return null;
  const widthPx = medianOf(widths);
  const sorted = [...widths].sort((a, b) => a - b);
  const spread =
    (sorted[Math.floor(sorted.length * 0.9)] - sorted[Math.floor(sorted.length * 0.1)]) / widthPx;
  return { widthPx, spread: Math.max(0, spread - 0.6 / widthPx), step: medianOf(steps) };
}

/** The piece's middle line, from the middles between its two long edges. */
function straightened(patch: Patch, piece: Piece, sign: number): Axis {
  const { center, angle, lengthPx, widthPx } = piece;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const reach = Math.max(4, widthPx * 1.2);
  const rows: number[][] = [];
  const offs: number[] = [];
  for (let i = -8; i <= 8; i++) {
    const along = (i / 8) * lengthPx * 0.4;
    let weight = 0;
    let moment = 0;
    const values: number[] = [];
    for (let w = -reach; w <= reach; w += 0.5)
      values.push(sign * valueAt(patch, center.x + along * c - w * s, center.y + along * s + w * c));
    const ground = Math.max(values[0], values[values.length - 1]);
    values.forEach((value, k) => {
      const over = Math.max(0, value - ground);
      weight += over;
      moment += over * (-reach + k * 0.5);
    });
    if (weight > 0) {
      rows.push([1, along]);
      offs.push(moment / weight);
    }
  }
  const fit = rows.length > 4 ? leastSquares(rows, offs) : null;
  if (!fit) return { center, c, s };
  const [off, slope] = fit;
  const turned = angle + Math.atan(slope);
  return {
    center: { x: center.x - off * s, y: center.y + off * c },
    c: Math.cos(turned),
    s: Math.sin(turned)
  };
}
