import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { valueAt } from '../../raster/geometry/sampling';
import { throughThree } from '../../measurement/fit/circle';
import { leastSquares, medianOf } from '../../measurement/fit/linear';

/** A nearly round outline about a centre: its radius in a direction is r0 + c2 cos 2a + s2 sin 2a. */
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

const stepsAPixel = 2;

/** Sample of a direction a (radians, x right, y down) at a distance from a centre. */
const at = (patch: Patch, center: Point, cos: number, sin: number, r: number) =>
  valueAt(patch, center.x + r * cos, center.y + r * sin);

/**
 * Follows the strongest edge of the wanted sign along rays from a centre, and fits a circle, then an oval, to those
 * that agree. Starts from all circles through three edges a third apart, and keeps the one most edges lie on.
 * @param bright whether the marker is brighter than what is around it
 * @returns null when fewer than half of the directions agree on anything
 */
export function outlineAt(
  patch: Patch,
  start: Point,
  radiusPx: number,
  bright: boolean,
  options: { rays: number; from: number; to: number; allow: number }
): Outline | null {
  const { rays } = options;
  const radii = new Float64Array(rays).fill(NaN);
  const steps = new Float64Array(rays);
  const low = Math.max(1, options.from * radiusPx);
  const high = options.to * radiusPx + 2;
  const reach = Math.max(1, Math.min(3, radiusPx * 0.25));
  const count = Math.max(6, Math.ceil((high - low) * stepsAPixel));
  const stride = (high - low) / (count - 1);
  const around = Math.max(1, Math.round(reach / stride));
  const line = new Float64Array(count + 2 * around);
  for (let i = 0; i < rays; i++) {
    const cos = Math.cos((2 * Math.PI * i) / rays);
    const sin = Math.sin((2 * Math.PI * i) / rays);
    for (let k = 0; k < line.length; k++)
      line[k] = at(patch, start, cos, sin, Math.max(0, low + (k - around) * stride));
    let best = 0;
    let bestAt = -1;
    const slopes = slopesOf(line, count, around, bright);
    for (let k = 1; k < count - 1; k++) {
      if (slopes[k] > best && slopes[k] >= slopes[k - 1] && slopes[k] >= slopes[k + 1]) {
        best = slopes[k];
        bestAt = k;
      }
    }
    if (bestAt < 0) continue;
    const [a, b, c] = [slopes[bestAt - 1], slopes[bestAt], slopes[bestAt + 1]];
    const bend = a - 2 * b + c;
    const shift = bend < 0 ? (0.5 * (a - c)) / bend : 0;
    radii[i] = low + (bestAt + shift) * stride;
    steps[i] = best;
  }
  // An edge much fainter than most is another thing's.
  const ordinary = medianOf([...steps].filter((value) => value > 0));
  for (let i = 0; i < rays; i++) if (!(steps[i] > 0.3 * ordinary)) radii[i] = NaN;
  return fittedOutline(start, radii, steps, options.allow, bright);
}

/** Means of some samples further in minus as many further out: what a step across gives, noise averaged. */
function slopesOf(line: Float64Array, count: number, around: number, bright: boolean): Float64Array {
  const sums = new Float64Array(line.length + 1);
  for (let i = 0; i < line.length; i++) sums[i + 1] = sums[i] + line[i];
  const out = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const i = k + around;
    const inner = sums[i] - sums[i - around];
    const outer = sums[i + around + 1 > line.length ? line.length : i + around + 1] - sums[i + 1];
    out[k] = ((bright ? 1 : -1) * (inner - outer)) / around;
  }
  return out;
}

function fittedOutline(
  start: Point,
  radii: Float64Array,
  steps: Float64Array,
  allow: number,
  bright: boolean
): Outline | null {
  const rays = radii.length;
  const points: { x: number; y: number; i: number }[] = [];
  for (let i = 0; i < rays; i++) {
    const a = (2 * Math.PI * i) / rays;
    if (!Number.isNaN(radii[i])) points.push({ x: radii[i] * Math.cos(a), y: radii[i] * Math.sin(a), i });
  }
  if (points.length < rays * 0.5) return null;
  let best: { x: number; y: number; r: number } | null = null;
  let bestCount = 0;
  for (const apart of [Math.floor(points.length / 3), Math.floor(points.length / 5)]) {
    for (let i = 0; i < points.length; i++) {
      const circle = throughThree(
        points[i],
        points[(i + apart) % points.length],
        points[(i + 2 * apart) % points.length]
      );
      if (!circle) continue;
      const room = allow * circle.r + 0.35;
      let count = 0;
      for (const p of points)
        if (Math.abs(Math.hypot(p.x - circle.x, p.y - circle.y) - circle.r) < room) count++;
      if (count > bestCount) {
        bestCount = count;
        best = circle;
      }
    }
  }
  if (!best || bestCount < rays * 0.5) return null;
  const turned = refined(points, best, allow);
  if (!turned) return null;
  const { center, terms, kept } = turned;
  const offPx = new Float64Array(rays).fill(NaN);
  for (const p of points) offPx[p.i] = offOf(p, center, terms);
  const contrasts = kept.map(({ i }) => steps[i]);
  const residual = Math.sqrt(kept.reduce((sum, p) => sum + offOf(p, center, terms) ** 2, 0) / kept.length);
  return {
    center: { x: start.x + center.x, y: start.y + center.y },
    radiusPx: terms[0],
    ovalPx: Math.hypot(terms[1], terms[2]),
    ovalAngle: Math.atan2(terms[2], terms[1]) / 2,
    offPx,
    share: kept.length / rays,
    residualPx: residual,
    contrast: (bright ? 1 : -1) * medianOf(contrasts)
  };
}

const offOf = (p: Point, center: Point, [r0, c2, s2]: number[]): number => {
  const a = Math.atan2(p.y - center.y, p.x - center.x);
  return Math.hypot(p.x - center.x, p.y - center.y) - r0 - c2 * Math.cos(2 * a) - s2 * Math.sin(2 * a);
};

/** Centre and oval by repeated linear steps on the edges that lie near, ever nearer. */
function refined(
  points: { x: number; y: number; i: number }[],
  start: { x: number; y: number; r: number },
  allow: number
) {
  const center = { x: start.x, y: start.y };
  let terms = [start.r, 0, 0];
  let kept = points;
  for (let round = 0; round < 8; round++) {
    const offs = points.map((p) => offOf(p, center, terms));
    const near = offs.map(Math.abs).filter((off) => off < allow * terms[0] + 0.35);
    const room = Math.min(allow * terms[0] + 0.35, Math.max(0.4, 3 * 1.4826 * medianOf(near)));
    kept = points.filter((_, i) => Math.abs(offs[i]) < room);
    if (kept.length < 8) return null;
    const rows = kept.map((p) => {
      const a = Math.atan2(p.y - center.y, p.x - center.x);
      return [Math.cos(a), Math.sin(a), 1, Math.cos(2 * a), Math.sin(2 * a)];
    });
    const right = kept.map((p) => Math.hypot(p.x - center.x, p.y - center.y));
    const fit = leastSquares(rows, right);
    if (!fit) return null;
    center.x += fit[0];
    center.y += fit[1];
    terms = fit.slice(2);
  }
  return { center, terms, kept };
}
