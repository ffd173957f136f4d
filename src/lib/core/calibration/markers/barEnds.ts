import { medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import type { NoiseCurve } from '../../raster/noise';
import type { Patch } from '../../raster/patch';
import { type Axis, on } from './axis';
import { fittedEdge, straightPx } from './edgeModel';
import { type Profile, ofOneValue, stepPx } from './edgeProfile';
import type { Relationship } from './edgeSigns';

/** An end where its greys step most, and those greys. */
export interface EndSeen {
  /** From the middle, to half a pixel. */
  about: number;
  step: number;
  /** How much further its middle reaches than its corners, as a share of the width. */
  round: number;
  profile: Profile;
}

const reachPx = 12;

/** Greys over one end, brighter ones higher where the bar is bright. */
export function endSeen(
  patch: Patch,
  axis: Axis,
  end: 1 | -1,
  half: number,
  widthPx: number,
  sign: number
): EndSeen | null {
  const grey = (along: number, across: number) => {
    const { x, y } = on(axis, end * along, across);
    return sign * valueAt(patch, x, y);
  };
  const rows = Math.max(3, Math.min(25, Math.round(0.56 * widthPx) | 1));
  const acrossOf = (row: number) => (row / (rows - 1) - 0.5) * 0.56 * widthPx;
  const inner = Math.min(reachPx, 0.35 * half);
  // Where it is steepest, roughly: over twice the reach, for the piece's own length is rough.
  const window = Math.max(8, 0.12 * half);
  let steepest = 0;
  let about = half;
  for (let along = half - window; along < half + window; along += 0.5) {
    let step = 0;
    for (let row = 0; row < rows; row++) {
      const across = acrossOf(row);
      step +=
        grey(along - 1, across) + grey(along - 2, across) - grey(along + 1, across) - grey(along + 2, across);
    }
    if (step > steepest) {
      steepest = step;
      about = along;
    }
  }
  if (!(steepest > 0)) return null;
  const count = Math.floor((inner + reachPx) / stepPx);
  const lines = Array.from({ length: rows }, (_, row) =>
    Float64Array.from({ length: count }, (__, k) => grey(about - inner + (k + 0.5) * stepPx, acrossOf(row)))
  );
  const within = lines.flatMap((line) => [...line.subarray(0, 4)]);
  const without = lines.flatMap((line) => [...line.subarray(count - 4)]);
  const inside = medianOf(within);
  const outside = medianOf(without);
  if (!(inside > outside)) return null;
  const scaled = lines.map((line) => line.map((value) => (value - outside) / (inside - outside)));
  const shape = new Float64Array(count);
  const sigma = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const values = scaled.map((line) => line[k]);
    shape[k] = values.reduce((a, b) => a + b, 0) / rows;
    const spread = Math.sqrt(values.reduce((sum, v) => sum + (v - shape[k]) ** 2, 0) / Math.max(1, rows - 1));
    // Samples between pixels share pixels with their neighbours.
    sigma[k] = 1.8 * Math.hypot(spread / Math.sqrt(rows), 0.004);
  }
  const crossing = (line: Float64Array) => {
    for (let k = 1; k < count; k++)
      if (line[k] < 0.5) return k - 1 + (line[k - 1] - 0.5) / Math.max(1e-6, line[k - 1] - line[k]);
    return count;
  };
  const corners = (crossing(scaled[0]) + crossing(scaled[rows - 1])) / 2;
  const round = ((crossing(scaled[rows >> 1]) - corners) * stepPx) / widthPx;
  return {
    about,
    step: inside - outside,
    round: round - 0.4 / widthPx,
    profile: {
      distances: Float64Array.from({ length: count }, (_, k) => straightPx - inner + (k + 0.5) * stepPx),
      shape,
      sigma,
      topCut: ofOneValue(within),
      groundCut: ofOneValue(without),
      inside: sign * inside,
      outside: sign * outside,
      insideNoise: null
    }
  };
}

export interface End {
  /** From the middle, and its standard uncertainty. */
  along: number;
  uncertaintyPx: number;
  /** Of its greys against the model of an edge, as a share of the step. */
  rms: number;
}

/** Rods are thinner towards their sides, and what lies beside pulls: least uncertainty of an end. */
const endPx = 0.2;

/** The model tells a straight end this much too far out, the middle one of 200 bars by chains of any make. */
const tooFarPx = 0.13;

/** Where an end lies, by the same model of an edge as a ball's rim. */
export function measuredEnd(
  { about, profile }: EndSeen,
  noise: NoiseCurve | null,
  relationship: Relationship | undefined
): End | null {
  const fit = fittedEdge(profile, straightPx, 'disc', { noise, relationship });
  if (!fit) return null;
  return {
    along: about + fit.radiusPx - straightPx - tooFarPx,
    // An end that the model does not describe is told by its steepest place only.
    uncertaintyPx: Math.hypot(fit.uncertaintyPx, endPx, fit.rms > 0.03 ? 20 * fit.rms : 0),
    rms: fit.rms
  };
}
