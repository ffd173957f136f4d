import type { Patch } from '../patch';
import { halved } from '../reduced';
import { transformSquare } from '../fourier';
import { type Smear, likestSmear } from './smear';
import { byFrequency, frequencyOf, side, spectrumOf } from './spectrum';

export interface Motion {
  /** How far things were smeared, in pixels. */
  lengthPx: number;
  /** Along which direction, degrees clockwise from the rows as seen, 0 to 180. */
  directionDeg: number;
  /** How far the signs of it stand out, both together; what is sharp stays below 2. */
  clear: number;
}

/** In finer pictures edges of one thing fill a window and look like a smear: those are looked at coarser. */
const finePx = 1200;
const leastPx = 7;
const mostPx = 70;
/** The pit is looked for so near the place where the likest smear has it. */
const nearPx = 4;
/** Long lags are fewer and vary by themselves: a pit's depth counts the less the further out it is. */
const fadesAtPx = 2.5 * mostPx;
/** What likeness counts against the pit, which is told in standard deviations; most smears are liker than this one. */
const likenessCounts = 12;
const ordinaryLikeness = 0.65;
/** Below this clearness nothing would be told anyway. */
const worthAsking = 1;
/**
 * Nothing but rows of lines repeats by the first; by the second some of what was moved does, but then no lag stands out
 * of its ring. The third holds when rings are taken off.
 */
const surelyRepeating = 5.5;
const perhapsRepeating = 3.4;
const leastRepeating = 2.95;
const outstanding = 8;

/**
 * Blur by even motion, by two signs that have to agree. The picture's spectrum is compared with those of smears of all
 * lengths and directions; where the likest has it, the cepstrum (Bogert, Healy and Tukey, 1963; for smear: Cannon, 1976)
 * has a pit, for a smear of L pixels multiplies the spectrum by a sinc with zeros every 1/L.
 * Lines that repeat, as a ruler's do, are alike all over as well: of a picture in which something repeats nothing is told.
 * @returns the likest smear and how clear it is, or null where nobody can tell: too small, too flat, or repeating
 */
export function motionOf(patch: Patch): Motion | null {
  if (Math.max(patch.width, patch.height) > finePx) {
    const seen = motionOf(halved(patch));
    return seen && { ...seen, lengthPx: 2 * seen.lengthPx };
  }
  const power = spectrumOf(patch);
  if (!power) return null;
  const mean = byFrequency(power);
  const smear = likestSmear(power, mean);
  if (!smear) return null;
  const lags = cepstrum(power, mean);
  const pit = pitNear(lags, smear);
  const depth = pit.clear * (1 - pit.lengthPx / fadesAtPx);
  const clear = depth + likenessCounts * (smear.likeness - ordinaryLikeness);
  if (clear > worthAsking && isRepeating(lags)) return null;
  return { ...pit, clear };
}

function isRepeating(lags: Float64Array): boolean {
  const by = repeating(lags, new Float64Array(side));
  if (by < perhapsRepeating) return false;
  // A smear takes from lags of its own length all round: what a whole ring has is no line's doing.
  const rings = Float64Array.from({ length: side / 2 }, (_, r) =>
    r === 0 ? 0 : spreadOf(ringOf(lags, r), 0).middle
  );
  if (repeating(lags, rings) < leastRepeating) return false;
  return by > surelyRepeating || greatestOfRings(lags) > outstanding;
}

/** How far the greatest lag stands out of the ring that it lies in, in standard deviations. */
function greatestOfRings(lags: Float64Array): number {
  const floor = leastSpread(lags);
  let best = 0;
  for (let r = leastPx; r <= mostPx; r++) {
    const { sorted, middle, spread } = spreadOf(ringOf(lags, r), floor);
    best = Math.max(best, (sorted.at(-1)! - middle) / spread);
  }
  return best;
}

/** Lags of a ring in order, the middle one, and how they are spread about it. */
function spreadOf(ring: readonly { value: number }[], floor: number) {
  const sorted = ring.map(({ value }) => value).sort((a, b) => a - b);
  const spread = (sorted[Math.floor(sorted.length * 0.84)] - sorted[Math.floor(sorted.length * 0.16)]) / 2;
  return { sorted, middle: sorted[sorted.length >> 1], spread: Math.max(spread, floor) };
}

const leastSpread = (lags: Float64Array) => 0.35 * ringFloor(lags);

/**
 * How far a lag stands out at which everything comes again, and again at twice of it, but not halfway between: the lines
 * of a ruler, the thread of a screw, the bars of a grid.
 * @param rings what is taken off a lag for the ring that it lies in, pixel by pixel of its distance
 */
function repeating(lags: Float64Array, rings: Float64Array): number {
  const floor = ringFloor(lags);
  let best = 0;
  for (let r = leastPx; 2 * r < side / 2; r++) {
    const count = Math.ceil(Math.PI * r);
    for (let i = 0; i < count; i++) {
      const [c, s] = [Math.cos((Math.PI * i) / count), Math.sin((Math.PI * i) / count)];
      const again = (times: number) =>
        lagAt(lags, Math.round(times * r * c), Math.round(times * r * s)) - rings[Math.round(times * r)];
      const stands = Math.min(again(1), again(2)) - Math.max(again(0.5), again(1.5));
      best = Math.max(best, stands / floor);
    }
  }
  return best;
}

/** The mean of a lag and its neighbours. */
function lagAt(lags: Float64Array, x: number, y: number): number {
  let sum = 0;
  for (let v = y - 1; v <= y + 1; v++)
    for (let u = x - 1; u <= x + 1; u++) sum += lags[((v + side) % side) * side + ((u + side) % side)];
  return sum / 9;
}

/** Lags so far apart, over half a turn. */
function ringOf(lags: Float64Array, r: number): { x: number; y: number; value: number }[] {
  const count = Math.ceil(Math.PI * r);
  return Array.from({ length: count }, (_, i) => {
    const a = (Math.PI * i) / count;
    const x = Math.round(r * Math.cos(a));
    const y = Math.round(r * Math.sin(a));
    return { x, y, value: lagAt(lags, x, y) };
  });
}

/** The logarithm of the spectrum, what depends on frequency alone taken out and the noise's plateau faded, transformed back. */
function cepstrum(power: Float64Array, mean: Float64Array): Float64Array {
  const re = power.map((value, i) => {
    const r = frequencyOf(i);
    const above = value - mean[Math.min(side - 1, Math.round(r))];
    return above * Math.exp(-((r / (side * 0.2)) ** 2));
  });
  transformSquare(re, new Float64Array(power.length), side);
  return re;
}

/** The deepest place of the cepstrum near a smear's, against the ring of lags that it lies in: pictures vary more over short ones. */
function pitNear(lags: Float64Array, { lengthPx, directionDeg }: Smear): Motion {
  const floor = leastSpread(lags);
  const angle = (directionDeg * Math.PI) / 180;
  const there = { x: lengthPx * Math.cos(angle), y: lengthPx * Math.sin(angle) };
  let best = { ...there, clear: 0 };
  const first = Math.max(leastPx, Math.round(lengthPx) - nearPx + 1);
  const last = Math.min(mostPx, Math.round(lengthPx) + nearPx - 1);
  for (let r = first; r <= last; r++) {
    const values = ringOf(lags, r);
    const { middle, spread } = spreadOf(values, floor);
    for (const { x, y, value } of values) {
      // Lags on both sides of nothing are the same.
      const off = Math.min(Math.hypot(x - there.x, y - there.y), Math.hypot(x + there.x, y + there.y));
      const clear = (middle - value) / spread;
      if (off <= nearPx && clear > best.clear) best = { x, y, clear };
    }
  }
  const direction = (Math.atan2(best.y, best.x) * 180) / Math.PI;
  return {
    lengthPx: Math.hypot(best.x, best.y),
    directionDeg: (direction + 360) % 180,
    clear: best.clear
  };
}

/** How much lags vary overall, so that one quiet ring does not make noise look clear. */
function ringFloor(lags: Float64Array): number {
  const sampled: number[] = [];
  for (let y = 8; y < 70; y += 3) for (let x = 8; x < 70; x += 3) sampled.push(Math.abs(lags[y * side + x]));
  return sampled.sort((a, b) => a - b)[Math.floor(sampled.length * 0.7)];
}
