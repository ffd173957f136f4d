import type { Size } from '../orientation';
import { type Patch, type Window, cutOut, wholeOf } from '../patch';

/** A rectangle of the picture as a picture of its own. */
export function cropped(patch: Patch, window: Window): Patch {
  const { width, height } = window;
  return { picture: { width, height }, ...wholeOf({ width, height }), data: cutOut(patch, window, 0) };
}

/**
 * Another size by Lanczos' windowed sinc of three lobes (Duchon, 1979), widened when the picture gets smaller so that
 * nothing finer than the new samples folds back. Weights of each sample add up to 1.
 */
export function resampled(patch: Patch, size: Size): Patch {
  if (![size.width, size.height].every((side) => Number.isInteger(side) && side >= 1 && side <= 32_768))
    throw new RangeError(`a new size needs 1 to 32768 whole pixels, got ${size.width} x ${size.height}`);
  const across = weightsFor(patch.width, size.width);
  const rows = new Float32Array(size.width * patch.height);
  for (let y = 0; y < patch.height; y++)
    for (let x = 0; x < size.width; x++) {
      const { from, taps } = across[x];
      let sum = 0;
      for (let i = 0; i < taps.length; i++)
        sum += taps[i] * patch.data[y * patch.width + inside(from + i, patch.width)];
      rows[y * size.width + x] = sum;
    }
  const down = weightsFor(patch.height, size.height);
  const data = new Float32Array(size.width * size.height);
  for (let y = 0; y < size.height; y++) {
    const { from, taps } = down[y];
    const row = y * size.width;
    for (let i = 0; i < taps.length; i++) {
      const source = inside(from + i, patch.height) * size.width;
      for (let x = 0; x < size.width; x++) data[row + x] += taps[i] * rows[source + x];
    }
  }
  return { picture: { ...size }, ...wholeOf(size), data };
}

const lobes = 3;
const inside = (i: number, count: number) => Math.min(count - 1, Math.max(0, i));

function weightsFor(from: number, to: number): { from: number; taps: number[] }[] {
  const step = from / to;
  const widen = Math.max(1, step);
  return Array.from({ length: to }, (_, i) => {
    const middle = (i + 0.5) * step - 0.5;
    const first = Math.ceil(middle - lobes * widen);
    const last = Math.floor(middle + lobes * widen);
    const taps = Array.from({ length: last - first + 1 }, (_, k) => lanczos((first + k - middle) / widen));
    const sum = taps.reduce((a, b) => a + b, 0);
    return { from: first, taps: taps.map((tap) => tap / sum) };
  });
}

function lanczos(x: number): number {
  if (x === 0) return 1;
  if (Math.abs(x) >= lobes) return 0;
  const px = Math.PI * x;
  return (lobes * Math.sin(px) * Math.sin(px / lobes)) / (px * px);
}
