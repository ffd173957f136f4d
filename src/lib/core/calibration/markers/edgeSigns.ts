import { type NoiseCurve, deviationAt } from '../../raster/noise';
import type { Patch } from '../../raster/patch';
import { type Profile, stepPx } from './edgeProfile';
import { type Outline, ellipseRadius, seenWays } from './outline';

/** What a file says of how its values go with the rays that arrived (Pixel Intensity Relationship). */
export type Relationship = 'linear' | 'logarithmic';

export interface EdgeKnown {
  /** Attenuation (natural logarithm) along the marker's middle, where its size and metal tell. */
  throughMiddle?: number;
  relationship?: Relationship;
  /** The picture's noise at its greys, where it can be seen. */
  noise?: NoiseCurve | null;
}

/** What is seen of a round thing's edge, in numbers that hold at any size, and the pixels that a unit of length is. */
export interface EdgeSigns {
  numbers: Float64Array;
  /** How wide the edge is: the step over its steepest slope. */
  widthPx: number;
}

/** Places across the edge in its own widths, and in pixels further in and further out: lifted edges reach as far. */
const fromWidths = -4;
const toWidths = 3.5;
const byWidths = 0.25;
const awayPx = [2, 4, 6, 9, 12];
/** The outermost tenth is the edge itself. */
const ringCount = 9;
/** Greys between outside (0) and inside (1) at which noise is asked. */
const noiseShares = [0.2, 0.4, 0.6, 0.8, 1];

/** So many numbers, the first ones, are the greys across the edge. */
export const greysAcross = Math.round((toWidths - fromWidths) / byWidths) + 1;

/**
 * The edge's greys at set places, the greys of rings within it, widths, and how noise goes with grey: all that a picture
 * tells of a thing's true rim, its metal, the answer of the detector, scattered rays and what the maker lifted.
 * @returns null where no edge rises
 */
export function edgeSigns(
  patch: Patch,
  outline: Outline,
  profile: Profile,
  known: EdgeKnown
): EdgeSigns | null {
  const { radiusPx, ovalPx, residualPx, share } = outline;
  const steepest = steepestOf(profile, radiusPx);
  if (!(steepest > leastSlope)) return null;
  const widthPx = 1 / steepest;
  const at = (r: number) => greyAt(profile, r);
  const numbers: number[] = [];
  for (let by = fromWidths; by <= toWidths; by += byWidths) numbers.push(at(radiusPx + widthPx * by));
  for (const px of awayPx) numbers.push(at(radiusPx - px), at(radiusPx + px));
  numbers.push(...ringsOf(patch, outline, profile));
  const scatter = profile.sigma.reduce((sum, value) => sum + Math.log(value), 0) / profile.sigma.length;
  numbers.push(Math.log(widthPx), Math.log(radiusPx), Math.log(radiusPx / widthPx), scatter);
  numbers.push(...noiseSigns(profile, known.noise ?? null));
  numbers.push(Number(profile.topCut), Number(profile.groundCut));
  numbers.push(Number(known.relationship === 'linear'), Number(known.relationship === 'logarithmic'));
  const { throughMiddle } = known;
  numbers.push(
    Number(throughMiddle !== undefined),
    throughMiddle === undefined ? 0 : Math.log(throughMiddle) - 1.5
  );
  numbers.push(ovalPx / widthPx, residualPx / widthPx, share);
  return numbers.every(Number.isFinite) ? { numbers: Float64Array.from(numbers), widthPx } : null;
}

/** Steps a pixel that are flatter than this are no edge. */
const leastSlope = 0.01;
const overSteps = 3;

function steepestOf({ distances, shape }: Profile, radiusPx: number): number {
  const near = Math.max(3, 0.35 * radiusPx);
  let steepest = 0;
  for (let k = overSteps; k < shape.length; k++) {
    const middle = (distances[k] + distances[k - overSteps]) / 2;
    if (Math.abs(middle - radiusPx) < near)
      steepest = Math.max(steepest, (shape[k - overSteps] - shape[k]) / (overSteps * stepPx));
  }
  return steepest;
}

function greyAt({ distances, shape }: Profile, r: number): number {
  const k = (r - distances[0]) / stepPx;
  if (k <= 0) return shape[0];
  const last = shape.length - 1;
  if (k >= last) return shape[last];
  const i = Math.floor(k);
  return shape[i] + (shape[i + 1] - shape[i]) * (k - i);
}

/** Mean greys of rings from the middle to nine tenths, outside 0 and inside 1: how a ball darkens towards its rim. */
function ringsOf({ data, width, height }: Patch, outline: Outline, { inside, outside }: Profile): number[] {
  const sums = new Float64Array(ringCount);
  const counts = new Float64Array(ringCount);
  const { center, radiusPx, ovalPx, ovalAngle } = outline;
  const seen = seenWays(outline);
  const reach = radiusPx + ovalPx;
  const stride = Math.max(1, Math.floor(radiusPx / 40));
  const bottom = Math.min(height, center.y + reach);
  const right = Math.min(width, center.x + reach);
  for (let y = Math.max(0, Math.ceil(center.y - reach)); y < bottom; y += stride)
    for (let x = Math.max(0, Math.ceil(center.x - reach)); x < right; x += stride) {
      const [dx, dy] = [x + 0.5 - center.x, y + 0.5 - center.y];
      const a = Math.atan2(dy, dx);
      if (!seen[(Math.round((a / (2 * Math.PI)) * seen.length) + seen.length) % seen.length]) continue;
      const rim = ellipseRadius(radiusPx, ovalPx, ovalAngle, a);
      const ring = Math.floor((10 * Math.sqrt(dx * dx + dy * dy)) / rim);
      if (ring >= ringCount) continue;
      sums[ring] += data[y * width + x];
      counts[ring]++;
    }
  const out: number[] = [];
  let last = 1;
  for (let ring = 0; ring < ringCount; ring++) {
    if (counts[ring] > 0) last = (sums[ring] / counts[ring] - outside) / (inside - outside);
    out.push(within(last, -1, 3));
  }
  return out;
}

const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/** Whether noise is seen, how strong it is outside against the step, how it goes with grey from there, and up to which. */
function noiseSigns({ inside, outside, insideNoise }: Profile, noise: NoiseCurve | null): number[] {
  const span = inside - outside;
  if (!noise) return [0, -3, ...noiseShares.map(() => 0), 0, 0, 0];
  const ground = deviationAt(noise, outside);
  const against = (deviation: number) => within(Math.log(deviation / ground), -3, 3);
  const { greys } = noise;
  const last = span > 0 ? greys[greys.length - 1] : greys[0];
  return [
    1,
    Math.log(ground / Math.abs(span)),
    ...noiseShares.map((share) => against(deviationAt(noise, outside + share * span))),
    within((last - outside) / span, -2, 2),
    Number(insideNoise !== null),
    insideNoise === null ? 0 : against(insideNoise)
  ];
}
