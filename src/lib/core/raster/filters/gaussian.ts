import { type Patch, type Window, cutOut, madeFor } from '../patch';

/** Taps lie this many standard deviations out; what is beyond is below a part in a thousand. */
const usualReach = 3.3;
const mostSigmaPx = 200;

export function gaussianMargin(sigmaPx: number, reach = usualReach): number {
  if (!(sigmaPx > 0 && sigmaPx <= mostSigmaPx))
    throw new RangeError(
      `a Gaussian's sigma must be above 0 and at most ${mostSigmaPx} pixels, got ${sigmaPx}`
    );
  return Math.max(1, Math.ceil(reach * sigmaPx));
}

/** Weights of one side, the middle first; all of them together add up to 1. */
export function gaussianTaps(sigmaPx: number, reach = usualReach): Float64Array {
  const radius = gaussianMargin(sigmaPx, reach);
  const taps = new Float64Array(radius + 1);
  let sum = 0;
  for (let i = 0; i <= radius; i++) {
    taps[i] = Math.exp(-(i * i) / (2 * sigmaPx * sigmaPx));
    sum += i === 0 ? taps[i] : 2 * taps[i];
  }
  return taps.map((tap) => tap / sum);
}

/**
 * A Gaussian as a sum over its sampled taps, along rows and then columns. Each result is added up in the same order
 * wherever its window lies, so windows join without a seam.
 * @param sigmaPx above 0, at most 200
 * @param reach how many sigmas out the taps go; fewer where a rough answer does
 */
export function gaussian(patch: Patch, sigmaPx: number, window: Window = patch, reach = usualReach): Patch {
  const taps = gaussianTaps(sigmaPx, reach);
  const margin = taps.length - 1;
  const padded = cutOut(patch, window, margin);
  const { width, height } = window;
  const wide = width + 2 * margin;
  const tall = height + 2 * margin;
  const rows = new Float32Array(width * tall);
  const middle = taps[0];
  for (let y = 0; y < tall; y++) {
    const from = y * wide + margin;
    const to = y * width;
    for (let x = 0; x < width; x++) {
      const at = from + x;
      let sum = middle * padded[at];
      for (let i = 1; i <= margin; i++) sum += taps[i] * (padded[at - i] + padded[at + i]);
      rows[to + x] = sum;
    }
  }
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const to = y * width;
    const from = (y + margin) * width;
    for (let x = 0; x < width; x++) {
      const at = from + x;
      let sum = middle * rows[at];
      let above = at - width;
      let below = at + width;
      for (let i = 1; i <= margin; i++) {
        sum += taps[i] * (rows[above] + rows[below]);
        above -= width;
        below += width;
      }
      out[to + x] = sum;
    }
  }
  return madeFor(patch, window, out);
}
