import { throughThree } from '../../measurement/fit/circle';
import { areaOf } from '../../measurement/geometry';
import type { Point } from '../orientation';
import type { Patch } from '../patch';
import { type MaskRegion, regionsOf } from '../regions';

export interface CutOff {
  /** Where no beam fell, in image points. */
  polygon: Point[];
  /** Share of the picture. */
  share: number;
  edge: 'straight' | 'round';
  confidence: number;
}

const leastShare = 0.02;
/** The edge is at least this share of the picture's longer side long. */
const leastEdge = 0.22;
/** Edge points may lie this share of the longer side off the line or circle. */
const offShare = 0.008;

/**
 * The part of a take that the beam missed: a region at the rim as bright as the picture gets, with nothing in it, whose
 * inner edge is a straight line or an arc. Metal is as bright, but has corners.
 * @param patch of a reduced picture: some 300 pixels a side are enough
 * @param factor pixels of the full picture on a side of one of the patch's
 */
export function cutOffOf(patch: Patch, factor: number): CutOff | null {
  const { width, height, data } = patch;
  const sorted = data.slice().sort();
  const low = sorted[Math.floor(sorted.length * 0.02)];
  const high = sorted[Math.floor(sorted.length * 0.98)];
  let best: CutOff | null = null;
  // Scattered rays reach where the beam does not: how far below the lightest that is, differs from maker to maker.
  for (const below of belowLightest) {
    const bright = high - below * (high - low);
    const masked = (at: number) => data[at] >= bright;
    for (const region of regionsOf(masked, width, height)) {
      const share = region.pixels / (width * height);
      if (share < leastShare || share > mostShare || !atRim(region, width, height)) continue;
      if (!isBare(patch, masked, region, high - low)) continue;
      const found = judged(patch, masked, region, share, factor);
      if (found && found.confidence > (best?.confidence ?? 0)) best = found;
    }
    if (best && best.confidence > sureEnough) return best;
  }
  return best;
}

const belowLightest = [0.04, 0.1, 0.18, 0.28];
const mostShare = 0.7;
const sureEnough = 0.9;
/** Neighbouring cells of a part without a beam differ by no more than this share of the range. */
const bareShare = 0.02;
/** Noise alone may make them differ by more; then the greater steps are no more than this times the usual one. */
const noisyShare = 0.07;
const noiseSpread = 2.4;
const cellPx = 6;

/** Whether a region has nothing in it: cells of it are all alike their neighbours. */
function isBare(
  { width, data }: Patch,
  masked: (at: number) => boolean,
  { left, top, right, bottom }: MaskRegion,
  range: number
): boolean {
  const steps: number[] = [];
  const meanAt = (x: number, y: number): number => {
    let sum = 0;
    for (let v = 0; v < cellPx; v++)
      for (let u = 0; u < cellPx; u++) {
        const at = (y + v) * width + x + u;
        if (!masked(at)) return NaN;
        sum += data[at];
      }
    return sum / (cellPx * cellPx);
  };
  for (let y = top; y + cellPx <= bottom; y += cellPx) {
    let before = NaN;
    for (let x = left; x + cellPx <= right; x += cellPx) {
      const here = meanAt(x, y);
      if (!Number.isNaN(here) && !Number.isNaN(before)) steps.push(Math.abs(here - before));
      before = here;
    }
  }
  if (steps.length < 6) return false;
  steps.sort((a, b) => a - b);
  const [usual, most] = [steps[steps.length >> 1], steps[Math.floor(steps.length * 0.85)]];
  return most < bareShare * range || (most < noisyShare * range && most < noiseSpread * usual);
}

const atRim = ({ left, top, right, bottom }: MaskRegion, width: number, height: number) =>
  left <= 1 || top <= 1 || right >= width - 2 || bottom >= height - 2;

function judged(
  { width, height }: Patch,
  masked: (at: number) => boolean,
  region: MaskRegion,
  share: number,
  factor: number
): CutOff | null {
  const outline = traced(masked, region, width, height);
  const inner = outline.filter(({ x, y }) => x > 2 && y > 2 && x < width - 2 && y < height - 2);
  const longest = Math.max(width, height);
  if (inner.length < 0.2 * longest) return null;
  const room = Math.max(1.2, offShare * longest);
  const straight = bestShare(inner, room, 2, ([p, q]) => lineThrough(p, q));
  const round = bestShare(inner, room, 3, ([p, q, r]) => circleThrough(p, q, r, 0.25 * longest));
  const roundFits = round > straight + 0.04;
  const fits = roundFits ? round : straight;
  if (fits * inner.length < leastEdge * longest) return null;
  const confidence = Math.min(1, Math.max(0, (fits - 0.4) / 0.25));
  if (confidence <= 0) return null;
  const polygon = thinned(outline, 1.2).map(({ x, y }) => ({ x: x * factor, y: y * factor }));
  if (polygon.length < 3 || areaOf(polygon) === 0) return null;
  return { polygon, share, edge: roundFits ? 'round' : 'straight', confidence };
}

type Off = (point: Point) => number;

/** The greatest share of points near one curve through a few of them, of many such curves spread over the outline. */
function bestShare(
  points: readonly Point[],
  room: number,
  of: number,
  through: (chosen: Point[]) => Off | null
): number {
  let best = 0;
  const n = points.length;
  const step = Math.max(1, Math.floor(n / 60));
  for (const apart of [0.12, 0.2, 0.3])
    for (let i = 0; i < n; i += step) {
      const chosen = Array.from({ length: of }, (_, k) => points[(i + Math.floor(k * apart * n)) % n]);
      const off = through(chosen);
      if (!off) continue;
      let near = 0;
      for (const point of points) if (Math.abs(off(point)) < room) near++;
      best = Math.max(best, near / n);
    }
  return best;
}

function lineThrough(p: Point, q: Point): Off | null {
  const length = Math.hypot(q.x - p.x, q.y - p.y);
  if (length < 8) return null;
  return ({ x, y }) => ((q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x)) / length;
}

function circleThrough(p: Point, q: Point, r: Point, leastRadius: number): Off | null {
  const circle = throughThree(p, q, r);
  if (!circle || circle.r < leastRadius || circle.r > 12 * leastRadius) return null;
  return ({ x, y }) => Math.hypot(x - circle.x, y - circle.y) - circle.r;
}

const around: readonly [number, number][] = [
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
  [-1, -1],
  [0, -1],
  [1, -1]
];

/** The outline of a region by walking along its rim (Moore's neighbourhood), in corners of its pixels' middles. */
function traced(masked: (at: number) => boolean, region: MaskRegion, width: number, height: number): Point[] {
  const has = (x: number, y: number) => x >= 0 && y >= 0 && x < width && y < height && masked(y * width + x);
  const start = cornerOf(region, has);
  let { x, y } = start;
  const out: Point[] = [];
  let came = 4;
  const most = 4 * (region.right - region.left + region.bottom - region.top + 4) * 4;
  for (let step = 0; step < most; step++) {
    out.push({ x: x + 0.5, y: y + 0.5 });
    let moved = false;
    for (let k = 1; k <= 8; k++) {
      const way = (came + k) % 8;
      const [dx, dy] = around[way];
      if (!has(x + dx, y + dy)) continue;
      x += dx;
      y += dy;
      came = (way + 4) % 8;
      moved = true;
      break;
    }
    if (!moved || (x === start.x && y === start.y && step > 2)) break;
  }
  return out;
}

/** The first pixel of a region that is not a lone spur: its right and lower neighbours belong to it as well. */
function cornerOf({ left, top, right, bottom }: MaskRegion, has: (x: number, y: number) => boolean): Point {
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) if (has(x, y) && has(x + 1, y) && has(x, y + 1)) return { x, y };
  return { x: left, y: top };
}

/** Points left out where the outline stays within a distance of the straight line (Ramer, 1972; Douglas and Peucker, 1973). */
function thinned(points: Point[], within: number): Point[] {
  if (points.length < 3) return points;
  const keep = new Uint8Array(points.length);
  keep[0] = keep[points.length - 1] = 1;
  const stack: [number, number][] = [[0, points.length - 1]];
  while (stack.length > 0) {
    const [a, b] = stack.pop()!;
    const [p, q] = [points[a], points[b]];
    const length = Math.hypot(q.x - p.x, q.y - p.y);
    let worst = within;
    let at = -1;
    for (let i = a + 1; i < b; i++) {
      const off =
        length > 0
          ? Math.abs((q.x - p.x) * (points[i].y - p.y) - (q.y - p.y) * (points[i].x - p.x)) / length
          : Math.hypot(points[i].x - p.x, points[i].y - p.y);
      if (off > worst) {
        worst = off;
        at = i;
      }
    }
    if (at < 0) continue;
    keep[at] = 1;
    stack.push([a, at], [at, b]);
  }
  return points.filter((_, i) => keep[i] === 1);
}
