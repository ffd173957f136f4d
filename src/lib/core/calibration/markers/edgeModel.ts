import { type FitResult, fitted } from '../../measurement/fit/levenberg';
import type { NoiseCurve } from '../../raster/noise';
import type { Profile } from './edgeProfile';
import type { EdgeKnown } from './edgeSigns';
import { type Spread, radialGrid, roundMeansAt, spreadTo } from './radialSpread';

export interface EdgeFit {
  /** Mean radius of the thing itself, not of where its edge looks steepest. */
  radiusPx: number;
  /** Standard uncertainty of it. */
  uncertaintyPx: number;
  /** Of the profile against the model, as a share of the step. */
  rms: number;
  converged: boolean;
}

/** Least uncertainty claimed for a radius: what the model itself leaves out. */
const modelPx = 0.065;
/** An S of the rays has a bend of its own at either end, which a ball's profile hides: radii vary by so much more there. */
const curvedWider = 1.35;

/** So far from the middle of a disc an edge is as good as straight. */
export const straightPx = 400;

/**
 * The true radius of a ball or disc from its grey profile across the edge, near the distance where it looks steepest.
 * Rays are lost by 1 - exp(-k chord), spread by a round Gaussian with a skirt, joined by scattered ones, and shown by a
 * transfer that nobody is asked for: I^p / (I^p + c^p), which is linear, a root, nearly the logarithm or an S as p and c
 * are. Two things tell of it: the profile's own bend, and noise, which counted rays have by their root, so that at a grey
 * it is as strong as the transfer is steep there. Both ends of the range may cut the profile off, and the maker may have
 * lifted edges. All of it is fitted at once, each with what is usual weighed in as one more observation; what stays open
 * is in the uncertainty.
 */
export function fittedEdge(
  profile: Profile,
  radiusPx: number,
  kind: 'ball' | 'disc',
  known: EdgeKnown
): EdgeFit | null {
  const seen = known.noise ? noiseSeen(profile, known.noise) : [];
  const wish = { profile, noise: seen, radiusPx, kind, known, meansOver: roundMeansAt(profile.distances) };
  const may = known.relationship ? [known.relationship] : (Object.keys(transfers) as Transfer[]);
  // A few steps tell which transfers can be left alone.
  const first = may.map((transfer) => fittedTo(wish, transfer, fewSteps));
  const least = Math.min(...first.map(({ cost }) => cost));
  const tries = first
    .filter(({ cost }) => cost < least + hopeless)
    .map((tried) =>
      tried.fit.converged ? tried : fittedTo(wish, tried.transfer, mostSteps, tried.fit.parameters)
    );
  return weighed(tries, radiusPx);
}

/** Every fit counts by how likely it is; what they differ by is uncertain. */
function weighed(tries: Tried[], seenRadiusPx: number): EdgeFit | null {
  const usable = tries.filter(({ fit }) => fit.covariance);
  if (usable.length === 0) return null;
  const least = Math.min(...usable.map(({ cost }) => cost));
  let weight = 0;
  let sum = 0;
  let squares = 0;
  let wider = 0;
  for (const { fit, cost, variance, transfer } of usable) {
    const w = Math.exp((least - cost) / 2);
    const [r] = fit.parameters;
    weight += w;
    sum += w * r;
    squares += w * (r * r + variance);
    wider += w * (transfer === 'curved' ? curvedWider : 1);
  }
  const best = usable.find(({ cost }) => cost === least)!;
  const radiusPx = sum / weight;
  const spreadPx = Math.exp(best.fit.parameters[at.spread]);
  return {
    radiusPx,
    uncertaintyPx: (wider / weight) * Math.sqrt(Math.max(0, squares / weight - radiusPx ** 2) + modelPx ** 2),
    rms: best.rms,
    converged: Math.abs(radiusPx - seenRadiusPx) < 1 + 2.5 * spreadPx
  };
}

/** Noise at a place between outside (0) and inside (1), as a logarithm. */
interface NoiseSeen {
  share: number;
  log: number;
}

/** What texture and a curve's own scatter leave open, as a logarithm. */
const noiseSd = 0.2;

function noiseSeen(
  { inside, outside, insideNoise, topCut }: Profile,
  { greys, deviations }: NoiseCurve
): NoiseSeen[] {
  const out: NoiseSeen[] = [];
  greys.forEach((grey, i) => {
    const share = (grey - outside) / (inside - outside);
    if (share > -0.6 && share < 0.95) out.push({ share, log: Math.log(deviations[i]) });
  });
  if (insideNoise !== null && !topCut) out.push({ share: 1, log: Math.log(insideNoise) });
  return out;
}

const at = {
  radius: 0,
  spread: 1,
  skirt: 2,
  depth: 3,
  power: 4,
  knee: 5,
  floor: 6,
  ground: 7,
  height: 8,
  lift: 9,
  slope: 10,
  width: 11
} as const;

interface Tried {
  transfer: Transfer;
  fit: FitResult;
  cost: number;
  /** Of the radius. */
  variance: number;
  rms: number;
}

/** Attenuation through the middle when nobody says the metal or the size, and how well it is known when somebody does. */
const usualMiddle = { at: Math.log(5), sd: 0.9 };
const knownMiddleSd = 0.35;
/** A disc lets as much through all over; how much is told by the floor. */
const oneDepth = { at: Math.log(6), sd: 0.05 };

/** What the parameters but the radius are before the picture is asked, each with the standard deviation of what is usual. */
function usual(
  { groundCut, topCut }: Profile,
  { throughMiddle }: EdgeKnown,
  transfer: Transfer,
  kind: 'ball' | 'disc'
) {
  return [
    { at: Math.log(1.1), sd: 0.55 },
    { at: 0.12, sd: 0.12 },
    kind === 'disc'
      ? oneDepth
      : throughMiddle === undefined
        ? usualMiddle
        : { at: Math.log(throughMiddle), sd: knownMiddleSd },
    transfers[transfer].power,
    transfers[transfer].knee,
    { at: Math.log(0.12), sd: 0.85 },
    groundCut ? { at: -0.05, sd: 0.15 } : { at: 0, sd: 0.03 },
    topCut ? { at: 1.25, sd: 0.35 } : { at: 1, sd: 0.06 },
    { at: 0.15, sd: 0.35 },
    { at: 0, sd: 0.006 },
    { at: Math.log(3.5), sd: 0.6 }
  ];
}

/** What makers do: leave the rays as they are, take their root, nearly the logarithm, or an S of it. */
const transfers = {
  linear: { power: { at: 1, sd: 0.08 }, knee: { at: 2.2, sd: 0.6 } },
  root: { power: { at: 0.5, sd: 0.1 }, knee: { at: 2, sd: 0.8 } },
  logarithmic: { power: { at: 0.12, sd: 0.07 }, knee: { at: 0, sd: 1 } },
  curved: { power: { at: 1.2, sd: 0.35 }, knee: { at: -1, sd: 0.7 } }
} as const;
type Transfer = keyof typeof transfers;

const gridPx = 0.25;
const fewSteps = 6;
const mostSteps = 22;
/** A transfer that costs so much more than another after a few steps does not catch up. */
const hopeless = 30;

interface FitWish {
  profile: Profile;
  noise: readonly NoiseSeen[];
  radiusPx: number;
  kind: 'ball' | 'disc';
  known: EdgeKnown;
  meansOver: ReturnType<typeof roundMeansAt>;
}

function fittedTo(
  { profile, noise, radiusPx, kind, known, meansOver }: FitWish,
  transfer: Transfer,
  mostIterations: number,
  start?: readonly number[]
): Tried {
  const { distances, shape, sigma, topCut, groundCut } = profile;
  const n = shape.length;
  const expected = usual(profile, known, transfer, kind);
  const shown = new Float64Array(n);
  const wide = new Float64Array(n);
  const lostBy = spreads(profile, radiusPx, kind);
  /** The greys of the model, and their noise against what was seen of it. */
  const shownFor = (p: ArrayLike<number>, out: Float64Array, offs: Float64Array): void => {
    const lost = lostBy(p);
    const power = p[at.power];
    const knee = Math.exp(power * p[at.knee]);
    const floor = Math.exp(p[at.floor]);
    const answer = (rays: number) => {
      const raised = rays ** power;
      return raised / (raised + knee);
    };
    const open = answer(1);
    const full = 1 - Math.exp(-Math.exp(p[at.depth]));
    const dark = answer(floor + (1 - floor) * (1 - full));
    const span = open - dark;
    for (let i = 0; i < n; i++)
      shown[i] = (open - answer(floor + (1 - floor) * Math.max(0, 1 - lost[i]))) / span;
    meansOver(wide, shown, p[at.width]);
    for (let i = 0; i < n; i++) {
      const lifted = shown[i] + p[at.lift] * (shown[i] - wide[i]);
      let value = p[at.ground] + p[at.height] * lifted + p[at.slope] * (distances[i] - p[at.radius]);
      if (topCut) value = Math.min(1, value);
      if (groundCut) value = Math.max(0, value);
      out[i] = value;
    }
    let sum = 0;
    for (let i = 0; i < noise.length; i++) {
      const value = Math.min(
        1 - 1e-9,
        Math.max(1e-9, open - (noise[i].share * span) / (topCut ? p[at.height] : 1))
      );
      // ln of T'(I) sqrt(I), from T itself: T' I = p T (1 - T), and ln I = ln(knee T / (1 - T)) / p.
      const rays = Math.log((knee * value) / (1 - value)) / power;
      offs[i] = noise[i].log - Math.log(power * value * (1 - value)) + rays / 2;
      sum += offs[i];
    }
    for (let i = 0; i < noise.length; i++) offs[i] -= sum / noise.length;
  };
  const values = new Float64Array(n);
  const offs = new Float64Array(noise.length);
  const count = n + noise.length + expected.length;
  const fit = fitted({
    count,
    start: start ?? [radiusPx, ...expected.map(({ at: value }) => value)],
    steps: [5e-3, 5e-3, 1e-3, 1e-3, 1e-3, 1e-3, 1e-3, 1e-4, 1e-4, 1e-3, 1e-5, 1e-3],
    lower: [Math.max(radiusPx * 0.6, radiusPx - 12), -1.2, 0, 0.1, 0.06, -3, -5.3, -0.6, 0.6, 0, -0.03, 0.2],
    upper: [
      Math.min(radiusPx * 1.4 + 2, radiusPx + 12),
      1.8,
      0.6,
      3.6,
      1.7,
      3,
      -0.25,
      0.4,
      4,
      2.5,
      0.03,
      2.2
    ],
    tolerance: 1e-4,
    mostIterations,
    residuals: (p, out) => {
      shownFor(p, values, offs);
      for (let i = 0; i < n; i++) out[i] = (values[i] - shape[i]) / sigma[i];
      for (let i = 0; i < noise.length; i++) {
        // Texture makes some greys look noisier than they are: far ones count no more than a little.
        const off = offs[i] / noiseSd;
        out[n + i] = off / Math.sqrt(1 + (off / 4) ** 2);
      }
      for (let i = 0; i < expected.length; i++)
        out[n + noise.length + i] = (p[i + 1] - expected[i].at) / expected[i].sd;
    }
  });
  const cost = fit.rms ** 2 * count;
  const scatter = cost / (count - fit.parameters.length);
  const unit = fit.covariance ? fit.covariance[0][0] / Math.max(1e-12, scatter) : 1;
  shownFor(fit.parameters, values, offs);
  return {
    transfer,
    fit,
    cost: cost / Math.max(1, scatter),
    variance: Math.max(0, unit) * Math.max(1, scatter),
    rms: Math.sqrt(shape.reduce((sum, value, i) => sum + (value - values[i]) ** 2, 0) / n)
  };
}

/** Slopes are asked of each parameter in turn from the same place: of so many spreads the last are kept. */
const keptSpreads = 6;

/** What is lost at the profile's distances, by the parameters that it goes by. */
function spreads({ distances }: Profile, radiusPx: number, kind: 'ball' | 'disc') {
  const grid = radialGrid(
    Math.max(0, distances[0] - 12),
    Math.min(radiusPx * 1.1 + 2, radiusPx + 12),
    gridPx
  );
  const n = distances.length;
  const kept: { of: Spread; lost: Float64Array }[] = [];
  return (p: ArrayLike<number>): Float64Array => {
    const of = {
      kind,
      radiusPx: p[at.radius],
      spreadPx: Math.exp(p[at.spread]),
      skirt: p[at.skirt],
      depth: Math.exp(p[at.depth])
    };
    const place = kept.findIndex((one) => sameSpread(one.of, of));
    const [known] = place < 0 ? [] : kept.splice(place, 1);
    const one = known ?? { of, lost: kept.length < keptSpreads ? new Float64Array(n) : kept.shift()!.lost };
    if (!known) spreadTo(one.lost, distances, of, grid);
    kept.push(one);
    return one.lost;
  };
}

const sameSpread = (a: Spread, b: Spread) =>
  a.radiusPx === b.radiusPx && a.spreadPx === b.spreadPx && a.skirt === b.skirt && a.depth === b.depth;
