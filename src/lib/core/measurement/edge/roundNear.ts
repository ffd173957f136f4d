import { gaussian } from '../../raster/filters/gaussian';
import { valueAt } from '../../raster/geometry/sampling';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { fittedCircle } from '../fit/circle';
import { medianOf } from '../fit/linear';
import { topBetween } from '../fit/top';
import { nearby } from './nearby';
import { steepness } from './steepness';

/** A round outline that was found about a press. */
export interface RoundFound {
  center: Point;
  radiusPx: number;
  /** Share of the directions in which the outline was seen, and root mean square distance of those from the circle. */
  seen: number;
  residualPx: number;
  /** How much better it is seen than the next outline that has another middle: 0 not at all. */
  ahead: number;
}

/** Whether it is brighter inside, or darker. */
type Sign = 1 | -1;
interface Circle {
  center: Point;
  radius: number;
  sign: Sign;
}

/** A press lies this near the middle, as a share of the radius. */
const mostOff = 0.6;
const workPx = 110;
const radiusStep = 1.07;
const tried = 14;
const rays = 72;
/** A middle that is further than this share of the radius from another is another one. */
const sameMiddle = 0.12;

/**
 * The round outline whose middle lies near a press: the head of a bone, say, of which a half or more is seen. Every slope
 * of the picture votes for the middles that it may belong to (Hough's transform for circles with the slope's direction:
 * Duda and Hart, 1972; Kimme, Ballard and Sklansky, 1975); the best are fitted to the outline along rays.
 *
 * @param radii least and most, in pixels of the patch
 * @returns null where no outline is seen over two fifths of its directions
 */
export function roundNear(
  patch: Patch,
  press: Point,
  radii: { least: number; most: number }
): RoundFound | null {
  if (!(radii.least >= 3 && radii.most > radii.least))
    throw new RangeError(`radii of 3 pixels and more are looked for, got ${radii.least} to ${radii.most}`);
  const around = nearby(patch, press, (1 + mostOff + 0.25) * radii.most, workPx);
  if (!around) return null;
  const at = around.within(press);
  const smooth = gaussian(around.patch, 1.2);
  const range = { least: radii.least / around.factor, most: radii.most / around.factor };
  const candidates = voted(smooth, at, range);
  const seen = candidates.flatMap((circle) => {
    const found = fittedAlongRays(smooth, circle);
    if (!found || Math.hypot(found.center.x - at.x, found.center.y - at.y) > mostOff * found.radius)
      return [];
    return [{ ...found, score: found.seen - 3 * (found.residual / found.radius) }];
  });
  const [best, ...others] = seen.toSorted((a, b) => b.score - a.score);
  if (!best || best.seen < leastSeen) return null;
  const other = others.find(
    ({ center }) => Math.hypot(center.x - best.center.x, center.y - best.center.y) > sameMiddle * best.radius
  );
  return {
    center: around.back(best.center),
    radiusPx: best.radius * around.factor,
    seen: best.seen,
    residualPx: best.residual * around.factor,
    ahead: best.score - (other?.score ?? 0)
  };
}
const leastSeen = 0.4;

function voted(smooth: Patch, at: Point, { least, most }: { least: number; most: number }): Circle[] {
  const { width, height } = smooth;
  const { dx, dy, slope } = steepness(smooth);
  const sorted = Float32Array.from(slope).sort();
  const usual = sorted[Math.floor(0.8 * sorted.length)] || 1;
  const faint = sorted[Math.floor(0.55 * sorted.length)];
  const reach = Math.ceil(mostOff * most);
  const side = 2 * reach + 1;
  const candidates: (Circle & { votes: number })[] = [];
  for (let radius = least; radius <= most; radius *= radiusStep) {
    const off = mostOff * radius;
    for (const sign of [1, -1] as const) {
      const votes = new Float32Array(side * side);
      for (let y = 1; y < height - 1; y++)
        for (let x = 1; x < width - 1; x++) {
          const i = y * width + x;
          if (slope[i] <= faint) continue;
          const along = (sign * radius) / slope[i];
          const u = x + 0.5 + dx[i] * along - at.x;
          const v = y + 0.5 + dy[i] * along - at.y;
          if (u * u + v * v > off * off) continue;
          votes[(Math.round(v) + reach) * side + Math.round(u) + reach] += slope[i] / (slope[i] + usual);
        }
      for (const peak of peaksOf(votes, side, reach))
        candidates.push({
          center: { x: at.x + peak.x, y: at.y + peak.y },
          radius,
          sign,
          votes: peak.votes / (2 * Math.PI * radius)
        });
    }
  }
  return candidates.sort((a, b) => b.votes - a.votes).slice(0, tried);
}

/** The two highest places of the votes, smoothed over five by five. */
function peaksOf(
  votes: Float32Array,
  side: number,
  reach: number
): { x: number; y: number; votes: number }[] {
  const sums = new Float32Array(side * side);
  for (let y = 2; y < side - 2; y++)
    for (let x = 2; x < side - 2; x++) {
      let sum = 0;
      for (let v = -2; v <= 2; v++) for (let u = -2; u <= 2; u++) sum += votes[(y + v) * side + x + u];
      sums[y * side + x] = sum;
    }
  const highest = (away: (x: number, y: number) => boolean) => {
    let best = { x: 0, y: 0, votes: 0 };
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++)
        if (sums[y * side + x] > best.votes && away(x - reach, y - reach))
          best = { x: x - reach, y: y - reach, votes: sums[y * side + x] };
    return best;
  };
  const first = highest(() => true);
  const second = highest((x, y) => Math.hypot(x - first.x, y - first.y) > 0.3 * reach);
  return [first, second].filter((each) => each.votes > 0);
}

/** A circle fitted to where its outline is steepest along rays; what does not lie on it is dropped twice. */
function fittedAlongRays(
  smooth: Patch,
  { center, radius, sign }: Circle
): { center: Point; radius: number; seen: number; residual: number } | null {
  let at = { center, radius };
  let seen = 0;
  let residual = Infinity;
  for (const share of [0.14, 0.09, 0.07]) {
    const half = Math.max(2, share * at.radius);
    const steepest = Array.from({ length: rays }, (_, i) =>
      alongRay(smooth, at, (2 * Math.PI * i) / rays, half, sign)
    );
    const slopes = steepest.map(({ slope }) => slope).sort((a, b) => a - b);
    const strong = slopes[Math.floor(0.7 * rays)];
    if (!(strong > 0)) return null;
    const lying = steepest.filter(({ slope, atEnd }) => slope > 0.3 * strong && !atEnd);
    if (lying.length < 8) return null;
    let used = lying.map(({ point }) => point);
    let fit = fittedCircle(used);
    for (let again = 0; again < 2 && fit; again++) {
      const { center: c, radius: r } = fit;
      const off = used.map(({ x, y }) => Math.abs(Math.hypot(x - c.x, y - c.y) - r));
      const limit = Math.max(0.6, 2.5 * medianOf(off));
      used = used.filter((_, i) => off[i] <= limit);
      fit = used.length >= 8 ? fittedCircle(used) : null;
    }
    if (!fit || fit.radius < 0.6 * radius || fit.radius > 1.6 * radius) return null;
    at = { center: fit.center, radius: fit.radius };
    seen = used.length / rays;
    residual = fit.fit.rms;
  }
  return { ...at, seen, residual };
}

function alongRay(
  smooth: Patch,
  { center, radius }: { center: Point; radius: number },
  angle: number,
  half: number,
  sign: Sign
): { point: Point; slope: number; atEnd: boolean } {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const steps = Math.max(3, Math.ceil(half / 0.5));
  const step = half / steps;
  const value = (k: number) => {
    const r = radius + k * step;
    return valueAt(smooth, center.x + r * c, center.y + r * s);
  };
  const values = Array.from({ length: 2 * steps + 3 }, (_, k) => value(k - steps - 1));
  const slopes = values.slice(2).map((outer, k) => (sign * (values[k] - outer)) / (2 * step));
  const i = slopes.reduce((best, slope, k) => (slope > slopes[best] ? k : best), 0);
  const atEnd = i === 0 || i === slopes.length - 1;
  const shift = atEnd ? 0 : topBetween(slopes[i - 1], slopes[i], slopes[i + 1]);
  const r = radius + (i - steps + shift) * step;
  const point = { x: center.x + r * c, y: center.y + r * s };
  const inside = point.x > 1 && point.y > 1 && point.x < smooth.width - 1 && point.y < smooth.height - 1;
  return { point, slope: inside ? Math.max(0, slopes[i]) : 0, atEnd };
}
