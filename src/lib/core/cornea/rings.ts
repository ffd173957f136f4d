import type { Point } from '../raster/orientation';
import type { Patch } from '../raster/patch';
import type { Raster } from '../raster/raster';
import { medianOf } from '../measurement/fit/linear';
import { centerOf, innermost } from './ringCenter';
import { agreedWithNeighbours, filled, miscountedOut } from './ringCount';
import { type Edge, edgesAlong, inGreys, meridians } from './ringEdges';
import { type RingTarget, mirroredRadiusPx } from './target';

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

const ways = 8;
/** An edge may lie this share of the spacing off where its neighbours expect it. */
const offShare = 0.42;
/** A step fainter than this share of the ring edge's before, over its meridians, is skin or iris. */
const faintShare = 0.2;
/** Rings of the flattest corneas are this much wider than ordinary ones'. */
const outermostOverUsual = 1.6;

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

function followed(
  greys: Patch,
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
    const faintest = lastSteps.length === 0 ? 0 : faintShare * medianOf(lastSteps);
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
