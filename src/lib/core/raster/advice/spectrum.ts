import type { Patch } from '../patch';
import { transformSquare } from '../fourier';

/** Windows are squares of this many pixels. */
export const side = 256;
const mostWindows = 30;

/**
 * The mean logarithm of the power of windows all over a picture, frequency by frequency (as the Fourier transform lays
 * them out): what the windows show differs, and what happened to all of them alike stays. Null where the picture is
 * smaller than a window, or of one grey.
 */
export function spectrumOf(patch: Patch): Float64Array | null {
  const { width, height } = patch;
  if (width < side || height < side) return null;
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
  if (windows.length === 0) return null;
  const power = new Float64Array(side * side);
  for (let i = 0; i < windows.length; i += 2) addPower(power, windows[i], windows[i + 1]);
  return mirrored(power).map((sum) => sum / windows.length);
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
    for (let x = 0; x < side; x++) out[y * side + x] = (out[y * side + x] - mean) * by * fade[x] * fade[y];
  return out;
}

const fade = Float64Array.from({ length: side }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / side));

/**
 * Adds the logarithms of two windows' power spectra, both from one transform: one as its real, one as its imaginary
 * part. Of a picture the right half says what the left does, so the left is filled.
 */
function addPower(power: Float64Array, one: Float64Array, other: Float64Array | undefined): void {
  const re = one.slice();
  const im = other?.slice() ?? new Float64Array(side * side);
  transformSquare(re, im, side);
  for (let y = 0; y < side; y++) {
    const mirrorRow = ((side - y) % side) * side;
    for (let x = 0; x <= side / 2; x++) {
      const i = y * side + x;
      const k = mirrorRow + ((side - x) % side);
      const first = ((re[i] + re[k]) / 2) ** 2 + ((im[i] - im[k]) / 2) ** 2;
      const second = other ? ((im[i] + im[k]) / 2) ** 2 + ((re[k] - re[i]) / 2) ** 2 : 1;
      power[i] += Math.log((1e-9 + first) * (1e-9 + second));
    }
  }
}

/** The left half of a spectrum, turned over to the right. */
function mirrored(power: Float64Array): Float64Array {
  for (let y = 0; y < side; y++)
    for (let x = side / 2 + 1; x < side; x++)
      power[y * side + x] = power[((side - y) % side) * side + side - x];
  return power;
}

/** How far a place of the spectrum lies from frequency 0, in cycles a window. */
export function frequencyOf(i: number): number {
  const x = i % side;
  const y = (i - x) / side;
  return Math.hypot(x < side / 2 ? x : x - side, y < side / 2 ? y : y - side);
}

/** Means over all directions, frequency by frequency up to the window's side. */
export function byFrequency(power: Float64Array): Float64Array {
  const sums = new Float64Array(side);
  const counts = new Float64Array(side);
  for (let i = 0; i < power.length; i++) {
    const r = Math.min(side - 1, Math.round(frequencyOf(i)));
    sums[r] += power[i];
    counts[r]++;
  }
  return sums.map((sum, r) => sum / Math.max(1, counts[r]));
}
