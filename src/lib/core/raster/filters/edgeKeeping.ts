import { type Patch, type Window, cutOut, madeFor } from '../patch';

export interface EdgeKeeping {
  /** 1 to 6 pixels. */
  radiusPx: number;
  /** Differences well above this count as edges and are kept, in the picture's values; above 0. */
  range: number;
}

const tableSteps = 1024;
/** Weights are looked up as far as this many `range`s. */
const tableReach = 4;

/** Bilateral smoothing (Tomasi and Manduchi, 1998): a Gaussian in place times a Gaussian in value. */
export function edgeKeeping(patch: Patch, { radiusPx, range }: EdgeKeeping, window: Window = patch): Patch {
  if (!(Number.isInteger(radiusPx) && radiusPx >= 1 && radiusPx <= 6))
    throw new RangeError(`radius must be 1 to 6 whole pixels, got ${radiusPx}`);
  if (!(range > 0 && Number.isFinite(range))) throw new RangeError(`range must be above 0, got ${range}`);
  const padded = cutOut(patch, window, radiusPx);
  const { width, height } = window;
  const wide = width + 2 * radiusPx;
  const toStep = tableSteps / (tableReach * range);
  const alike = Float32Array.from({ length: tableSteps + 1 }, (_, i) =>
    i === tableSteps ? 0 : Math.exp(-((i / toStep / range) ** 2) / 2)
  );
  const sigma = radiusPx / 2;
  const offsets: number[] = [];
  const near: number[] = [];
  for (let dy = -radiusPx; dy <= radiusPx; dy++) {
    for (let dx = -radiusPx; dx <= radiusPx; dx++) {
      if (dx * dx + dy * dy > radiusPx * radiusPx + 1) continue;
      offsets.push(dy * wide + dx);
      near.push(Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma)));
    }
  }
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y + radiusPx) * wide + x + radiusPx;
      const center = padded[at];
      let sum = 0;
      let weights = 0;
      for (let i = 0; i < offsets.length; i++) {
        const value = padded[at + offsets[i]];
        const step = Math.min(tableSteps, (Math.abs(value - center) * toStep) | 0);
        const weight = near[i] * alike[step];
        sum += weight * value;
        weights += weight;
      }
      out[y * width + x] = sum / weights;
    }
  }
  return madeFor(patch, window, out);
}
