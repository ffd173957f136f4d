import type { Patch } from './patch';

/** How strong the noise of a picture is at its greys: what a transfer from rays to greys leaves behind. */
export interface NoiseCurve {
  /** Greys from low to high, and the standard deviation of the noise there, of single pixels. */
  greys: Float64Array;
  deviations: Float64Array;
}

const bins = 14;
const mostSamples = 18_000;
/** Rounding to whole numbers alone scatters values by a twelfth, squared. */
const rounding = 1 / 12;
/** Noise weaker than this, in steps of the stored values, can't be told from rounding. */
const leastDeviation = 0.45;
/** Least deviation told of a range that has some. */
const leastTold = 0.3;
const leastInBin = 50;
/** With more than this share of a picture all of one value, or edges only, the rest says little. */
const mostSilent = 0.6;
/** Slopes of noise alone are about half of its deviation in the flatter half; where they are more, there are edges only. */
const steepest = 1;

/**
 * Noise against grey, by the difference of two second differences (Immerkaer, 1996), which slopes and edges along rows or
 * columns leave out. Of each range of greys the median is taken, so that texture and edges count little.
 * @returns null where the noise is too weak to be seen beside the rounding, as in pictures of 8 bits with much dose
 */
export function noiseCurve({ data, width, height }: Patch): NoiseCurve | null {
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / mostSamples)));
  const means: number[] = [];
  const offs: number[] = [];
  const slopes: number[] = [];
  for (let y = 1 + (step >> 1); y < height - 1; y += step)
    for (let x = 1 + (step >> 1); x < width - 1; x += step) {
      const i = y * width + x;
      means.push((data[i - 1] + data[i] + data[i + 1] + data[i - width] + data[i + width]) / 5);
      offs.push(Math.abs(secondDifference(data, i, width)));
      const [across, down] = [data[i + 1] - data[i - 1], data[i + width] - data[i - width]];
      slopes.push(Math.sqrt(across * across + down * down) / 2);
    }
  if (means.length < bins * leastInBin) return null;
  // Half of the ranges hold as many samples each, half are equally wide, so that rare greys are told of too.
  const sorted = Float64Array.from(means).sort();
  const [lowest, highest] = [sorted[0], sorted[sorted.length - 1]];
  const cuts = new Set<number>();
  for (let k = 1; k < bins; k++) {
    cuts.add(sorted[Math.floor((k / bins) * sorted.length)]);
    cuts.add(lowest + ((highest - lowest) * k) / bins);
  }
  const limits = Float64Array.from(cuts).sort();
  const ranges: number[][] = Array.from({ length: limits.length + 1 }, () => []);
  for (let i = 0; i < means.length; i++) ranges[rangeOf(limits, means[i])].push(i);
  const greys: number[] = [];
  const deviations: number[] = [];
  let waiting: number[] = [];
  let silent = 0;
  for (const range of ranges) {
    waiting = waiting.length > 0 ? [...waiting, ...range] : range;
    if (waiting.length < leastInBin) continue;
    const seen = noiseOf(waiting, means, offs, slopes);
    if (!seen) silent += waiting.length;
    waiting = [];
    if (!seen) continue;
    greys.push(seen.grey);
    deviations.push(Math.sqrt(Math.max(leastTold ** 2, seen.deviation ** 2 - rounding)));
  }
  if (greys.length < 3 || silent > mostSilent * means.length) return null;
  const strength = Float64Array.from(deviations).sort()[deviations.length >> 1];
  if (strength < leastDeviation) return null;
  return { greys: Float64Array.from(greys), deviations: Float64Array.from(deviations) };
}

/** The difference of second differences about a pixel that has eight neighbours; its deviation is the noise's own. */
export function secondDifference(data: ArrayLike<number>, i: number, width: number): number {
  const cross = data[i - 1] + data[i + 1] + data[i - width] + data[i + width];
  const corners = data[i - width - 1] + data[i - width + 1] + data[i + width - 1] + data[i + width + 1];
  return (corners - 2 * cross + 4 * data[i]) / 6;
}

/** The standard deviation whose differences have this median size. */
export const deviationOf = (medianDifference: number): number => medianDifference / 0.6745;

function rangeOf(limits: Float64Array, grey: number): number {
  let low = 0;
  let high = limits.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (limits[middle] > grey) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Mean grey and noise of some samples; null where they are at the end of the range, or edges only. */
function noiseOf(
  samples: readonly number[],
  means: readonly number[],
  offs: readonly number[],
  slopes: readonly number[]
): { grey: number; deviation: number } | null {
  // The flatter half: noise's own slopes say nothing of its second differences, edges' slopes do.
  const steep = Float64Array.from(samples, (i) => slopes[i]).sort();
  const usual = steep[steep.length >> 1];
  const flat = samples.filter((i) => slopes[i] <= usual);
  const within = Float64Array.from(flat, (i) => offs[i]).sort();
  // What is all of one value lies beyond the end of the range and says nothing.
  if (within[Math.floor(within.length * 0.6)] === 0) return null;
  const deviation = deviationOf(within[within.length >> 1]);
  if (steep[steep.length >> 2] > steepest * deviation) return null;
  return { grey: flat.reduce((sum, i) => sum + means[i], 0) / flat.length, deviation };
}

/** Noise at a grey, between what was seen; beyond it as at the end. */
export function deviationAt({ greys, deviations }: NoiseCurve, grey: number): number {
  const last = greys.length - 1;
  if (grey <= greys[0]) return deviations[0];
  if (grey >= greys[last]) return deviations[last];
  let i = 0;
  while (greys[i + 1] < grey) i++;
  const share = (grey - greys[i]) / (greys[i + 1] - greys[i]);
  return Math.exp(Math.log(deviations[i]) + (Math.log(deviations[i + 1]) - Math.log(deviations[i])) * share);
}
