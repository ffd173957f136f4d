/** A round thing that takes rays away, and how its image is spread. */
export interface Spread {
  kind: 'ball' | 'disc';
  radiusPx: number;
  spreadPx: number;
  /** Share of the rays that are spread twice as wide: no detector's spread is quite a Gaussian. */
  skirt: number;
  /** Attenuation through its middle, natural logarithm. */
  depth: number;
}

/** Contributions further than this many spreads away are below a part in a hundred thousand. */
const reach = 5;
const skirtTimes = 2;

/** Places on a radius at which a thing's loss is asked, from its rim inwards: as many whatever its size, so that all is smooth. */
export interface RadialGrid {
  stepPx: number;
  count: number;
  places: Float64Array;
  roots: Float64Array;
  losses: Float64Array;
}

export function radialGrid(fromPx: number, toPx: number, stepPx: number): RadialGrid {
  const count = Math.ceil((toPx - fromPx) / stepPx);
  const empty = () => new Float64Array(count);
  return { stepPx, count, places: empty(), roots: empty(), losses: empty() };
}

/**
 * Share of the rays that is lost at distances from the middle, spread by a round Gaussian: the integral over t of
 * E(t) t / s^2 exp(-(rho^2 + t^2) / 2 s^2) I0(rho t / s^2), with E(t) = 1 - exp(-k chord(t)). Exact for small things too,
 * where the outline's bend counts.
 * @param distances whole steps of the grid apart
 */
export function spreadTo(out: Float64Array, distances: Float64Array, spread: Spread, grid: RadialGrid): void {
  const { kind, radiusPx, spreadPx, depth, skirt } = spread;
  const { stepPx: h, count, places, roots, losses } = grid;
  const full = 1 - Math.exp(-depth);
  for (let j = 0; j < count; j++) {
    const t = radiusPx - (j + 0.5) * h;
    places[j] = t;
    roots[j] = Math.sqrt(Math.max(0, t));
    losses[j] = t <= 0 ? 0 : (kind === 'disc' ? full : lostOver(t, h, radiusPx, depth, j)) * h;
  }
  out.fill(0);
  added(out, distances, radiusPx, spreadPx, 1 - skirt, grid);
  if (skirt > 0.004) added(out, distances, radiusPx, skirtTimes * spreadPx, skirt, grid);
}

/** Nearer to the middle than this many spreads the outline's bend needs the Bessel function itself. */
const nearMiddle = 4.5;

function added(
  out: Float64Array,
  distances: Float64Array,
  radiusPx: number,
  spreadPx: number,
  weight: number,
  { stepPx: h, count, places, roots, losses }: RadialGrid
): void {
  const s2 = spreadPx * spreadPx;
  const norm = 1 / (spreadPx * Math.sqrt(2 * Math.PI));
  // Distances lie whole steps apart, so that one table of the Gaussian serves all of them.
  const side = Math.ceil((reach * spreadPx) / h) + 1;
  const first0 = (radiusPx - distances[0]) / h - 0.5;
  const nearest0 = Math.round(first0);
  const table = new Float64Array(2 * side + 1);
  for (let m = -side; m <= side; m++)
    table[m + side] = Math.exp(-(((m + nearest0 - first0) * h) ** 2) / (2 * s2));
  for (let i = 0; i < out.length; i++) {
    const rho = distances[i];
    const nearest = nearest0 - Math.round((rho - distances[0]) / h);
    const first = Math.max(0, nearest - side);
    const last = Math.min(count - 1, nearest + side);
    let sum = 0;
    if (rho < nearMiddle * spreadPx) {
      for (let j = first; j <= last; j++) {
        const t = places[j];
        if (t <= 0) break;
        sum += losses[j] * t * table[j - nearest + side] * scaledBessel((rho * t) / s2);
      }
      out[i] += (weight * sum) / s2;
      continue;
    }
    // exp(-x) I0(x) is (1 + 1 / 8x) / sqrt(2 pi x) for a large x.
    let bend = 0;
    for (let j = first; j <= last; j++) {
      const t = places[j];
      if (t <= 0) break;
      const part = losses[j] * table[j - nearest + side];
      const root = roots[j];
      sum += part * root;
      bend += part / root;
    }
    out[i] += (weight * norm * (sum + (s2 / (8 * rho)) * bend)) / Math.sqrt(rho);
  }
}

/** The mean loss over one step; at the rim, where it rises as a root, of several places. */
function lostOver(t: number, h: number, r: number, depth: number, j: number): number {
  if (j > 2) return 1 - Math.exp(-depth * Math.sqrt(Math.max(0, 1 - (t / r) ** 2)));
  let sum = 0;
  for (let k = 0; k < 6; k++) {
    const at = t + ((k + 0.5) / 6 - 0.5) * h;
    sum += 1 - Math.exp(-depth * Math.sqrt(Math.max(0, 1 - (at / r) ** 2)));
  }
  return sum / 6;
}

/** Widths that rows of weights are made for lie so far apart, as a logarithm. */
const widthStep = 0.05;

/**
 * Round means of profiles over a Gaussian of any width: of rows of weights that are made once, the two of the nearest
 * widths, each as near as it is.
 * @param distances evenly spaced, in pixels from the middle
 * @returns what writes the means over a width, given as a logarithm, into `out`
 */
export function roundMeansAt(
  distances: Float64Array
): (out: Float64Array, profile: Float64Array, logWidth: number) => void {
  const n = distances.length;
  const made = new Map<number, Float64Array>();
  const rowsOf = (place: number) => {
    const rows = made.get(place) ?? roundMeans(distances, Math.exp(place * widthStep));
    made.set(place, rows);
    return rows;
  };
  return (out, profile, logWidth) => {
    const place = Math.floor(logWidth / widthStep);
    const share = logWidth / widthStep - place;
    const narrower = rowsOf(place);
    const wider = rowsOf(place + 1);
    for (let i = 0, at = 0; i < n; i++) {
      let less = 0;
      let more = 0;
      for (let k = 0; k < n; k++, at++) {
        less += narrower[at] * profile[k];
        more += wider[at] * profile[k];
      }
      out[i] = less + share * (more - less);
    }
  };
}

/** Weights of all samples for the mean at each, row by row; beyond its ends a profile goes on as it is. */
function roundMeans(distances: Float64Array, widthPx: number): Float64Array {
  const n = distances.length;
  const h = distances[1] - distances[0];
  const s2 = widthPx * widthPx;
  const beyond = Math.ceil((3 * widthPx) / h);
  const before = Math.min(beyond, Math.floor(distances[0] / h - 0.25));
  const rows = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    const row = rows.subarray(i * n, (i + 1) * n);
    const rho = distances[i];
    let sum = 0;
    for (let k = Math.max(-before, i - beyond); k <= i + beyond; k++) {
      const t = distances[0] + k * h;
      const apart = rho - t;
      const weight = t * Math.exp(-(apart * apart) / (2 * s2)) * scaledBessel((rho * t) / s2);
      row[Math.min(n - 1, Math.max(0, k))] += weight;
      sum += weight;
    }
    for (let k = 0; k < n; k++) row[k] /= sum;
  }
  return rows;
}

/** exp(-x) I0(x) for x of 0 and more (Abramowitz and Stegun 9.8.1 and 9.8.2, to 2e-7). */
function scaledBessel(x: number): number {
  if (x > 40) return (0.3989422804 * (1 + 0.125 / x)) / Math.sqrt(x);
  if (x < 3.75) {
    const t = (x / 3.75) ** 2;
    return (
      Math.exp(-x) *
      (1 +
        t *
          (3.5156229 + t * (3.0899424 + t * (1.2067492 + t * (0.2659732 + t * (0.0360768 + t * 0.0045813))))))
    );
  }
  const t = 3.75 / x;
  return (
    (0.39894228 +
      t *
        (0.01328592 +
          t *
            (0.00225319 +
              t *
                (-0.00157565 +
                  t *
                    (0.00916281 +
                      t * (-0.02057706 + t * (0.02635537 + t * (-0.01647633 + t * 0.00392377)))))))) /
    Math.sqrt(x)
  );
}
