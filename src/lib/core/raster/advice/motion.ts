import type { Patch } from '../patch';
import { transformSquare } from './fourier';
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

const leastPx = 7;
const mostPx = 70;
/** The pit is looked for so near the place where the likest smear has it. */
const nearPx = 4;
/** Long lags are fewer and vary by themselves: a pit's depth counts the less the further out it is. */
const fadesAtPx = 2.5 * mostPx;
/** What likeness counts against the pit, which is told in standard deviations; most smears are liker than this one. */
const likenessCounts = 12;
const ordinaryLikeness = 0.65;

/**
 * Blur by even motion, by two signs that have to agree. The picture's spectrum is compared with those of smears of all
 * lengths and directions; where the likest has it, the cepstrum (Bogert, Healy and Tukey, 1963; for smear: Cannon, 1976)
 * has a pit, for a smear of L pixels multiplies the spectrum by a sinc with zeros every 1/L.
 * @returns the likest smear and how clear it is, or null where the picture is too small or flat to tell
 */
export function motionOf(patch: Patch): Motion | null {
  const power = spectrumOf(patch);
  if (!power) return null;
  const mean = byFrequency(power);
  const smear = likestSmear(power, mean);
  if (!smear) return null;
  const pit = pitNear(cepstrum(power, mean), smear);
  const depth = pit.clear * (1 - pit.lengthPx / fadesAtPx);
  return { ...pit, clear: depth + likenessCounts * (smear.likeness - ordinaryLikeness) };
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
  const at = (x: number, y: number) => lags[((y + side) % side) * side + ((x + side) % side)];
  const floor = 0.35 * ringFloor(lags);
  const angle = (directionDeg * Math.PI) / 180;
  const there = { x: lengthPx * Math.cos(angle), y: lengthPx * Math.sin(angle) };
  let best = { ...there, clear: 0 };
  const first = Math.max(leastPx, Math.round(lengthPx) - nearPx + 1);
  const last = Math.min(mostPx, Math.round(lengthPx) + nearPx - 1);
  for (let r = first; r <= last; r++) {
    const values: { x: number; y: number; value: number }[] = [];
    const count = Math.ceil(Math.PI * r);
    for (let i = 0; i < count; i++) {
      const a = (Math.PI * i) / count;
      const x = Math.round(r * Math.cos(a));
      const y = Math.round(r * Math.sin(a));
      let sum = 0;
      for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) sum += at(x + dx, y + dy);
      values.push({ x, y, value: sum / 9 });
    }
    const sorted = values.map(({ value }) => value).sort((a, b) => a - b);
    const middle = sorted[sorted.length >> 1];
    const spread = (sorted[Math.floor(sorted.length * 0.84)] - sorted[Math.floor(sorted.length * 0.16)]) / 2;
    for (const { x, y, value } of values) {
      // Lags on both sides of nothing are the same.
      const off = Math.min(Math.hypot(x - there.x, y - there.y), Math.hypot(x + there.x, y + there.y));
      const clear = (middle - value) / Math.max(spread, floor);
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
