import { topBetween } from '../measurement/fit/top';
import type { Point, Size } from '../raster/orientation';
import type { Patch } from '../raster/patch';
import { reducedTo } from '../raster/reduced';

export interface Round {
  center: Point;
  radiusPx: number;
  /** How far the edge lies beside the circle, root mean square over the directions it is looked at in. */
  residualPx: number;
  /** Share of those directions in which the edge lies at the circle. */
  seen: number;
}

export interface EyeParts {
  limbus: Round;
  pupil: Round;
}

/** Landmarks of the guide for iris and pupil widths, for a person to accept or move; each edge at its circle's mid height. */
export function widthLandmarks({ limbus, pupil }: EyeParts): Record<string, Point> {
  const sides = (name: string, { center, radiusPx }: Round): [string, Point][] => [
    [`${name} left`, { x: center.x - radiusPx, y: center.y }],
    [`${name} right`, { x: center.x + radiusPx, y: center.y }]
  ];
  return Object.fromEntries([...sides('limbus', limbus), ...sides('pupil', pupil)]);
}

/** Pictures are searched at this size, where a ring of light is a few pixels wide and an iris a hundred. */
const workingPx = 320;
/** How large an iris may be: its radius in shares of the picture's shorter side. */
const irisShares = { least: 0.1, most: 0.56 };
/** A pupil is so wide against its iris, and so far beside its middle. */
const pupilShares = { least: 0.12, most: 0.75, beside: 0.15 };
/** How far the iris may lie beside the picture's middle, in shares of the shorter side. */
const besideMiddle = 0.2;
/** An edge is worth telling from this share of the picture's range of greys on. */
const leastStep = { limbus: 0.1, pupil: 0.06 };
/** In so many of the directions the edge has to lie at the circle. */
const leastSeen = 0.7;
/** Another circle that does nearly as well makes both doubtful. */
const clearlyAhead = 1.15;

/** Lids cover the limbus above and below; each side is looked at by itself. */
const limbusFans = [0, Math.PI].map((middle) => fan(middle, 0.5, 13));
const pupilFans = [0, 1, 2, 3].map((quarter) => fan((quarter * Math.PI) / 2, 0.7, 11));

function fan(middle: number, half: number, rays: number): Point[] {
  return Array.from({ length: rays }, (_, i) => {
    const angle = middle + half * ((2 * i) / (rays - 1) - 1);
    return { x: Math.cos(angle), y: Math.sin(angle) };
  });
}

/**
 * Limbus and pupil of an eye that looks at the camera, with or without bright rings mirrored in it: the two circles,
 * one in the other, across which the picture becomes brighter most on every side that no lid hides. What is narrow and
 * bright (rings, lamps, veins) is taken away first. A method of the field: the circle along which the mean changes most.
 * @returns nothing where an edge is faint, seen in too few directions, or where another circle does nearly as well
 */
export function eyeParts(full: Patch): EyeParts | null {
  if (Math.min(full.width, full.height) < 64) return null;
  const { small, factor } = reducedTo(full, workingPx);
  const patch = withoutBright(small, Math.max(2, Math.round(Math.min(small.width, small.height) / 75)));
  const range = rangeOf(patch);
  if (!(range > 0)) return null;
  const shorter = Math.min(patch.width, patch.height);
  const circles = candidates(patch, shorter)
    .filter(({ step }) => step > leastStep.limbus * range)
    .flatMap((limbus) => {
      const pupil = within(patch, limbus);
      return pupil && concentric(limbus, pupil) && pupil.step > leastStep.pupil * range
        ? [{ limbus, pupil, worth: limbus.step + pupil.step }]
        : [];
    })
    .sort((a, b) => b.worth - a.worth);
  const [best] = circles;
  if (!best) return null;
  const rival = circles.find(
    ({ limbus, pupil }) =>
      Math.abs(limbus.radius / best.limbus.radius - 1) > 0.08 ||
      Math.abs(pupil.radius / best.pupil.radius - 1) > 0.2
  );
  if (rival && rival.worth * clearlyAhead > best.worth) return null;
  const limbus = toldOf(patch, best.limbus, limbusFans, factor, full);
  const pupil = toldOf(patch, best.pupil, pupilFans, factor, full);
  return limbus.seen >= leastSeen && pupil.seen >= leastSeen ? { limbus, pupil } : null;
}

interface Circle {
  center: Point;
  radius: number;
  /** By how many greys it becomes brighter across the circle, on the side where it does least. */
  step: number;
}

/** The best circle of each size about each place, largest steps first; neighbours of a better one are left out. */
function candidates(patch: Patch, shorter: number): Circle[] {
  const middle = { x: patch.width / 2, y: patch.height / 2 };
  const reach = besideMiddle * shorter;
  const [least, most] = [irisShares.least * shorter, irisShares.most * shorter];
  const found: Circle[] = [];
  for (let dy = -reach; dy <= reach; dy += 4)
    for (let dx = -reach; dx <= reach; dx += 4)
      found.push(...peaks(patch, { x: middle.x + dx, y: middle.y + dy }, limbusFans, least, most));
  found.sort((a, b) => b.step - a.step);
  const kept: Circle[] = [];
  for (const circle of found) {
    if (kept.length === 6) break;
    if (kept.every(({ radius }) => Math.abs(radius / circle.radius - 1) > 0.06))
      kept.push(refined(patch, circle, limbusFans));
  }
  return kept;
}

/** What lies further beside the iris's middle is some other edge. */
const concentric = (limbus: Circle, pupil: Circle): boolean =>
  Math.hypot(pupil.center.x - limbus.center.x, 0.5 * (pupil.center.y - limbus.center.y)) <
  pupilShares.beside * limbus.radius;

function within(patch: Patch, { center, radius }: Circle): Circle | null {
  const reach = pupilShares.beside * radius;
  let best: Circle | null = null;
  for (let dy = -reach; dy <= reach; dy += 2)
    for (let dx = -reach; dx <= reach; dx += 2) {
      const at = { x: center.x + dx, y: center.y + dy };
      for (const peak of peaks(patch, at, pupilFans, pupilShares.least * radius, pupilShares.most * radius))
        if (!best || peak.step > best.step) best = peak;
    }
  return best && refined(patch, best, pupilFans);
}

/** Circles about a point across which it becomes brighter more than across those a little smaller and larger. */
function peaks(patch: Patch, center: Point, fans: Point[][], least: number, most: number): Circle[] {
  const means = fans.map((rays) => meansOf(patch, center, rays, most));
  const found: Circle[] = [];
  const from = Math.max(3, Math.ceil(least));
  let [before, here] = [stepAt(means, from - 1), stepAt(means, from)];
  for (let radius = from; radius < most; radius++) {
    const after = stepAt(means, radius + 1);
    if (here > 0 && here >= before && here > after)
      found.push({ center, radius: radius + topBetween(before, here, after), step: here });
    [before, here] = [here, after];
  }
  return found;
}

/** Means along arcs about a point, summed up from the middle: by radius in steps of one pixel. */
function meansOf(patch: Patch, center: Point, rays: Point[], most: number): Float64Array {
  const sums = new Float64Array(Math.ceil(most * 1.15) + 6);
  for (let r = 1; r < sums.length; r++) {
    let sum = 0;
    for (const { x, y } of rays) sum += nearest(patch, center.x + (r - 0.5) * x, center.y + (r - 0.5) * y);
    sums[r] = sums[r - 1] + sum / rays.length;
  }
  return sums;
}

const spanAt = (radius: number) => Math.max(2, Math.round(0.08 * radius));

function stepAt(means: Float64Array[], radius: number): number {
  const span = Math.min(spanAt(radius), radius);
  let least = Infinity;
  for (const sums of means) {
    const outer = sums[Math.min(sums.length - 1, radius + span)] - sums[radius];
    const inner = sums[radius] - sums[radius - span];
    least = Math.min(least, (outer - inner) / span);
  }
  return least;
}

/** The circle with its middle told by half pixels: what was looked at coarsely is looked at about the best again. */
function refined(patch: Patch, circle: Circle, fans: Point[][]): Circle {
  let best = circle;
  for (const stride of [2, 1, 0.5])
    for (let going = true; going;) {
      going = false;
      const { center, radius } = best;
      for (const [dx, dy] of [
        [stride, 0],
        [-stride, 0],
        [0, stride],
        [0, -stride]
      ]) {
        const at = { x: center.x + dx, y: center.y + dy };
        const [near] = peaks(patch, at, fans, radius * 0.93, radius * 1.07).sort((a, b) => b.step - a.step);
        if (near && near.step > best.step + 1e-9) {
          best = near;
          going = true;
        }
      }
    }
  return best;
}

/** The circle in the picture's pixels, and how its edge lies beside it ray by ray. */
function toldOf(
  patch: Patch,
  { center, radius }: Circle,
  fans: Point[][],
  factor: number,
  { left, top }: Patch
): Round {
  const room = Math.max(2, 0.06 * radius);
  const rays = fans.flat();
  const offs = rays.flatMap((ray) => {
    const means = [meansOf(patch, center, [ray], radius + 2 * room)];
    const reach = Math.ceil(2 * room);
    let best = { step: 0, off: Infinity };
    for (let off = -reach; off <= reach; off++) {
      const at = Math.round(radius) + off;
      if (at < 2) continue;
      const step = stepAt(means, at);
      if (step > best.step) best = { step, off: at - radius };
    }
    return Math.abs(best.off) <= room ? [best.off] : [];
  });
  const residual = Math.sqrt(offs.reduce((sum, off) => sum + off * off, 0) / Math.max(1, offs.length));
  return {
    center: { x: left + center.x * factor, y: top + center.y * factor },
    radiusPx: radius * factor,
    residualPx: residual * factor,
    seen: offs.length / rays.length
  };
}

/** The smallest of each square, and of those the largest again: what is bright and narrower than the square is gone. */
function withoutBright(patch: Patch, reach: number): Patch {
  const darkest = slid(patch.data, patch, reach, Math.min);
  return { ...patch, data: slid(darkest, patch, reach, Math.max) };
}

function slid(
  data: Float32Array,
  { width, height }: Size,
  reach: number,
  of: (a: number, b: number) => number
) {
  const along = new Float32Array(data.length);
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let value = data[y * width + x];
      for (let i = Math.max(0, x - reach); i <= Math.min(width - 1, x + reach); i++)
        value = of(value, data[y * width + i]);
      along[y * width + x] = value;
    }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let value = along[y * width + x];
      for (let i = Math.max(0, y - reach); i <= Math.min(height - 1, y + reach); i++)
        value = of(value, along[i * width + x]);
      out[y * width + x] = value;
    }
  return out;
}

function nearest({ data, width, height }: Patch, x: number, y: number): number {
  const column = Math.min(width - 1, Math.max(0, Math.floor(x)));
  const row = Math.min(height - 1, Math.max(0, Math.floor(y)));
  return data[row * width + column];
}

/** From dark to bright, without the outermost hundredths. */
function rangeOf({ data }: Patch): number {
  const sorted = data.toSorted();
  return sorted[Math.floor(sorted.length * 0.98)] - sorted[Math.floor(sorted.length * 0.02)];
}
