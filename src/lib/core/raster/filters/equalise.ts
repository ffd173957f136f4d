import type { Patch } from '../patch';

/** From values to 0..1 so that each share of the picture's pixels takes an equal share of the greys. */
export interface Equaliser {
  low: number;
  high: number;
  /** Share of pixels below each bin's lower edge; the last entry is 1. */
  below: Float32Array;
}

const bins = 1024;

/** What equalising needs to know of the whole picture. One grey only gives back 0.5 everywhere. */
export function equaliserOf({ data }: Patch): Equaliser {
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < data.length; i++) {
    if (data[i] < low) low = data[i];
    if (data[i] > high) high = data[i];
  }
  const below = new Float32Array(bins + 1);
  if (!(high > low)) return { low, high, below: below.fill(0.5) };
  const counts = new Float64Array(bins);
  const toBin = bins / (high - low);
  for (let i = 0; i < data.length; i++) counts[Math.min(bins - 1, ((data[i] - low) * toBin) | 0)]++;
  let sum = 0;
  for (let i = 0; i < bins; i++) {
    below[i] = sum / data.length;
    sum += counts[i];
  }
  below[bins] = 1;
  return { low, high, below };
}

export function equaliseFunction({ low, high, below }: Equaliser): (value: number) => number {
  const last = below.length - 1;
  if (!(high > low)) return () => below[0];
  return (value) => {
    const place = Math.min(last, Math.max(0, ((value - low) / (high - low)) * last));
    const bin = Math.min(last - 1, Math.floor(place));
    return below[bin] + (below[bin + 1] - below[bin]) * (place - bin);
  };
}
