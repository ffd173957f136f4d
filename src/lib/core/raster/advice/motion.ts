import type { Patch } from '../patch';
import { transformSquare } from './fourier';

export interface Motion {
  /** How far things were smeared, in pixels. */
  lengthPx: number;
  /** Along which direction, degrees clockwise from the rows as seen, 0 to 180. */
  directionDeg: number;
  /** How far the sign of it stands out of its surroundings, in their standard deviations. */
  clear: number;
}

const side = 256;
const leastPx = 7;
const mostPx = 70;
const mostWindows = 30;

/**
 * Blur by even motion, from the cepstrum (Bogert, Healy and Tukey, 1963; for smear: Cannon, 1976): a smear of L pixels
 * multiplies the spectrum by a sinc with zeros every 1/L, whose logarithm has a pit at lag L along the direction.
 * Spectra of several windows are averaged, so that what they show differs and the smear stays.
 * @returns the clearest pit, or null where the picture is too small or flat to tell
 */
export function motionOf(patch: Patch): Motion | null {
  const { width, height } = patch;
  if (width < side || height < side) return null;
  const power = new Float64Array(side * side);
  const across = Math.max(1, Math.min(6, Math.floor(width / (side * 0.5))));
  const down = Math.max(1, Math.min(Math.floor(mostWindows / across), Math.floor(height / (side * 0.5))));
  const place = (i: number, count: number, room: number) =>
    count === 1 ? room >> 1 : Math.round((room * i) / (count - 1));
  const windows = Array.from({ length: across * down }, (_, i) =>
    cutWindow(
      patch,
      place(i % across, across, width - side),
      place(Math.floor(i / across), down, height - side)
    )
  ).filter((window) => window !== null);
  for (let i = 0; i < windows.length; i += 2) addPower(power, windows[i], windows[i + 1]);
  const used = windows.length;
  if (used === 0) return null;
  return pitOf(cepstrum(power));
}

/** A window with mean 0 and spread 1, faded towards its rim; null for one grey. */
function cutWindow({ data, width }: Patch, left: number, top: number): Float64Array | null {
  const out = new Float64Array(side * side);
  let mean = 0;
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) mean += out[y * side + x] = data[(top + y) * width + left + x];
  mean /= out.length;
  let squares = 0;
  for (let i = 0; i < out.length; i++) squares += (out[i] - mean) ** 2;
  if (squares === 0) return null;
  const by = 1 / Math.sqrt(squares);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) out[y * side + x] = (out[y * side + x] - mean) * by * fade(x) * fade(y);
  return out;
}

const fade = (i: number) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / side);

/** Adds the logarithms of two windows' power spectra, both from one transform: one as its real, one as its imaginary part. */
function addPower(power: Float64Array, one: Float64Array, other: Float64Array | undefined): void {
  const re = one.slice();
  const im = other?.slice() ?? new Float64Array(side * side);
  transformSquare(re, im, side);
  for (let y = 0; y < side; y++) {
    const mirrorRow = ((side - y) % side) * side;
    for (let x = 0; x < side; x++) {
      const i = y * side + x;
      const k = mirrorRow + ((side - x) % side);
      const first = ((re[i] + re[k]) / 2) ** 2 + ((im[i] - im[k]) / 2) ** 2;
      power[i] += Math.log(1e-9 + first);
      if (!other) continue;
      const second = ((im[i] + im[k]) / 2) ** 2 + ((re[k] - re[i]) / 2) ** 2;
      power[i] += Math.log(1e-9 + second);
    }
  }
}

/** The logarithm of the spectrum, what depends on frequency alone taken out and the noise's plateau faded, transformed back. */
function cepstrum(power: Float64Array): Float64Array {
  const sums = new Float64Array(side);
  const counts = new Float64Array(side);
  const radiusOf = (i: number) => {
    const x = i % side;
    const y = (i - x) / side;
    return Math.hypot(x < side / 2 ? x : x - side, y < side / 2 ? y : y - side);
  };
  for (let i = 0; i < power.length; i++) {
    const r = Math.min(side - 1, Math.round(radiusOf(i)));
    sums[r] += power[i];
    counts[r]++;
  }
  const re = new Float64Array(power.length);
  const im = new Float64Array(power.length);
  for (let i = 0; i < power.length; i++) {
    const r = radiusOf(i);
    const own =
      power[i] - sums[Math.min(side - 1, Math.round(r))] / counts[Math.min(side - 1, Math.round(r))];
    re[i] = own * Math.exp(-((r / (side * 0.2)) ** 2));
  }
  transformSquare(re, im, side);
  return re;
}

function pitOf(lags: Float64Array): Motion {
  const at = (x: number, y: number) => lags[((y + side) % side) * side + ((x + side) % side)];
  const floor = 0.35 * ringFloor(lags);
  let best = { x: 0, y: 0, clear: 0 };
  // Each ring of lags is judged against itself: pictures vary more over short lags than over long ones.
  for (let r = leastPx; r <= mostPx; r++) {
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
      // Smears of a whole multiple leave weaker pits at every multiple: of two alike the shorter is it.
      const clear = ((middle - value) / Math.max(spread, floor)) * (1 - r / (2.5 * mostPx));
      if (clear > best.clear) best = { x, y, clear };
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
