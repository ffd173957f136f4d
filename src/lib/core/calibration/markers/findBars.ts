import { leastSquares, medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import { type NoiseCurve, noiseCurve } from '../../raster/noise';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { fittedEdge, straightPx } from './edgeModel';
import type { Relationship } from './edgeSigns';
import { type Profile, ofOneValue, stepPx } from './edgeProfile';
import { type Found, type Hint, judged, nearHint } from './judged';
import { type Piece, longPieces, solidPieces } from './pieces';
import { rising } from './rising';

export type BarDoubt =
  | 'its sides are not parallel'
  | 'its ends are not flat'
  | 'not even along its length'
  | 'one end is cut off'
  | 'an end fits no bar'
  | 'something goes on from it'
  | 'thin as a wire'
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
  const found: (BarMarker & { step: number })[] = [];
  for (const bright of search.bright === undefined ? [true, false] : [search.bright]) {
    const { hint, lengthPx } = search;
    const pieces = [...longPieces(patch, bright), ...solidPieces(patch, bright)].filter(
      ({ filled, lengthPx, widthPx, center }) =>
        filled > 0.6 && lengthPx > 2.5 * widthPx && nearHint(center, hint)
    );
    const straight = pieces
      .flatMap((piece) => sidesOf(patch, piece, bright) ?? [])
      .sort((a, b) => likeBar(b) - likeBar(a));
    for (const sides of straight.slice(0, mostLooked)) {
      if (found.some((other) => sameBar(other, roughly(sides)))) continue;
      const bar = barOf(patch, sides, bright, noise, search.relationship);
      if (!bar || bar.confidence < hardlyOne) continue;
      if (lengthPx && (bar.lengthPx < lengthPx.least || bar.lengthPx > lengthPx.most)) continue;
      if (found.some((other) => sameBar(other, bar))) continue;
      found.push({ ...bar, step: sides.step });
    }
  }
  const strongest = Math.max(1e-9, ...found.map(({ step }) => step));
  const bars = found.map(({ step, ...bar }) => ({
    ...bar,
    confidence: bar.confidence * rising(step / strongest, faint, plain)
  }));
  return judged(bars, (a, b) => Math.min(a.lengthPx, b.lengthPx) > 0.85 * Math.max(a.lengthPx, b.lengthPx));
}

/** Bars are told from bones by how they stand out and by how straight their sides are. */
const likeBar = ({ step, spread, piece }: Sides) =>
  step * Math.sqrt(piece.lengthPx) * (1 - spread / mostSpread) * Math.min(1, piece.filled);

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

/** A bar's middle line. */
interface Axis {
  center: Point;
  c: number;
  s: number;
}

const on = ({ center, c, s }: Axis, along: number, across = 0): Point => ({
  x: center.x + along * c - across * s,
  y: center.y + along * s + across * c
});

/** A piece with two long sides. */
interface Sides {
  piece: Piece;
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
  return widths && widths.spread <= mostSpread ? { piece, axis, middles, inside, ...widths } : null;
}

function barOf(
  patch: Patch,
  { piece, axis, middles, inside, widthPx, spread }: Sides,
  bright: boolean,
  noise: NoiseCurve | null,
  relationship: Relationship | undefined
): BarMarker | null {
  const sign = bright ? 1 : -1;
  const half = piece.lengthPx / 2;
  const asPiece = rising(piece.filled, 0.5, 0.72) * rising(mostSpread - spread, 0, 0.2);
  if (asPiece < hardlyOne) return null;
  const end = (way: 1 | -1) => endOf(patch, axis, way, half, widthPx, sign, noise, relationship);
  const first = end(1);
  const last = first && end(-1);
  if (!last) return null;
  const lengthPx = first.along + last.along;
  const step = Math.min(first.step, last.step);
  const offs = middles.map((value) => Math.abs(value - inside) / Math.max(1e-9, step)).sort((a, b) => a - b);
  const uneven = 1.4826 * medianOf(offs);
  const holed = offs[Math.floor(holedShare * offs.length)];
  const goesOn =
    Math.max(
      besideEnd(patch, axis, first.along, widthPx, sign),
      besideEnd(patch, axis, -last.along, widthPx, sign)
    ) / step;
  const border = [on(axis, first.along), on(axis, -last.along)].some(
    ({ x, y }) => Math.min(x, y, patch.width - x, patch.height - y) < 2
  );
  const doubts: BarDoubt[] = [];
  const doubt = (when: boolean, what: BarDoubt) => {
    if (when) doubts.push(what);
  };
  doubt(border, 'one end is cut off');
  doubt(spread > 0.1, 'its sides are not parallel');
  doubt(Math.max(first.round, last.round) > mostRound, 'its ends are not flat');
  doubt(uneven > 0.15 || holed > mostHoled, 'not even along its length');
  doubt(Math.max(first.rms, last.rms) > 0.05, 'an end fits no bar');
  doubt(goesOn > mostBeside, 'something goes on from it');
  doubt(widthPx < wireShare * lengthPx, 'thin as a wire');
  return {
    kind: 'bar',
    ends: [on(axis, first.along), on(axis, -last.along)],
    lengthPx,
    uncertaintyPx: Math.hypot(first.uncertaintyPx, last.uncertaintyPx, 0.003 * widthPx),
    widthPx,
    bright,
    confidence:
      asPiece *
      rising(lengthPx / widthPx, 2, 3.2) *
      rising(Math.min(first.step, last.step) / Math.max(first.step, last.step), 0.08, 0.4) *
      rising(0.45 - uneven, 0, 0.25),
    doubts
  };
}

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

interface End {
  /** From the middle. */
  along: number;
  uncertaintyPx: number;
  step: number;
  rms: number;
  /** How much further its middle reaches than its corners, as a share of the width. */
  round: number;
}

const reachPx = 12;
/** Rods are thinner towards their sides, and what lies beside pulls: least uncertainty of an end. */
const endPx = 0.26;

function endOf(
  patch: Patch,
  axis: Axis,
  end: 1 | -1,
  half: number,
  widthPx: number,
  sign: number,
  noise: NoiseCurve | null,
  relationship: Relationship | undefined
): End | null {
  const grey = (along: number, across: number) => {
    const { x, y } = on(axis, end * along, across);
    return sign * valueAt(patch, x, y);
  };
  const rows = Math.max(3, Math.min(25, Math.round(0.56 * widthPx) | 1));
  const acrossOf = (row: number) => (row / (rows - 1) - 0.5) * 0.56 * widthPx;
  const inner = Math.min(reachPx, 0.35 * half);
  // Where it is steepest, roughly: over twice the reach, for the piece's own length is rough.
  const window = Math.max(8, 0.12 * half);
  let steepest = 0;
  let about = half;
  for (let along = half - window; along < half + window; along += 0.5) {
    let step = 0;
    for (let row = 0; row < rows; row++) {
      const across = acrossOf(row);
      step +=
        grey(along - 1, across) + grey(along - 2, across) - grey(along + 1, across) - grey(along + 2, across);
    }
    if (step > steepest) {
      steepest = step;
      about = along;
    }
  }
  if (!(steepest > 0)) return null;
  const count = Math.floor((inner + reachPx) / stepPx);
  const lines = Array.from({ length: rows }, (_, row) =>
    Float64Array.from({ length: count }, (__, k) => grey(about - inner + (k + 0.5) * stepPx, acrossOf(row)))
  );
  const within = lines.flatMap((line) => [...line.subarray(0, 4)]);
  const without = lines.flatMap((line) => [...line.subarray(count - 4)]);
  const inside = medianOf(within);
  const outside = medianOf(without);
  if (!(inside > outside)) return null;
  const scaled = lines.map((line) => line.map((value) => (value - outside) / (inside - outside)));
  const shape = new Float64Array(count);
  const sigma = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const values = scaled.map((line) => line[k]);
    shape[k] = values.reduce((a, b) => a + b, 0) / rows;
    const spread = Math.sqrt(values.reduce((sum, v) => sum + (v - shape[k]) ** 2, 0) / Math.max(1, rows - 1));
    // Samples between pixels share pixels with their neighbours.
    sigma[k] = 1.8 * Math.hypot(spread / Math.sqrt(rows), 0.004);
  }
  const profile: Profile = {
    distances: Float64Array.from({ length: count }, (_, k) => straightPx - inner + (k + 0.5) * stepPx),
    shape,
    sigma,
    topCut: ofOneValue(within),
    groundCut: ofOneValue(without),
    inside: sign * inside,
    outside: sign * outside,
    insideNoise: null
  };
  const fit = fittedEdge(profile, straightPx, 'disc', { noise, relationship });
  if (!fit) return null;
  const crossing = (line: Float64Array) => {
    for (let k = 1; k < count; k++)
      if (line[k] < 0.5) return k - 1 + (line[k - 1] - 0.5) / Math.max(1e-6, line[k - 1] - line[k]);
    return count;
  };
  const corners = (crossing(scaled[0]) + crossing(scaled[rows - 1])) / 2;
  const round = ((crossing(scaled[rows >> 1]) - corners) * stepPx) / widthPx;
  return {
    along: about + fit.radiusPx - straightPx,
    // An end that the model does not describe is told by its steepest place only.
    uncertaintyPx: Math.hypot(fit.uncertaintyPx, endPx, fit.rms > 0.03 ? 20 * fit.rms : 0),
    step: inside - outside,
    rms: fit.rms,
    round: round - 0.4 / widthPx
  };
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
