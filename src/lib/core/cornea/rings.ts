import type { Point } from '../raster/orientation';
import type { Raster } from '../raster/raster';
import { medianOf } from '../measurement/fit/linear';
import type { RingTarget } from './target';

/** What was found of the rings in one picture. */
export interface FoundRings {
  center: Point;
  meridians: number;
  /**
   * For each edge of the target, then each meridian (at angle 2 pi i / meridians from x towards y): its distance from
   * the centre in pixels; NaN where it was not seen.
   */
  radii: Float64Array[];
  /** Median step across the edges found, in greys of 0 to 255. */
  contrast: number;
  /** The same along each of eight ways, from the rows clockwise by 22.5 degrees: an eye that moved blurs some of them. */
  contrastByWay: number[];
  /** Median width over which an edge rises, in pixels: small is sharp. */
  widthPx: number;
}

export type RingsOutcome = { outcome: 'found'; rings: FoundRings } | { outcome: 'none'; because: string };

const meridians = 256;
const ways = 8;
const stepPx = 0.5;
/** An edge may lie this share of the spacing off where its neighbours expect it. */
const offShare = 0.42;
/** Least step across an edge against the picture's own noise. */
const leastStep = 9;
/** Share of a ring's own step that an edge of the innermost ring has at least. */
const clearShare = 0.4;
/** A step fainter than this share of the ring edge's before, over its meridians, is skin or iris. */
const faintShare = 0.2;
/** From here on a grey may have been cut off at the range's end. */
const cutOffGrey = 251;
/** Rings of the flattest corneas are this much wider than ordinary ones'. */
const outermostOverUsual = 1.6;
/** Slopes (Sobel's, eight times the step of a pixel) below this are iris and skin. */
const leastSlope = 160;

/**
 * Centre and ring edges of a ring picture: the centre is where the slopes of the inner rings meet; then ring by ring
 * from the inside out, each edge is looked for where the last one, its spacing and its neighbours expect it, with the
 * sign that its number has. What is not there leaves a gap, and never moves the count.
 */
export function ringsIn(raster: Raster, target: RingTarget): RingsOutcome {
  if (raster.channels !== 1) return none('The picture has colours; the instrument’s are grey.');
  const { width, height } = raster;
  if (width !== target.width || height !== target.height)
    return none(
      `The picture is ${width} x ${height} pixels and the instrument’s are ${target.width} x ${target.height}: it was cropped or resized, or is another’s. Give the one the instrument stored.`
    );
  const greys = inGreys(raster);
  const center = centerOf(greys);
  if (!center)
    return none('No rings were found: no eye in the picture, the lid was shut, or it was far out of focus.');
  const first = innermost(greys, center, target);
  if (!first)
    return none(
      'Rings don’t begin where they should: the lid was in the way, or it is another instrument’s picture.'
    );
  return followed(greys, first.center, first.radii, target);
}

const none = (because: string): RingsOutcome => ({ outcome: 'none', because });

interface Greys {
  width: number;
  height: number;
  data: Float32Array;
}

/** In greys of 0 to 255, whatever the picture's depth: what limits are told in. */
function inGreys({ width, height, bitsStored, data }: Raster): Greys {
  const greys = new Float32Array(data.length);
  const by = 2 ** (8 - bitsStored);
  for (let i = 0; i < data.length; i++) greys[i] = data[i] * by;
  return { width, height, data: greys };
}

function sampleAt({ width, height, data }: Greys, x: number, y: number): number {
  const px = x - 0.5;
  const py = y - 0.5;
  const ix = Math.floor(px);
  const iy = Math.floor(py);
  if (ix < 0 || iy < 0 || ix >= width - 1 || iy >= height - 1) return NaN;
  const u = px - ix;
  const v = py - iy;
  const at = iy * width + ix;
  const above = data[at] + (data[at + 1] - data[at]) * u;
  const below = data[at + width] + (data[at + width + 1] - data[at + width]) * u;
  return above + (below - above) * v;
}

/** Where the lines along strong slopes meet, by least squares with ever less weight for those that miss. */
function centerOf(greys: Greys): Point | null {
  const { width, height, data } = greys;
  const reach = Math.round(Math.min(width, height) * 0.3);
  const [mx, my] = [width >> 1, height >> 1];
  // Four numbers a line: a place, and the direction across the slope there.
  const lines: number[] = [];
  for (let y = Math.max(2, my - reach); y < Math.min(height - 2, my + reach); y += 4) {
    for (let x = Math.max(2, mx - reach); x < Math.min(width - 2, mx + reach); x += 4) {
      const at = y * width + x;
      const [up, down] = [at - width, at + width];
      const gx =
        2 * (data[at + 1] - data[at - 1]) + data[up + 1] - data[up - 1] + data[down + 1] - data[down - 1];
      const gy = 2 * (data[down] - data[up]) + data[down + 1] - data[up + 1] + data[down - 1] - data[up - 1];
      const squared = gx * gx + gy * gy;
      if (squared < leastSlope ** 2) continue;
      const slope = Math.sqrt(squared);
      lines.push(x + 0.5, y + 0.5, -gy / slope, gx / slope);
    }
  }
  const count = lines.length / 4;
  if (count < 60) return null;
  let center = { x: mx, y: my };
  for (let round = 0; round < 12; round++) {
    const scale = Math.max(3, 60 * 0.65 ** round);
    // Outer rings of an uneven cornea have other centres: the inner ones decide in the end.
    const reachPx = Math.max(70, 400 * 0.75 ** round);
    let [a, b, c, p, q] = [0, 0, 0, 0, 0];
    for (let k = 0; k < lines.length; k += 4) {
      const [x, y, nx, ny] = [lines[k], lines[k + 1], lines[k + 2], lines[k + 3]];
      const [dx, dy] = [x - center.x, y - center.y];
      const off = nx * dx + ny * dy;
      const away = (dx * dx + dy * dy) / reachPx ** 2;
      const w = 1 / ((1 + (off / scale) ** 2) * (1 + away * away));
      const along = nx * x + ny * y;
      a += w * nx * nx;
      b += w * nx * ny;
      c += w * ny * ny;
      p += w * nx * along;
      q += w * ny * along;
    }
    const det = a * c - b * b;
    if (!(det > 1e-9)) return null;
    center = { x: (c * p - b * q) / det, y: (a * q - b * p) / det };
  }
  if (center.x < 20 || center.y < 20 || center.x > width - 20 || center.y > height - 20) return null;
  let agreeing = 0;
  for (let k = 0; k < lines.length; k += 4) {
    const [dx, dy] = [lines[k] - center.x, lines[k + 1] - center.y];
    if (Math.abs(lines[k + 2] * dx + lines[k + 3] * dy) < 4 + 0.08 * Math.sqrt(dx * dx + dy * dy)) agreeing++;
  }
  return agreeing > 0.35 * count ? center : null;
}

/**
 * The two edges of the innermost ring: dark inside, bright, dark again. Its radius for an ordinary cornea follows from
 * the target (a mirror of 7.8 mm halves angles), and half and twice of it are allowed.
 */
function innermost(
  greys: Greys,
  start: Point,
  target: RingTarget
): { center: Point; radii: [Float64Array, Float64Array] } | null {
  const expected = mirroredRadiusPx(target, 0);
  let center = start;
  for (let round = 0; round < 3; round++) {
    const inner = new Float64Array(meridians).fill(NaN);
    const outer = new Float64Array(meridians).fill(NaN);
    const lines = Array.from({ length: meridians }, (_, m) =>
      edgesAlong(greys, center, (2 * Math.PI * m) / meridians, Math.max(2, expected * 0.35), expected * 2.2)
    );
    // The pupil's edge and specks in the dark middle rise too, but less.
    const clear = clearShare * medianOf(lines.map((edges) => Math.max(0, ...edges.map(({ step }) => step))));
    const isRise = ({ rising, step }: Edge) => rising && step > clear;
    const middle = medianOf(lines.flatMap((edges) => edges.find(isRise)?.r ?? []));
    lines.forEach((edges, m) => {
      const rise = edges.findIndex((edge) => isRise(edge) && Math.abs(edge.r - middle) < 0.3 * middle);
      if (rise < 0) return;
      inner[m] = edges[rise].r;
      const fall = edges.slice(rise).find(({ rising }) => !rising);
      if (fall) outer[m] = fall.r;
    });
    const seen = inner.filter((r) => !Number.isNaN(r)).length;
    if (seen < meridians * 0.45) return null;
    if (round === 2) return { center, radii: [inner, outer] };
    let [dx, dy, n] = [0, 0, 0];
    inner.forEach((r, m) => {
      const other = inner[(m + meridians / 2) % meridians];
      if (Number.isNaN(r) || Number.isNaN(other)) return;
      const a = (2 * Math.PI * m) / meridians;
      dx += (r - other) * Math.cos(a);
      dy += (r - other) * Math.sin(a);
      n++;
    });
    if (n > 20) center = { x: center.x + dx / n, y: center.y + dy / n };
  }
  return null;
}

/** Where an edge is seen in an ordinary cornea of 7.8 mm, in pixels from the centre; by the mirror equation, small angles. */
export function mirroredRadiusPx({ edges, pxPerMm }: RingTarget, edge: number, radiusMm = 7.8): number {
  const { radiusMm: r, depthMm } = edges[edge];
  const angle = Math.atan2(r, depthMm + radiusMm / 2) / 2;
  return radiusMm * Math.sin(angle) * pxPerMm;
}

interface Edge {
  r: number;
  rising: boolean;
  step: number;
  width: number;
}

/**
 * Every edge along a meridian from a to b: where the slope peaks, at half height between the plateaus on both sides. On
 * the white of the eye the bright one may be cut off at the end of the range: then the last whole step tells its height.
 */
function edgesAlong(greys: Greys, center: Point, angle: number, from: number, to: number): Edge[] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const count = Math.ceil((to - from) / stepPx) + 1;
  const line = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const r = from + i * stepPx;
    line[i] = sampleAt(greys, center.x + r * c, center.y + r * s);
  }
  // A rising edge is higher than a falling one where the ground brightens, so each goes by its own kind.
  const wholeStep = { rising: 0, falling: 0 };
  const out: Edge[] = [];
  for (let i = 2; i < count - 2; i++) {
    const slope = line[i + 1] - line[i - 1];
    const size = Math.abs(slope);
    if (!(size > 2)) continue;
    if (size < Math.abs(line[i + 2] - line[i]) || size <= Math.abs(line[i] - line[i - 2])) continue;
    const sign = Math.sign(slope);
    let low = i;
    while (low > 0 && low > i - 8 && sign * (line[low] - line[low - 1]) > 0) low--;
    let high = i;
    while (high < count - 1 && high < i + 8 && sign * (line[high + 1] - line[high]) > 0) high++;
    let step = sign * (line[high] - line[low]);
    if (!(step > leastStep)) continue;
    const [dark, bright] = [Math.min(line[low], line[high]), Math.max(line[low], line[high])];
    const kind = sign > 0 ? 'rising' : 'falling';
    if (bright < cutOffGrey) wholeStep[kind] = step;
    else step = Math.min(1.8 * step, Math.max(step, wholeStep[kind]));
    const level = dark + step / 2;
    let k = low;
    while (k < high && sign * (line[k + 1] - level) < 0) k++;
    const r = from + (k + (level - line[k]) / (line[k + 1] - line[k])) * stepPx;
    out.push({ r, rising: sign > 0, step, width: (step / size) * 2 * stepPx });
  }
  return out;
}

function followed(
  greys: Greys,
  center: Point,
  first: [Float64Array, Float64Array],
  target: RingTarget
): RingsOutcome {
  const edges = target.edges.length;
  const usual = Array.from({ length: edges }, (_, k) => mirroredRadiusPx(target, k));
  const reach = Math.min(outermostOverUsual * usual[edges - 1], Math.hypot(greys.width, greys.height) / 2);
  const all = Array.from({ length: meridians }, (_, m) =>
    edgesAlong(greys, center, (2 * Math.PI * m) / meridians, 3, reach)
  );
  /** The first edge of each meridian that lies beyond the ring edge found last. */
  const ahead = new Int32Array(meridians);
  const radii: Float64Array[] = [first[0], first[1]];
  const steps: number[] = [];
  const widths: number[] = [];
  const stepsByWay = Array.from({ length: ways }, (): number[] => []);
  // Where each edge is, or where it would be: what the next one is expected from.
  let before = filled(first[0], null, 1);
  let lastSteps: number[] = [];
  let last = filled(first[1], before, usual[1] / usual[0]);
  for (let k = 2; k < edges; k++) {
    const found = new Float64Array(meridians).fill(NaN);
    const expected = new Float64Array(meridians);
    const faintest = faintShare * medianOf(lastSteps);
    const ownSteps: number[] = [];
    const grows = (usual[k] - usual[k - 1]) / (usual[k - 1] - usual[k - 2]);
    for (let m = 0; m < meridians; m++) {
      const spacing = (last[m] - before[m]) * grows;
      expected[m] =
        last[m] +
        Math.min(1.6, Math.max(0.6, spacing / (usual[k] - usual[k - 1]))) * (usual[k] - usual[k - 1]);
      const rising = k % 2 === 0;
      let best: Edge | null = null;
      const line = all[m];
      while (ahead[m] < line.length && line[ahead[m]].r < last[m]) ahead[m]++;
      for (let i = ahead[m]; i < line.length && line[i].r < 2 * expected[m] - last[m]; i++) {
        const edge = line[i];
        if (edge.rising !== rising || edge.step < faintest) continue;
        const off = Math.abs(edge.r - expected[m]);
        if (off < offShare * (expected[m] - last[m]) && (!best || off < Math.abs(best.r - expected[m])))
          best = edge;
      }
      if (!best) continue;
      found[m] = best.r;
      steps.push(best.step);
      ownSteps.push(best.step);
      widths.push(best.width);
      stepsByWay[Math.round((m * 2 * ways) / meridians) % ways].push(best.step);
    }
    agreedWithNeighbours(found, expected, last);
    const lost = miscountedOut(found, usual[k] - usual[k - 1]);
    radii.push(found);
    if (ownSteps.length > 0) lastSteps = ownSteps;
    before = last;
    last = filled(found, expected, 1, lost);
    if ([...found].every(Number.isNaN)) {
      while (radii.length < edges) radii.push(new Float64Array(meridians).fill(NaN));
      break;
    }
  }
  const seen = radii.reduce((sum, ring) => sum + ring.filter((r) => !Number.isNaN(r)).length, 0);
  if (seen < 0.12 * edges * meridians)
    return none('Too few rings were seen to tell a surface: the lid, a blink, or no eye in the picture.');
  return {
    outcome: 'found',
    rings: {
      center,
      meridians,
      radii,
      contrast: medianOf(steps),
      contrastByWay: stepsByWay.map(medianOf),
      widthPx: medianOf(widths)
    }
  };
}

/** How far meridians count as beside one another, on each side. */
const besideMeridians = 8;

/**
 * An edge is another thing's when it lies off what the meridians beside it found by a fifth of the spacing more or less
 * than they lie off.
 */
function agreedWithNeighbours(found: Float64Array, expected: Float64Array, last: Float64Array): void {
  const offs = found.map((r, m) => (r - expected[m]) / (expected[m] - last[m]));
  for (let m = 0; m < meridians; m++) {
    if (Number.isNaN(found[m])) continue;
    const near: number[] = [];
    for (let d = -besideMeridians; d <= besideMeridians; d++) {
      const off = offs[(m + d + meridians) % meridians];
      if (d !== 0 && !Number.isNaN(off)) near.push(off);
    }
    if (near.length >= 4 && Math.abs(offs[m] - medianOf(near)) > 0.22) found[m] = NaN;
  }
}

/** A ring runs on from meridian to meridian; where it leaps by this share of the spacing, one side is on another ring. */
const leapShare = 0.7;

/**
 * Takes out what has lost count behind a lash or a break in the tear film: going round, the ring leaps there by whole
 * spacings, and where it is not on the ring that most meridians are on, it is another's.
 * @returns which meridians were taken out
 */
function miscountedOut(found: Float64Array, spacing: number): Uint8Array {
  const out = new Uint8Array(meridians);
  const at = Array.from(found.keys()).filter((m) => !Number.isNaN(found[m]));
  const widest = at.findIndex((m, i) => i > 0 && m - at[i - 1] > bridgedMeridians);
  const round = widest < 0 ? at : [...at.slice(widest), ...at.slice(0, widest)];
  const settle = (stretch: readonly number[], levels: readonly number[]) => {
    const counts = new Map<number, number>();
    for (const level of levels) counts.set(level, (counts.get(level) ?? 0) + 1);
    const own = [...counts].reduce((most, each) => (each[1] > most[1] ? each : most))[0];
    stretch.forEach((m, i) => {
      if (levels[i] !== own) out[m] = 1;
    });
  };
  let [stretch, levels]: [number[], number[]] = [[], []];
  for (const m of round) {
    const before = stretch.at(-1);
    // Over a wide gap nothing can be said: each side is settled on its own.
    if (before !== undefined && (m - before + meridians) % meridians > bridgedMeridians) {
      settle(stretch, levels);
      [stretch, levels] = [[], []];
    }
    const leap = stretch.length > 0 ? (found[m] - found[stretch.at(-1)!]) / spacing : 0;
    levels.push((levels.at(-1) ?? 0) + (Math.abs(leap) < leapShare ? 0 : Math.round(leap)));
    stretch.push(m);
  }
  if (stretch.length > 0) settle(stretch, levels);
  out.forEach((lost, m) => {
    if (lost) found[m] = NaN;
  });
  return out;
}

/** Gaps so narrow are bridged straight from one side to the other; those of meridians that lost count, up to these. */
const bridgedMeridians = 12;
const bridgedWhereLost = 64;

/**
 * Gaps filled: narrow ones, and those of meridians that lost count, from what was found on both their sides, so that
 * they take up the count again; others from the expectation, shifted by how far the nearest found ones lie off theirs.
 */
function filled(
  found: Float64Array,
  expected: Float64Array | null,
  grow: number,
  lost?: Uint8Array
): Float64Array {
  const out = found.slice();
  for (let m = 0; m < meridians; m++) {
    if (!Number.isNaN(found[m])) continue;
    const [back, ahead] = [toNext(found, m, -1), toNext(found, m, 1)];
    const nearest = Math.min(back, ahead);
    const own = expected ? expected[m] * grow : 0;
    if (nearest === Infinity) {
      out[m] = own;
      continue;
    }
    const [before, after] = [(m - back + meridians) % meridians, (m + ahead) % meridians];
    if (back + ahead <= (lost?.[m] ? bridgedWhereLost : bridgedMeridians)) {
      out[m] = (found[before] * ahead + found[after] * back) / (back + ahead);
      continue;
    }
    const near = [before, after].filter((_, i) => [back, ahead][i] === nearest);
    const shift =
      near.reduce((sum, i) => sum + (found[i] - (expected ? expected[i] * grow : 0)), 0) / near.length;
    out[m] = own + shift * (expected ? Math.exp(-nearest / 24) : 1);
  }
  return out;
}

/** Meridians from m to the next that was found, on one side; Infinity where none is within half a turn. */
function toNext(found: Float64Array, m: number, side: 1 | -1): number {
  for (let d = 1; d <= meridians / 2; d++)
    if (!Number.isNaN(found[(m + side * d + meridians) % meridians])) return d;
  return Infinity;
}

/** Image points of every edge that was seen. */
export function ringPoints({
  center,
  radii,
  meridians: count
}: FoundRings): { edge: number; meridian: number; image: Point }[] {
  return radii.flatMap((ring, edge) =>
    Array.from(ring).flatMap((r, meridian) => {
      if (Number.isNaN(r)) return [];
      const a = (2 * Math.PI * meridian) / count;
      return [{ edge, meridian, image: { x: center.x + r * Math.cos(a), y: center.y + r * Math.sin(a) } }];
    })
  );
}
