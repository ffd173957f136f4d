import { leastSquares, medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { on } from './axis';
import { type Found, judged } from './judged';
import { type Piece, pieceFinder } from './pieces';
import { clamped } from './rising';
import { type LineShape, lineShape } from './rulerLines';

export type RulerDoubt =
  | 'lines are missing'
  | 'cut off by the border'
  | 'few lines'
  | 'its lines may be a thread'
  | 'its lines are not straight'
  | 'another like it';

export interface RulerMarker {
  kind: 'ruler';
  /** Pixels from one line to the next. */
  spacingPx: number;
  /** Standard uncertainty of it. */
  uncertaintyPx: number;
  /** The middles of the lines that were seen, in order. */
  lines: Point[];
  /** Places for lines, from the first to the last, both counted and those not seen too. */
  places: number;
  residualPx: number;
  bright: boolean;
  confidence: number;
  doubts: RulerDoubt[];
}

const leastLines = 4;
const alikeAngle = 0.1;
/** Lines may be this share of the spacing off their place. */
const offShare = 0.12;

/** Evenly spaced lines of rulers, each ruler with all of its lines, in the full picture. */
export function findRuler(patch: Patch, bright?: boolean): Found<RulerMarker> {
  const found: RulerMarker[] = [];
  const finder = pieceFinder(patch);
  for (const light of bright === undefined ? [true, false] : [bright]) {
    const pieces = finder.standingOut(light);
    const tried = [
      ...combsOf(pieces),
      ...pieces
        .filter(({ lengthPx }) => lengthPx > 40)
        .slice(0, 12)
        .flatMap((piece) => alongOf(patch, piece, light))
    ];
    tried.sort((a, b) => b.count - a.count);
    for (const comb of tried.slice(0, 14)) {
      const ruler = followed(patch, comb, light);
      if (!ruler || found.some((other) => sameRuler(other, ruler))) continue;
      found.push(ruler);
    }
  }
  // Half of a ruler's lines seen as a ruler of its own, or every second one, is the same ruler.
  found.sort((a, b) => b.places * b.confidence - a.places * a.confidence);
  return judged(
    found,
    (a, b) => Math.abs(a.spacingPx - b.spacingPx) < 0.15 * Math.max(a.spacingPx, b.spacingPx)
  );
}

const sameRuler = (a: RulerMarker, b: RulerMarker) => {
  const reach = 1.2 * Math.max(a.spacingPx, b.spacingPx);
  const near = b.lines.filter((p) => a.lines.some((q) => Math.hypot(p.x - q.x, p.y - q.y) < reach)).length;
  return near > 0.5 * b.lines.length;
};

/** Where lines stand, roughly: one of them, the way from one to the next, and the way along a line. */
interface Comb {
  first: Point;
  step: Point;
  count: number;
  /** Length of a line. */
  acrossPx: number;
}

/** Parallel pieces of about one length whose places across them are whole steps apart. */
function combsOf(pieces: readonly Piece[]): Comb[] {
  const out: Comb[] = [];
  const used = new Set<Piece>();
  for (const first of pieces) {
    if (used.has(first)) continue;
    const alike = pieces.filter(
      (piece) =>
        turnedBy(piece.angle, first.angle) < alikeAngle &&
        piece.widthPx < 2.5 * first.widthPx &&
        piece.lengthPx > 0.35 * first.lengthPx
    );
    if (alike.length < leastLines) continue;
    const comb = spaced(alike, first);
    if (!comb) continue;
    alike.forEach((piece) => used.add(piece));
    out.push(comb);
  }
  return out;
}

function turnedBy(a: number, b: number): number {
  const by = Math.abs(a - b) % Math.PI;
  return Math.min(by, Math.PI - by);
}

function spaced(pieces: readonly Piece[], reference: Piece): Comb | null {
  const [c, s] = [Math.cos(reference.angle), Math.sin(reference.angle)];
  const placed = pieces
    .map((piece) => ({
      piece,
      at: -piece.center.x * s + piece.center.y * c,
      along: piece.center.x * c + piece.center.y * s
    }))
    .filter(
      ({ along }) =>
        Math.abs(along - (reference.center.x * c + reference.center.y * s)) < 1.5 * reference.lengthPx
    )
    .sort((a, b) => a.at - b.at);
  if (placed.length < leastLines) return null;
  const gaps = placed
    .slice(1)
    .map(({ at }, i) => at - placed[i].at)
    .filter((gap) => gap > 2);
  if (gaps.length < leastLines - 1) return null;
  const step = medianOf(gaps);
  let run: typeof placed = [];
  let longest: typeof placed = [];
  for (const [i, each] of placed.entries()) {
    const gap = i > 0 ? each.at - placed[i - 1].at : 0;
    const whole = Math.round(gap / step);
    if (i > 0 && (whole < 1 || whole > 2 || Math.abs(gap - whole * step) > 2 * offShare * step)) run = [];
    run = [...run, each];
    if (run.length > longest.length) longest = run;
  }
  if (longest.length < leastLines) return null;
  // Longer lines reach further to one side: the way from line to line is that of lines of one length.
  const usual = medianOf(longest.map(({ piece }) => piece.lengthPx));
  const even = longest.filter(({ piece }) => Math.abs(piece.lengthPx - usual) < 0.2 * usual);
  const turned = leastSquares(
    even.map(({ at }) => [1, at]),
    even.map(({ along }) => along)
  );
  const slope = turned && even.length >= 3 ? turned[1] : 0;
  const [a, b] = [longest[0], longest[longest.length - 1]];
  const count = Math.round((b.at - a.at) / step) + 1;
  const by = (b.at - a.at) / (count - 1);
  const from = even[0] ?? a;
  const before = Math.round((from.at - a.at) / step);
  const way = { x: by * (slope * c - s), y: by * (slope * s + c) };
  return {
    first: { x: from.piece.center.x - before * way.x, y: from.piece.center.y - before * way.y },
    step: way,
    count,
    acrossPx: usual
  };
}

/** Lines that stand on a spine: found by going beside the spine, where greys go up and down evenly. */
function alongOf(patch: Patch, { center, angle, lengthPx, widthPx }: Piece, bright: boolean): Comb[] {
  const sign = bright ? 1 : -1;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  let best: Comb | null = null;
  const stride = Math.max(1, widthPx / 8);
  for (let across = -1.3 * widthPx; across <= 1.3 * widthPx; across += stride) {
    const n = Math.floor(1.05 * lengthPx);
    const line = Float64Array.from({ length: n }, (_, i) => {
      const along = i - n / 2;
      return sign * valueAt(patch, center.x + along * c - across * s, center.y + along * s + across * c);
    });
    const peaks = evenPeaks(line);
    if (!peaks || peaks.count <= (best?.count ?? leastLines)) continue;
    const from = peaks.first - n / 2;
    best = {
      first: { x: center.x + from * c - across * s, y: center.y + from * s + across * c },
      step: { x: peaks.step * c, y: peaks.step * s },
      count: peaks.count,
      acrossPx: Math.max(3, 0.5 * widthPx)
    };
  }
  return best ? [best] : [];
}

/** The longest run of evenly spaced peaks of a line of greys. */
function evenPeaks(line: Float64Array): { first: number; step: number; count: number } | null {
  const sorted = line.slice().sort();
  const low = sorted[Math.floor(sorted.length * 0.2)];
  const high = sorted[Math.floor(sorted.length * 0.97)];
  const level = low + 0.45 * (high - low);
  if (!(high > low)) return null;
  const peaks: number[] = [];
  for (let i = 0; i < line.length;) {
    if (line[i] < level) {
      i++;
      continue;
    }
    let [weight, sum] = [0, 0];
    for (; i < line.length && line[i] >= level; i++) {
      weight += line[i] - level;
      sum += i * (line[i] - level);
    }
    if (weight > 0) peaks.push(sum / weight);
  }
  if (peaks.length < leastLines) return null;
  const step = medianOf(peaks.slice(1).map((at, i) => at - peaks[i]));
  if (step < 3) return null;
  let from = 0;
  let best = { from: 0, to: 0 };
  for (let i = 1; i <= peaks.length; i++) {
    if (i < peaks.length && Math.abs(peaks[i] - peaks[i - 1] - step) < 0.2 * step) continue;
    if (i - 1 - from > best.to - best.from) best = { from, to: i - 1 };
    from = i;
  }
  const count = best.to - best.from + 1;
  if (count < leastLines) return null;
  return { first: peaks[best.from], step: (peaks[best.to] - peaks[best.from]) / (count - 1), count };
}

/** Threads of screws stand out of a shank that is thicker than this share of the spacing, or than short ones are long. */
const thickShare = 0.75;
const shortShare = 0.62;
const isThread = ({ lengthShare, spineShare }: LineShape) =>
  spineShare > thickShare || (lengthShare < shortShare && spineShare > lengthShare);
/** The spine of a ruler is thinner than this share of it. */
const mostSpine = 0.52;
/** What looks like a thread counts for less beside a ruler. */
const ofThread = 0.5;
/** Lines bend by less than this share of the spacing: links of chains are round, noise is anyhow. */
const bentShare = 0.085;

/** What is uneven around a line pulls its middle by about this much. */
const linePx = 0.28;
/** How strongly a place must rise above what lies between the lines, against the others, to be one. */
const lineShare = 0.35;

/** Each line found to a part of a pixel in the full picture, on and on at both ends until none follows. */
function followed(patch: Patch, comb: Comb, bright: boolean): RulerMarker | null {
  const sign = bright ? 1 : -1;
  const step0 = Math.hypot(comb.step.x, comb.step.y);
  if (!(step0 > 2.5)) return null;
  const [c, s] = [comb.step.x / step0, comb.step.y / step0];
  const rows = Math.max(3, Math.min(15, Math.floor(0.5 * comb.acrossPx)));
  const origin = comb.first;
  /** The line near a place along the ruler: where, and how far it rises above its sides. */
  const near = (along: number): { along: number; rise: number } | null => {
    const reach = 0.5 * step0;
    const n = Math.max(9, Math.ceil((2 * reach) / 0.5));
    const line = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      const at = along - reach + (i / (n - 1)) * 2 * reach;
      let sum = 0;
      for (let row = 0; row < rows; row++) {
        const across = (row / (rows - 1) - 0.5) * 0.5 * comb.acrossPx;
        sum += valueAt(patch, origin.x + at * c - across * s, origin.y + at * s + across * c);
      }
      line[i] = (sign * sum) / rows;
    }
    const ground = (line[0] + line[1] + line[n - 1] + line[n - 2]) / 4;
    let top = -Infinity;
    for (let i = 2; i < n - 2; i++) top = Math.max(top, line[i]);
    const rise = top - ground;
    if (!(rise > 0)) return null;
    let [weight, moment] = [0, 0];
    for (let i = 0; i < n; i++) {
      const over = Math.max(0, line[i] - ground - 0.4 * rise);
      weight += over;
      moment += over * i;
    }
    return { along: along - reach + (moment / weight / (n - 1)) * 2 * reach, rise };
  };
  const inPicture = (along: number) => {
    const [x, y] = [origin.x + along * c, origin.y + along * s];
    return x > 1 && y > 1 && x < patch.width - 1 && y < patch.height - 1;
  };
  const seen = new Map<number, number>();
  const rises: number[] = [];
  for (let i = 0; i < comb.count; i++) {
    const line = near(i * step0);
    if (line && Math.abs(line.along - i * step0) < 0.3 * step0) rises.push(line.rise);
  }
  if (rises.length < leastLines - 1) return null;
  const usual = medianOf(rises);
  const take = (i: number, expected: number): boolean => {
    if (!inPicture(expected)) return false;
    const line = near(expected);
    if (!line || line.rise < lineShare * usual || Math.abs(line.along - expected) > 0.22 * step0)
      return false;
    seen.set(i, line.along);
    return true;
  };
  let spacing = step0;
  let start = 0;
  const refit = () => {
    const fit = leastSquares(
      [...seen.keys()].map((i) => [1, i]),
      [...seen.values()]
    );
    if (fit) [start, spacing] = fit;
  };
  for (let i = 0; i < comb.count; i++) take(i, i * step0);
  if (seen.size < leastLines - 1) return null;
  refit();
  for (const way of [1, -1]) {
    let missed = 0;
    for (let i = way > 0 ? comb.count : -1; missed < 2; i += way) {
      if (!inPicture(start + i * spacing)) break;
      if (take(i, start + i * spacing)) {
        missed = 0;
        refit();
      } else missed++;
    }
  }
  refit();
  for (const [i, along] of [...seen])
    if (Math.abs(along - start - i * spacing) > offShare * spacing) seen.delete(i);
  refit();
  // What lies beyond an end is nearly where a line would be, but not quite, and fainter.
  const isFaint = (i: number) => (near(seen.get(i)!)?.rise ?? 0) < faintShare * usual;
  const beyond = () => astray(seen, spacing).find(isFaint);
  for (let i = beyond(); i !== undefined; i = beyond()) {
    seen.delete(i);
    refit();
  }
  const indices = [...seen.keys()].sort((a, b) => a - b);
  const n = indices.length;
  if (n < leastLines) return null;
  const offs = indices.map((i) => seen.get(i)! - start - spacing * i);
  const residual = Math.sqrt(offs.reduce((sum, off) => sum + off * off, 0) / Math.max(1, n - 2));
  const mean = indices.reduce((a, b) => a + b, 0) / n;
  const lever = Math.sqrt(indices.reduce((sum, i) => sum + (i - mean) ** 2, 0));
  const places = indices[n - 1] - indices[0] + 1;
  const cut =
    !inPicture(start + (indices[0] - 1) * spacing) || !inPicture(start + (indices[n - 1] + 1) * spacing);
  const doubts: RulerDoubt[] = [];
  if (places > n) doubts.push('lines are missing');
  if (cut) doubts.push('cut off by the border');
  if (n < 6) doubts.push('few lines');
  const first = { center: on({ center: origin, c, s }, start), c, s };
  const shape = lineShape(patch, first, { spacing, indices }, sign);
  if (isThread(shape) || shape.spineShare > mostSpine) doubts.push('its lines may be a thread');
  if (shape.bendShare > bentShare) doubts.push('its lines are not straight');
  return {
    kind: 'ruler',
    spacingPx: spacing,
    uncertaintyPx: Math.max(residual, linePx) / lever,
    lines: indices.map((i) => ({ x: origin.x + seen.get(i)! * c, y: origin.y + seen.get(i)! * s })),
    places,
    residualPx: residual,
    bright,
    confidence:
      clamped((n - 2) / 3) *
      clamped(1.2 - residual / (offShare * spacing)) *
      clamped((n / places - 0.4) / 0.4) *
      (isThread(shape) ? ofThread : 1) *
      clamped((2 * bentShare - shape.bendShare) / bentShare),
    doubts
  };
}

/** An end line must lie as well as the others do, but for so much of the spacing and so many pixels. */
const endShare = 0.04;
const endPx = 0.35;
/** One that rises by less than this share of what most do is none then. */
const faintShare = 0.5;

/** Of the first and the last line those that lie off the places that the others give them. */
function astray(seen: ReadonlyMap<number, number>, spacing: number): number[] {
  if (seen.size <= leastLines) return [];
  const indices = [...seen.keys()].sort((a, b) => a - b);
  return [indices[0], indices[indices.length - 1]].filter((end) => {
    const others = indices.filter((i) => i !== end);
    const fit = leastSquares(
      others.map((i) => [1, i]),
      others.map((i) => seen.get(i)!)
    );
    if (!fit) return false;
    const off = (i: number) => Math.abs(seen.get(i)! - fit[0] - fit[1] * i);
    return off(end) > endShare * spacing + endPx && off(end) > 4 * medianOf(others.map(off));
  });
}
