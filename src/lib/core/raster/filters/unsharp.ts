import { type Patch, type Window, cutOut, madeFor } from '../patch';
import { gaussian, gaussianMargin } from './gaussian';

export interface Unsharp {
  sigmaPx: number;
  /** How much of the difference to the blurred picture is added, 0 to 10. */
  amount: number;
  /** Differences up to this stay as they are, so that noise is not lifted; in the picture's values. */
  threshold: number;
}

/**
 * Unsharp masking: value + amount * (value - blurred), where that difference is above the threshold.
 * @param smooth the patch blurred by that much, of the window or more, where it is at hand
 */
export function unsharp(patch: Patch, wish: Unsharp, window: Window = patch, smooth?: Patch): Patch {
  const { sigmaPx, amount, threshold } = wish;
  if (!(amount >= 0 && amount <= 10)) throw new RangeError(`amount must be 0 to 10, got ${amount}`);
  if (!(threshold >= 0)) throw new RangeError(`threshold must be 0 or more, got ${threshold}`);
  const blurred = smooth ? cutOut(smooth, window, 0) : gaussian(patch, sigmaPx, window).data;
  const out = cutOut(patch, window, 0);
  for (let i = 0; i < out.length; i++) {
    const difference = out[i] - blurred[i];
    if (difference > threshold || difference < -threshold) out[i] += amount * difference;
  }
  return madeFor(patch, window, out);
}

export const unsharpMargin = ({ sigmaPx }: Unsharp): number => gaussianMargin(sigmaPx);
