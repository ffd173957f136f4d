import { fittedCircle } from '../measurement/fit/circle';
import { medianOf } from '../measurement/fit/linear';
import { gaussian } from '../raster/filters/gaussian';
import { valueAt } from '../raster/geometry/sampling';
import type { Point } from '../raster/orientation';
import type { Patch } from '../raster/patch';

export interface Round {
  center: Point;
  radiusPx: number;
  /** Root mean square distance of the edge from the circle, and share of the directions in which it was seen. */
  residualPx: number;
  seen: number;
}

export interface EyeParts {
  limbus: Round | null;
  pupil: Round | null;
}

/** Landmarks of the guide for iris and pupil widths, for a person to accept or move; each edge at its circle's mid height. */
export function widthLandmarks({ limbus, pupil }: EyeParts): Record<string, Point> {
  const sides = (name: string, round: Round | null): [string, Point][] =>
    round === null
      ? []
      : [
          [`${name} left`, { x: round.center.x - round.radiusPx, y: round.center.y }],
          [`${name} right`, { x: round.center.x + round.radiusPx, y: round.center.y }]
        ];
  return Object.fromEntries([...sides('limbus', limbus), ...sides('pupil', pupil)]);
}

const rays = 120;

/**
 * Limbus and pupil of an eye's picture, with or without rings in it: along rays from a point in the pupil, the limbus is
 * where means over a stretch further out become brighter most, looked for to the sides, where no lid hides it; the
 * pupil is where the darkest greys of a stretch end. Rings are narrower than the stretch. For an eye that looks at the
 * camera: aside, rings lie over its limbus, and nothing is said.
 * @param near a point inside the pupil: the rings' centre, or where somebody pointed
 * @param expected radius of the limbus in pixels, half to one and a half times of which is searched
 */
export function eyeParts(patch: Patch, near: Point, expected: number): EyeParts {
  if (!(expected > 20))
    throw new RangeError(`the iris must be wider than 40 pixels, got a radius of ${expected}`);
  const pupil = pupilOf(patch, near, expected);
  const limbus = limbusOf(gaussian(patch, Math.max(1, expected / 160)), pupil?.center ?? near, expected);
  return { limbus, pupil };
}

function plainProfile(patch: Patch, center: Point, angle: number, reach: number): Float64Array {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return Float64Array.from({ length: Math.ceil(reach) }, (_, r) =>
    valueAt(patch, center.x + (r + 0.5) * c, center.y + (r + 0.5) * s)
  );
}

/** The darkest tenth of short stretches: what lies between rings. */
function darkProfile(
  patch: Patch,
  center: Point,
  angle: number,
  reach: number,
  stretch: number
): Float64Array {
  const line = plainProfile(patch, center, angle, reach);
  const half = Math.round(stretch / 2);
  return line.map((_, r) => {
    const part = line.subarray(Math.max(0, r - half), Math.min(line.length, r + half + 1));
    return [...part].sort((a, b) => a - b)[Math.floor(part.length * 0.1)];
  });
}

function limbusOf(patch: Patch, near: Point, expected: number): Round | null {
  const reach = expected * 1.5;
  const span = Math.max(4, Math.round(expected * 0.07));
  const points: Point[] = [];
  let tried = 0;
  for (let i = 0; i < rays; i++) {
    const a = (2 * Math.PI * i) / rays;
    // Lids cover the limbus above and below.
    if (Math.abs(Math.sin(a)) > 0.55) continue;
    tried++;
    const line = plainProfile(patch, near, a, reach);
    let best = 0;
    let at = -1;
    for (let r = Math.ceil(expected * 0.74); r < line.length - span; r++) {
      const step = mean(line, r, r + span) - mean(line, r - span, r);
      if (step > best) {
        best = step;
        at = r;
      }
    }
    if (at > 0 && best > 15) points.push({ x: near.x + at * Math.cos(a), y: near.y + at * Math.sin(a) });
  }
  return roundOf(points, tried, expected * 0.03);
}

function pupilOf(patch: Patch, near: Point, expected: number): Round | null {
  const span = Math.max(4, Math.round(expected * 0.05));
  const points: Point[] = [];
  for (let i = 0; i < rays; i++) {
    const a = (2 * Math.PI * i) / rays;
    const line = darkProfile(patch, near, a, expected * 0.8, span);
    let best = 0;
    let at = -1;
    for (let r = Math.ceil(expected * 0.12); r < line.length - span; r++) {
      const step = mean(line, r, r + span) - mean(line, r - span, r);
      if (step > best) {
        best = step;
        // The darkest tenth reaches half a stretch, less a tenth of it, beyond the edge.
        at = r - 0.4 * span;
      }
    }
    if (at > 0 && best > 8) points.push({ x: near.x + at * Math.cos(a), y: near.y + at * Math.sin(a) });
  }
  return roundOf(points, rays, expected * 0.03);
}

function mean(line: Float64Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += line[i];
  return sum / (to - from);
}

/** A circle through most of the points: those that lie far off the first are left out of the second. */
function roundOf(points: Point[], tried: number, room: number): Round | null {
  if (points.length < tried * 0.4 || points.length < 8) return null;
  let kept = points;
  for (let round = 0; round < 6; round++) {
    const circle = fittedCircle(kept);
    if (!circle) return null;
    const offs = points.map((p) =>
      Math.abs(Math.hypot(p.x - circle.center.x, p.y - circle.center.y) - circle.radius)
    );
    const within = Math.max(room, 2 * medianOf(offs));
    kept = points.filter((_, i) => offs[i] < within);
    if (kept.length < 8) return null;
    const seen = kept.length / tried;
    if (round === 5)
      return seen > 0.6 && circle.fit.rms < room
        ? { center: circle.center, radiusPx: circle.radius, residualPx: circle.fit.rms, seen }
        : null;
  }
  return null;
}
