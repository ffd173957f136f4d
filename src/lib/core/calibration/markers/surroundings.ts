import { medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import type { Patch } from '../../raster/patch';
import { type Outline, seenWays } from './outline';

/** What lies in a round thing and around it, all against the step at its edge. */
export interface Surroundings {
  /** How much the middle varies besides a smooth dome and noise: a recess, a slot, thread. */
  uneven: number;
  /** The step against how much values vary from pixel to pixel. */
  standingOut: number;
  /** Share of directions in which another edge of the same kind follows at one distance: a ring around it. */
  ringed: number;
  /**
   * Share of what lies around, out to three radii, that is as the inside is or beyond: true of a hole in a plate. Asked
   * only where the edge is seen: what hides the rest is often as dense.
   */
  likeInside: number;
  /** Share of the directions in which it is again as the inside is somewhat further out: true of a hole in a wide plate. */
  enclosed: number;
  /** Share of what lies around that goes on through the rim as dense as much of the inside, side by side: a stalk. */
  stalk: number;
}

const rays = 40;
/** A plate reaches no further than this from the middle of its hole, across. */
const enclosedRadii = 6;
/** Greys less than this share of the step apart are alike. */
const backShare = 0.4;

export function surroundingsOf(full: Patch, outline: Outline, bright: boolean): Surroundings {
  const { center, radiusPx, contrast } = outline;
  const seen = seenWays(outline);
  const step = Math.max(1e-6, Math.abs(contrast));
  const sign = bright ? 1 : -1;
  const inside = within(full, outline);
  const middle = medianOf(inside.map(({ value }) => value));
  const inPicture = (x: number, y: number) => x >= 0 && y >= 0 && x < full.width && y < full.height;
  const differences: number[] = [];
  const rings: number[] = [];
  const beyond: number[] = [];
  let like = 0;
  let looked = 0;
  let farther = 0;
  let back = 0;
  let asked = 0;
  for (let i = 0; i < rays; i++) {
    const a = (2 * Math.PI * i) / rays;
    const at = Math.round((i / rays) * seen.length) % seen.length;
    const [c, s] = [Math.cos(a), Math.sin(a)];
    const value = (r: number) => valueAt(full, center.x + r * c, center.y + r * s);
    const there = (r: number) => inPicture(center.x + r * c, center.y + r * s);
    const ground = Math.max(1.25 * radiusPx, radiusPx + 2.5);
    beyond.push(there(ground + radiusPx) ? leastBetween(value, sign, ground, ground + radiusPx) : NaN);
    if (!there(ground)) continue;
    farther++;
    // The lowest grey beyond the edge, and whether it rises again to a good part of the step: another wall.
    let low = sign * value(ground);
    let wall = NaN;
    const stride = Math.max(0.6, radiusPx / 14);
    for (let r = ground; r < 3.2 * radiusPx + 3 && there(r); r += stride) {
      const here = sign * value(r);
      low = Math.min(low, here);
      if (Number.isNaN(wall) && here - low > 0.4 * step) wall = r;
      if (!seen[at]) continue;
      looked++;
      if (here > sign * middle - 0.35 * step) like++;
    }
    if (seen[at]) {
      asked++;
      const far = enclosedRadii * radiusPx + 3;
      for (let r = ground; r < far && there(r); r += Math.max(1, radiusPx / 5))
        if (sign * value(r) > sign * middle - backShare * step) {
          back++;
          break;
        }
    }
    if (!Number.isNaN(wall)) rings.push(wall / radiusPx);
    for (const r of [0.5 * radiusPx, ground + 1, ground + 3]) {
      const x = Math.floor(center.x + r * c);
      const y = Math.floor(center.y + r * s);
      if (x < 1 || y < 1 || x >= full.width - 1 || y >= full.height - 1) continue;
      const i0 = y * full.width + x;
      differences.push(Math.abs(full.data[i0] - (full.data[i0 - 1] + full.data[i0 + 1]) / 2));
    }
  }
  const usual = rings.length > 0 ? medianOf(rings) : 0;
  const onOne = rings.filter((r) => Math.abs(r - usual) < 0.15 * usual).length;
  differences.sort((a, b) => a - b);
  const noise = differences.length < 10 ? 0 : differences[Math.floor(differences.length * 0.75)] * 1.1;
  return {
    uneven: roughness(inside, radiusPx, sign, noise) / step,
    standingOut: step / Math.max(1e-6 * step, noise),
    ringed: farther > 0 ? onOne / farther : 0,
    likeInside: looked > 0 ? like / looked : 0,
    enclosed: asked > 0 ? back / asked : 0,
    stalk: longestRun(beyond, step) / rays
  };
}

/** The lowest grey on a way outwards. */
function leastBetween(value: (r: number) => number, sign: number, from: number, to: number): number {
  let least = Infinity;
  for (let k = 0; k <= beyondSteps; k++)
    least = Math.min(least, sign * value(from + (k / beyondSteps) * (to - from)));
  return least;
}
const beyondSteps = 4;

/** How many directions side by side stay up by a good part of the step from what is usual; none where most do. */
function longestRun(beyond: readonly number[], step: number): number {
  const there = beyond.filter((value) => !Number.isNaN(value));
  if (there.length < rays / 2) return 0;
  const usual = medianOf(there);
  const up = beyond.map((value) => value > usual + staysUp * step);
  let longest = 0;
  for (let from = 0; from < rays; from++) {
    let length = 0;
    while (length < rays && up[(from + length) % rays]) length++;
    longest = Math.max(longest, length);
  }
  return longest;
}
const staysUp = 0.4;

interface Sample {
  value: number;
  distance: number;
}

function within(full: Patch, { center, radiusPx }: Outline): Sample[] {
  const reach = radiusPx * 0.72;
  const stride = Math.max(0.8, reach / 9);
  const out: Sample[] = [];
  for (let dy = -reach; dy <= reach; dy += stride)
    for (let dx = -reach; dx <= reach; dx += stride) {
      const distance = Math.sqrt(dx * dx + dy * dy);
      if (distance > reach) continue;
      out.push({ value: valueAt(full, center.x + dx, center.y + dy), distance });
    }
  return out;
}

/** All but the furthest off of this share of the places are even in a marker; the four holes of a button are an eighth. */
const rough = 0.85;
const holed = 0.93;
/** Noise alone reaches so much further at the second. */
const holedNoise = 1.25;

/**
 * How far values lie from what is usual at their distance from the middle, besides noise: four rings, each about its own
 * median. A ball takes most away in its middle, a disc the same all over: a middle that is fainter than a ring further
 * out is a recess.
 */
function roughness(samples: readonly Sample[], radiusPx: number, sign: number, noise: number): number {
  const rings: Sample[][] = [[], [], [], []];
  for (const sample of samples)
    rings[Math.min(3, Math.floor((sample.distance / (0.72 * radiusPx)) ** 2 * 4))].push(sample);
  const offs: number[] = [];
  const middles: number[] = [];
  for (const ring of rings) {
    if (ring.length === 0) continue;
    const middle = medianOf(ring.map(({ value }) => value));
    middles.push(sign * middle);
    for (const { value } of ring) offs.push(Math.abs(value - middle));
  }
  offs.sort((a, b) => a - b);
  const at = (share: number) => (offs.length > 0 ? offs[Math.floor(offs.length * share)] : 0);
  const sunk = middles.length > 1 ? Math.abs(middles[0] - middles[1]) : 0;
  const recess = Math.max(0, ...middles.slice(1).map((middle) => middle - middles[0]));
  return Math.max(0, at(rough) - noise, at(holed) - holedNoise * noise, sunk - noise, recess - noise);
}
