import { gaussian } from '../../raster/filters/gaussian';
import { type Patch, type Window, grown } from '../../raster/patch';

/** What it costs to step on each pixel: 1 on the strongest edges, up to `plain` where there is none. */
export interface CostMap extends Window {
  cost: Float32Array;
}

const plain = 60;
const smoothPx = 1.6;
const strongestShare = 0.985;

/** Slope of the smoothed picture, per two pixels. The outermost pixels of the picture have one side only. */
export function slopes(patch: Patch, window: Window): Float32Array {
  const around = grown(window, 1, patch.picture);
  const smooth = gaussian(patch, smoothPx, around).data;
  const { width, height } = window;
  const wide = around.width;
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y + window.top - around.top;
    const up = Math.max(0, row - 1) * wide;
    const down = Math.min(around.height - 1, row + 1) * wide;
    for (let x = 0; x < width; x++) {
      const at = x + window.left - around.left;
      const gx = smooth[row * wide + Math.min(wide - 1, at + 1)] - smooth[row * wide + Math.max(0, at - 1)];
      const gy = smooth[down + at] - smooth[up + at];
      out[y * width + x] = Math.sqrt(gx * gx + gy * gy);
    }
  }
  return out;
}

/** The slope that costs least: what only three in a hundred of those above 0 exceed. */
export function strongestOf(values: Float32Array): number {
  const step = Math.max(1, Math.floor(values.length / 50_000));
  const sampled: number[] = [];
  for (let i = 0; i < values.length; i += step) if (values[i] > 0) sampled.push(values[i]);
  return sampled.sort((a, b) => a - b)[Math.floor(strongestShare * (sampled.length - 1))] ?? 0;
}

/** From slopes to costs, in place (after Mortensen and Barrett, 1995, their gradient term): edges are cheap. */
export function costsOf(slope: Float32Array, strongest: number): Float32Array {
  for (let i = 0; i < slope.length; i++) {
    const share = strongest > 0 ? Math.min(1, slope[i] / strongest) : 0;
    slope[i] = 1 + (plain - 1) * (1 - share) * (1 - share);
  }
  return slope;
}
