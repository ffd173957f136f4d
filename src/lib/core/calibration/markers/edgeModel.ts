import { type FitResult, fitted } from '../../measurement/fit/levenberg';
import { valueAt } from '../../raster/geometry/sampling';
import type { Patch } from '../../raster/patch';
import { medianOf } from '../../measurement/fit/linear';
import type { Outline } from './outline';

export interface EdgeFit {
  /** Mean radius of the thing itself, not of where its edge looks steepest. */
  radiusPx: number;
  /** Standard uncertainty of it. */
  uncertaintyPx: number;
  /** Of the profile, as a share of the step. */
  rms: number;
  converged: boolean;
}

const stepPx = 0.5;
/** Least uncertainty claimed for a radius: what the model itself leaves out. */
const modelPx = 0.05;
/** The same where the range ended before the marker's own grey, so that only the foot of its edge is seen. */
const clippedPx = 0.3;

/**
 * The true radius of a ball or disc from its brightness profile across the edge, averaged over the directions that lie
 * on the outline. The chord through a ball vanishes at its rim, so the edge looks smaller than the ball is; the model
 * has that: rays are lost by exp(-k chord), spread by a Gaussian, a floor of scattered rays added, then shown on a
 * logarithmic scale with its edges lifted. What is usual for each is weighed in, as one more observation.
 * @param known attenuation (natural logarithm) along the marker's middle, where its size and metal tell; and
 * the grey of the open beam
 */
export function edgeFit(
  patch: Patch,
  outline: Outline,
  kind: 'ball' | 'disc',
  bright: boolean,
  known: { throughMiddle?: number; openBeam?: number } = {}
): EdgeFit | null {
  const { radiusPx } = outline;
  const inner = Math.max(0, radiusPx - Math.min(0.75 * radiusPx, 9));
  const outer = radiusPx + Math.min(9, 4 + radiusPx * 0.5);
  const count = Math.floor((outer - inner) / stepPx) + 1;
  const profile = profileOf(patch, outline, bright, inner, count);
  if (!profile) return null;
  const { shape } = profile;
  const fit = fittedProfile(
    shape,
    inner,
    radiusPx,
    kind,
    known.throughMiddle,
    profile.clipped ? usualFloor : floorFor(profile, known.openBeam),
    profile.clipped
  );
  const [r] = fit.parameters;
  const from = fit.covariance ? Math.sqrt(Math.max(0, fit.covariance[0][0])) : NaN;
  const rms = fit.rms * profileNoise;
  return {
    radiusPx: r,
    uncertaintyPx: Math.hypot(profile.clipped ? clippedPx : modelPx, Number.isFinite(from) ? from : 0.5),
    rms,
    converged: fit.converged && Math.abs(r - radiusPx) < 2.5
  };
}

interface Profile {
  shape: Float64Array;
  step: number;
  plateau: number;
  /** The inside is all of one value: the detector's range ended before the marker's own grey. */
  clipped: boolean;
}

/** The median profile from inside to outside, 1 inside and 0 well outside. */
function profileOf(
  patch: Patch,
  outline: Outline,
  bright: boolean,
  inner: number,
  count: number
): Profile | null {
  const { center, radiusPx, ovalPx, ovalAngle, offPx } = outline;
  const rays = offPx.length;
  const lines: Float64Array[] = [];
  const room = Math.max(0.6, 3 * outline.residualPx);
  for (let i = 0; i < rays; i++) {
    if (!(Math.abs(offPx[i]) < room)) continue;
    const a = (2 * Math.PI * i) / rays;
    const grow = 1 + (ovalPx * Math.cos(2 * (a - ovalAngle))) / radiusPx;
    const line = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const r = (inner + k * stepPx) * grow;
      line[k] = (bright ? 1 : -1) * valueAt(patch, center.x + r * Math.cos(a), center.y + r * Math.sin(a));
    }
    lines.push(line);
  }
  const flat = Math.max(2, Math.round(Math.min(2.5, radiusPx * 0.3) / stepPx));
  const within = lines.flatMap((line) => [...line.subarray(0, flat)]);
  const inside = medianOf(within);
  const same = within.filter((value) => value === inside).length;
  const scaled = lines.flatMap((line) => {
    const outside = medianOf([...line.subarray(count - 4)]);
    return inside > outside ? [line.map((value) => (value - outside) / (inside - outside))] : [];
  });
  if (scaled.length < 8) return null;
  return {
    shape: Float64Array.from({ length: count }, (_, k) => medianOf(scaled.map((line) => line[k]))),
    step: inside - medianOf(lines.map((line) => medianOf([...line.subarray(count - 4)]))),
    plateau: (bright ? 1 : -1) * inside,
    clipped: same > 0.5 * within.length
  };
}

/** Fine steps of the model, a quarter of those of the profile. */
const fine = 4;
const beyondPx = 12;
/** Weight of what is expected of a parameter against a profile sample: noise of the median profile. */
const profileNoise = 0.012;

/**
 * What the parameters are before the picture has been asked, as natural logarithms where they are factors: spread of
 * focal spot and detector in pixels, floor of scattered rays against what passes beside the marker, ground, height,
 * how much and how widely edges were lifted; each with the standard deviation of what is usual. Flat panels that are
 * processed for looking were the measure; a detector that spreads or lifts much more would need its own.
 */
const usual = {
  spread: { at: Math.log(1.0), sd: 0.25 },
  height: { at: 1, sd: 0.06 },
  ground: { at: 0, sd: 0.04 },
  lift: { at: 0.55, sd: 0.35 },
  liftWidth: { at: Math.log(4.5), sd: 0.3 }
};
/** Where the range ended early, the full step is larger than what is shown of it, nobody knows how much. */
const clippedHeight = { at: 1.4, sd: 0.4 };
const floorSd = 0.3;
const usualFloor = 0.16;
/** What reaches the detector behind an opaque marker is about exp(-2.45) of the open beam: a twelfth, scattered. */
const openToFloor = 2.45;

/**
 * The floor against what passes beside the marker, from how much of the way from the open beam to the marker's own
 * grey the step at its edge is: behind bone less passes, and the same scatter is more of it.
 */
export function floorFor(
  { step, plateau }: { step: number; plateau: number },
  openBeam: number | undefined
): number {
  if (openBeam === undefined || !(Math.abs(plateau - openBeam) > 0)) return usualFloor;
  const share = Math.min(1, Math.max(0.15, step / Math.abs(plateau - openBeam)));
  return 1 / (Math.exp(openToFloor * share) - 1);
}

/** How well the attenuation through the middle is known when the marker's size is, and when it is not. */
const knownSteel = 0.25;
const unknownSteel = 0.8;

/** Parameters: radius, ln k, ln spread, ln floor, height, ground, lift, ln of the lift's width. */
function fittedProfile(
  shape: Float64Array,
  inner: number,
  radiusPx: number,
  kind: 'ball' | 'disc',
  throughMiddle: number | undefined,
  floor0: number,
  clipped: boolean
): FitResult {
  const h = stepPx / fine;
  const low = inner - beyondPx;
  const points = shape.length * fine + Math.round((2 * beyondPx) / h);
  const thin = new Float64Array(points);
  const soft = new Float64Array(points);
  const wide = new Float64Array(points);
  const k0 = {
    at: Math.log(throughMiddle ?? (kind === 'ball' ? 6 : 4)),
    sd: throughMiddle === undefined ? unknownSteel : knownSteel
  };
  const floorLog = { at: Math.log(floor0), sd: floorSd };
  const height0 = clipped ? clippedHeight : usual.height;
  const expected = [k0, usual.spread, floorLog, height0, usual.ground, usual.lift, usual.liftWidth];
  return fitted({
    count: shape.length + expected.length,
    start: [radiusPx + 0.3, ...expected.map(({ at }) => at)],
    steps: [1e-3, 1e-3, 1e-3, 1e-3, 1e-3, 1e-3, 1e-3, 1e-3],
    lower: [radiusPx * 0.7, -1, -1.5, -5, 0.6, -0.4, -0.2, 0.2],
    upper: [radiusPx * 1.3 + 2, 5, 1.4, 1, clipped ? 4 : 1.6, 0.4, 2, 2.3],
    tolerance: 1e-6,
    mostIterations: 60,
    residuals: (p, out) => {
      const [r, lnK, lnSpread, lnFloor, height, ground, lift, lnWidth] = p;
      const k = Math.exp(lnK);
      const spread = Math.exp(lnSpread);
      const floor = Math.exp(lnFloor);
      // Spreading a disc pulls its edge in by spread^2 / 2r compared with a straight edge.
      const pull = (spread * spread) / (2 * Math.max(r, 2));
      for (let i = 0; i < points; i++) {
        const rho = Math.abs(low + i * h + pull);
        const chord = rho >= r ? 0 : kind === 'ball' ? Math.sqrt(1 - (rho / r) ** 2) : 1;
        thin[i] = Math.exp(-k * chord);
      }
      spreadOut(thin, soft, spread / h);
      for (let i = 0; i < points; i++) soft[i] = -Math.log((soft[i] + floor) / (1 + floor));
      spreadOut(soft, wide, Math.exp(lnWidth) / h);
      const top = Math.log((1 + floor) / (Math.exp(-k) + floor));
      for (let i = 0; i < shape.length; i++) {
        const at = Math.round(beyondPx / h) + i * fine;
        const value = (soft[at] + lift * (soft[at] - wide[at])) / top;
        const shown = ground + height * value;
        out[i] = ((clipped ? Math.min(1, shown) : shown) - shape[i]) / profileNoise;
      }
      for (let i = 0; i < expected.length; i++)
        out[shape.length + i] = (p[i + 1] - expected[i].at) / expected[i].sd;
    }
  });
}

/** A Gaussian by three running means; ends continued. */
function spreadOut(from: Float64Array, to: Float64Array, sigma: number): void {
  to.set(from);
  const width = Math.sqrt(4 * sigma * sigma + 1);
  for (let pass = 0; pass < 3; pass++) meanOver(to, (width - 1) / 2);
}

/** Mean over -r to r, r not whole: the two outermost samples count for their share, so that it is smooth in r. */
function meanOver(line: Float64Array, r: number): void {
  const whole = Math.floor(r);
  const part = r - whole;
  const n = line.length;
  const before = line.slice();
  const value = (i: number) => before[i < 0 ? 0 : i >= n ? n - 1 : i];
  let sum = 0;
  for (let i = -whole; i <= whole; i++) sum += value(i);
  for (let i = 0; i < n; i++) {
    line[i] = (sum + part * (value(i - whole - 1) + value(i + whole + 1))) / (2 * r + 1);
    sum += value(i + whole + 1) - value(i - whole);
  }
}
