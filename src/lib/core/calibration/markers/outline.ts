import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { valueAt } from '../../raster/geometry/sampling';
import { throughThree } from '../../measurement/fit/circle';
import { leastSquares, medianOf } from '../../measurement/fit/linear';
import { topBetween } from '../../measurement/fit/top';

/** A nearly round outline about a centre: an ellipse whose half axes are radius + oval and radius - oval. */
export interface Outline {
  center: Point;
  radiusPx: number;
  /** How far it is from a circle: half the difference of the longest and the shortest radius, and the longest's way. */
  ovalPx: number;
  ovalAngle: number;
  /** Directions in which an edge was looked for, and how far off the outline it was; NaN where none was found. */
  offPx: Float64Array;
  /** Share of the directions in which the edge lies on the outline. */
  share: number;
  /** Root mean square distance of those from it. */
  residualPx: number;
  /** Median step across the edge, inside minus outside, in the picture's values. */
  contrast: number;
}

const stepsAPixel = 1.6;

/** Edges of a ray that are weaker than this share of its strongest are noise. */
const worthEdge = 0.3;
const mostEdges = 3;

/**
 * Follows edges of the wanted sign along rays from a centre, up to three a ray, for something else may lie beside; fits a
 * circle, then an oval, to those that agree. Starts from circles through three edges a third apart, and keeps the one
 * most rays have an edge on.
 * @param bright whether the marker is brighter than what is around it
 * @returns null when less than `leastShare` of the directions agree on anything
 */
export function outlineAt(
  patch: Patch,
  start: Point,
  radiusPx: number,
  bright: boolean,
  options: {
    rays: number;
    from: number;
    to: number;
    allow: number;
    leastShare?: number;
    /** With an edge as strong on fewer than half of the rays that are needed, there is no outline; in the picture's values. */
    leastStep?: number;
    /** An outline that was found coarsely: no circles are tried, edges near it are taken. */
    about?: { radiusPx: number; ovalPx: number; ovalAngle: number };
  }
): Outline | null {
  const { rays, leastShare = 0.4, about } = options;
  const edges: Edge[] = [];
  const low = Math.max(1, options.from * radiusPx);
  const high = options.to * radiusPx + 2;
  const reach = Math.max(1, Math.min(3, radiusPx * 0.25));
  const count = Math.max(6, Math.ceil((high - low) * stepsAPixel));
  const stride = (high - low) / (count - 1);
  const around = Math.max(1, Math.round(reach / stride));
  const line = new Float64Array(count + 2 * around);
  const slopes = new Float64Array(count);
  let mayBeFaint = rays - neededOf(rays, leastShare) / 2;
  for (let i = 0; i < rays; i++) {
    const cos = Math.cos((2 * Math.PI * i) / rays);
    const sin = Math.sin((2 * Math.PI * i) / rays);
    for (let k = 0; k < line.length; k++) {
      const r = Math.max(0, low + (k - around) * stride);
      line[k] = valueAt(patch, start.x + r * cos, start.y + r * sin);
    }
    slopesOf(line, count, around, bright, slopes);
    let strongest = 0;
    for (let k = 1; k < count - 1; k++) if (slopes[k] > strongest) strongest = slopes[k];
    if (options.leastStep && strongest < options.leastStep && --mayBeFaint < 0) return null;
    const peaks: number[] = [];
    for (let k = 1; k < count - 1; k++)
      if (slopes[k] > worthEdge * strongest && slopes[k] >= slopes[k - 1] && slopes[k] > slopes[k + 1])
        peaks.push(k);
    if (peaks.length > 1) peaks.sort((a, b) => slopes[b] - slopes[a]);
    for (const k of peaks.slice(0, mostEdges)) {
      const step = slopes[k];
      const r = low + (k + topBetween(slopes[k - 1], slopes[k], slopes[k + 1])) * stride;
      edges.push({ x: r * cos, y: r * sin, r, i, step });
    }
  }
  return fittedOutline(start, edges, { rays, leastShare, allow: options.allow, bright, about });
}

const neededOf = (rays: number, leastShare: number) => Math.max(6, leastShare * rays);

/** An edge on a ray, from the centre that rays start at. */
interface Edge extends Point {
  r: number;
  i: number;
  step: number;
}

/** Means of some samples further in minus as many further out: what a step across gives, noise averaged. */
function slopesOf(
  line: Float64Array,
  count: number,
  around: number,
  bright: boolean,
  out: Float64Array
): void {
  let inner = 0;
  let outer = 0;
  for (let i = 0; i < around; i++) {
    inner += line[i];
    outer += line[i + around + 1] ?? 0;
  }
  const share = (bright ? 1 : -1) / around;
  for (let k = 0; k < count; k++) {
    out[k] = share * (inner - outer);
    const i = k + around;
    inner += line[i] - line[k];
    if (i + around + 1 < line.length) outer += line[i + around + 1] - line[i + 1];
  }
}

/** Circles are tried through edges of at most this many rays. */
const triedRays = 20;
/** With this share of the rays on a circle no other is tried. */
const enough = 0.92;

/** The circle through three edges that most rays have an edge near to. */
function circleThrough(
  byRay: readonly Edge[][],
  allow: number,
  needed: number
): { x: number; y: number; r: number } | null {
  const rays = byRay.length;
  // Rays far from one another follow each other, so that a circle few of them are on is soon left alone.
  const apart = turns(rays);
  const spread = byRay.map((_, k) => byRay[(k * apart) % rays]).filter((of) => of.length > 0);
  const edges = spread.flat();
  const n = edges.length;
  const xs = Float64Array.from(edges, ({ x }) => x);
  const ys = Float64Array.from(edges, ({ y }) => y);
  const ray = Int32Array.from(spread.flatMap((of, k) => of.map(() => k)));
  let best: { x: number; y: number; r: number } | null = null;
  let bestCount = Math.ceil(needed) - 1;
  const stride = Math.max(1, Math.floor(rays / triedRays));
  // Of each ray its strongest edge, then its innermost: a bone's rim behind may be stronger than the marker's own.
  const innermost = byRay.map((of) =>
    of.reduce<Edge | undefined>((a, b) => (a && a.r < b.r ? a : b), undefined)
  );
  const strongest = byRay.map((of) => of[0] as Edge | undefined);
  for (const [from, share] of [
    [strongest, 1 / 3],
    [innermost, 1 / 3],
    [strongest, 1 / 6],
    [innermost, 1 / 6]
  ] as const) {
    const third = Math.max(1, Math.round(share * rays));
    for (let i = 0; i < rays; i += stride) {
      const [p, q, r] = [from[i], from[(i + third) % rays], from[(i + 2 * third) % rays]];
      if (!p || !q || !r) continue;
      const circle = throughThree(p, q, r);
      if (!circle) continue;
      const room = allow * circle.r + 0.35;
      const low = Math.max(0, circle.r - room) ** 2;
      const high = (circle.r + room) ** 2;
      let count = 0;
      let last = -1;
      for (let k = 0; k < n && count + spread.length - ray[k] > bestCount; k++) {
        if (ray[k] === last) continue;
        const [dx, dy] = [xs[k] - circle.x, ys[k] - circle.y];
        const square = dx * dx + dy * dy;
        if (square > low && square < high) {
          count++;
          last = ray[k];
        }
      }
      if (count > bestCount) {
        bestCount = count;
        best = circle;
        if (count > enough * rays) return best;
      }
    }
  }
  return best;
}

/** About two fifths of a turn, and no part of one. */
function turns(rays: number): number {
  const partOf = (a: number, b: number): number => (b === 0 ? a : partOf(b, a % b));
  let by = Math.max(1, Math.round(0.38 * rays));
  while (partOf(rays, by) > 1) by++;
  return by;
}

interface OutlineWish {
  rays: number;
  leastShare: number;
  allow: number;
  bright: boolean;
  about?: { radiusPx: number; ovalPx: number; ovalAngle: number };
}

function fittedOutline(
  start: Point,
  edges: Edge[],
  { rays, leastShare, allow, bright, about }: OutlineWish
): Outline | null {
  const byRay: Edge[][] = Array.from({ length: rays }, () => []);
  for (const edge of edges) byRay[edge.i].push(edge);
  const needed = neededOf(rays, leastShare);
  if (byRay.filter((on) => on.length > 0).length < needed) return null;
  const circle = about ? { x: 0, y: 0, r: about.radiusPx } : circleThrough(byRay, allow, needed);
  if (!circle) return null;
  // Of each ray the edge that lies nearest; one much fainter than most is another thing's.
  const oval0 = about
    ? [about.ovalPx * Math.cos(2 * about.ovalAngle), about.ovalPx * Math.sin(2 * about.ovalAngle)]
    : [0, 0];
  const terms0 = [circle.r, ...oval0];
  const signed = offsFrom(circle, terms0);
  const off = (edge: Edge) => Math.abs(signed(edge));
  const nearest = byRay.flatMap((on) =>
    on.length > 0 ? [on.reduce((a, b) => (off(b) < off(a) ? b : a))] : []
  );
  const ordinary = medianOf(
    nearest.filter((edge) => off(edge) < allow * circle.r + 0.35).map(({ step }) => step)
  );
  const points = nearest.filter(({ step }) => step > 0.3 * ordinary);
  if (points.length < needed) return null;
  const turned = refined(points, circle, terms0, allow, rays);
  if (!turned || turned.kept.length < needed) return null;
  const { center, terms, kept } = turned;
  const offPx = new Float64Array(rays).fill(NaN);
  const settled = offsFrom(center, terms);
  for (const p of points) offPx[p.i] = settled(p);
  const residual = Math.sqrt(kept.reduce((sum, p) => sum + settled(p) ** 2, 0) / kept.length);
  // An oval no larger than the edges' own scatter makes is none.
  const oval = Math.sqrt(Math.max(0, terms[1] ** 2 + terms[2] ** 2 - (4 * residual ** 2) / kept.length));
  return {
    center: { x: start.x + center.x, y: start.y + center.y },
    radiusPx: terms[0],
    ovalPx: oval,
    ovalAngle: Math.atan2(terms[2], terms[1]) / 2,
    offPx,
    share: kept.length / rays,
    residualPx: residual,
    contrast: (bright ? 1 : -1) * medianOf(kept.map(({ step }) => step))
  };
}

/** Directions in which the edge lies on the outline: elsewhere something else hides it, and what is within. */
export function seenWays({ offPx, residualPx }: Outline): boolean[] {
  const room = Math.max(0.6, 3 * residualPx);
  return Array.from(offPx, (off) => Math.abs(off) < room);
}

/** How far from its centre an ellipse lies in a direction. */
export function ellipseRadius(radiusPx: number, ovalPx: number, ovalAngle: number, a: number): number {
  if (ovalPx === 0) return radiusPx;
  const [long, short] = [radiusPx + ovalPx, radiusPx - ovalPx];
  const by = a - ovalAngle;
  const [u, v] = [short * Math.cos(by), long * Math.sin(by)];
  return (long * short) / Math.sqrt(u * u + v * v);
}

/** How far off an outline points lie, outside positive. */
function offsFrom(center: Point, [r0, c2, s2]: readonly number[]): (p: Point) => number {
  const oval = Math.hypot(c2, s2);
  const angle = Math.atan2(s2, c2) / 2;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const [long, short] = [r0 + oval, r0 - oval];
  return (p) => {
    const dx = p.x - center.x;
    const dy = p.y - center.y;
    const far = Math.sqrt(dx * dx + dy * dy);
    if (oval === 0 || far === 0) return far - r0;
    const u = short * (dx * c + dy * s);
    const v = long * (dy * c - dx * s);
    return far - (long * short * far) / Math.sqrt(u * u + v * v);
  };
}

/** With less of it seen, whether the outline is oval can't be told from where its centre lies. */
export const ovalShare = 0.75;
/** An oval must hold so many more of the edges than a circle where the circle holds few. */
const ovalGain = 0.12;

interface Refined {
  center: Point;
  terms: number[];
  kept: Edge[];
}

/** Centre and oval; a circle where too little is seen, unless an oval explains much more of it. */
function refined(
  points: Edge[],
  start: Point,
  terms0: number[],
  allow: number,
  rays: number
): Refined | null {
  const oval = stepped(points, start, terms0, allow, true);
  if (oval && oval.kept.length >= ovalShare * rays) return oval;
  const round = stepped(points, start, [terms0[0], 0, 0], allow, false);
  if (!round) return null;
  return oval && oval.kept.length > round.kept.length + ovalGain * rays ? oval : round;
}

/** Steps that are smaller change nothing any more. */
const settledPx = 1e-5;

/** Repeated linear steps on the edges that lie near, ever nearer. */
function stepped(
  points: Edge[],
  start: Point,
  terms0: number[],
  allow: number,
  oval: boolean
): Refined | null {
  const center = { x: start.x, y: start.y };
  const terms = [...terms0];
  let kept = points;
  for (let round = 0; round < 8; round++) {
    const wide = allow * terms[0] + 0.35;
    const offs = points.map(offsFrom(center, terms));
    const near = offs.map(Math.abs).filter((off) => off < wide);
    if (near.length < 8) return null;
    const room = Math.min(wide, Math.max(0.4, 3 * 1.4826 * medianOf(near)));
    const isKept = (_: unknown, i: number) => Math.abs(offs[i]) < room;
    kept = points.filter(isKept);
    if (kept.length < 8) return null;
    const rows = kept.map((p) => {
      const [dx, dy] = [p.x - center.x, p.y - center.y];
      const far = Math.max(1e-9, Math.sqrt(dx * dx + dy * dy));
      const [c, s] = [dx / far, dy / far];
      return oval ? [c, s, 1, c * c - s * s, 2 * c * s] : [c, s, 1];
    });
    const fit = leastSquares(rows, offs.filter(isKept));
    if (!fit) return null;
    center.x += fit[0];
    center.y += fit[1];
    fit.slice(2).forEach((by, i) => (terms[i] += by));
    if (!(terms[0] > 1) || Math.hypot(terms[1], terms[2]) > 0.5 * terms[0]) return null;
    if (fit.every((by) => Math.abs(by) < settledPx)) break;
  }
  return { center, terms, kept };
}
