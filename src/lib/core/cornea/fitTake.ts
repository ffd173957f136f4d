import { medianOf } from '../measurement/fit/linear';
import { basisOf } from './basis';
import { NormalEquations } from './normalEquations';
import { arrivesAt, rayThrough } from './reflection';
import { type FoundRings, mirroredRadiusPx, ringPoints } from './rings';
import { type Surface, SurfaceReader } from './surface';
import type { RingTarget } from './target';

/** What the instrument's range finder said of one take: z of the cornea on the camera's axis, from its nominal place. */
export interface Range {
  mm: number;
  /** Standard uncertainty. */
  uncertaintyMm: number;
}

/** Where nothing was said: the eye is somewhere within the depth of focus. */
export const unknownRange: Range = { mm: 0, uncertaintyMm: 0.15 };

/** One ring edge on the surface, as fitted. */
export interface EdgeOnSurface {
  edge: number;
  meridian: number;
  x: number;
  y: number;
  /** How far the surface's slope would have to turn to meet the edge, as a height over the ring spacing, micrometres. */
  residualUm: number;
  used: boolean;
}

export interface TakeFit {
  surface: Surface;
  edges: EdgeOnSurface[];
  /** Of the edges that were used. */
  rmsUm: number;
  iterations: number;
  converged: boolean;
  because: 'settled' | 'most iterations done' | 'not determined';
  range: Range;
  /** For a point of the surface: how its height changes with the range, from which uncertainty follows. */
  normal: NormalEquations;
}

/** Coefficients that change by less than this have settled: a twentieth of a micrometre. */
const settledMm = 5e-5;
const degrees = [4, 8, 11];
const roundsEach = [3, 2, 6];
/** Coarse stages look at few meridians; the last at enough for its terms. */
const everyMeridian = [16, 8, 4];
/** Edges this many times the ordinary scatter off count for nothing. */
const outlying = 5;

/**
 * The surface of one take in the room's axes, fitted to all ring edges by the law of reflection: from a sphere of the
 * size that the rings tell, by Gauss' and Newton's steps, finer at each stage; edges that do not belong lose their
 * weight (Tukey's). The range fixes how far the eye was.
 */
export function fitTake(rings: FoundRings, target: RingTarget, range: Range = unknownRange): TakeFit {
  const found = ringPoints(rings).map(({ edge, meridian, image }) => ({
    edge,
    meridian,
    ray: rayThrough(target, image),
    z: NaN
  }));
  const sphere = startingSphere(rings, target, range);
  const middle = rayThrough(target, rings.center);
  const away = found.map(({ ray }) => Math.hypot(ray.x - middle.x, ray.y - middle.y));
  // Beyond what nearly all edges reach there is only what was mistaken for one.
  const reachMm = 1.04 * [...away].sort((p, q) => p - q)[Math.floor((away.length - 1) * 0.985)];
  const points = found.filter((_, i) => away[i] < reachMm * 0.995);
  let surface: Surface = {
    sphere,
    basis: basisOf(degrees[0]),
    middle,
    reachMm,
    coefficients: new Float64Array(basisOf(degrees[0]).count)
  };
  let iterations = 0;
  let because: TakeFit['because'] = 'most iterations done';
  let normal = new NormalEquations(surface.basis.count);
  for (const [stage, degree] of degrees.entries()) {
    surface = widened(surface, degree);
    const part = points.filter(({ meridian }) => meridian % everyMeridian[stage] === 0);
    for (let round = 0; round < roundsEach[stage]; round++) {
      iterations++;
      const step = gaussNewton(part, surface, target, range, stage + round > 0);
      normal = step.normal;
      if (!step.change) {
        because = 'not determined';
        break;
      }
      let most = 0;
      for (let k = 0; k < surface.coefficients.length; k++) {
        surface.coefficients[k] += step.change[k];
        most = Math.max(most, Math.abs(step.change[k]));
      }
      if (stage === degrees.length - 1 && most < settledMm) {
        because = 'settled';
        break;
      }
    }
    if (because === 'not determined') break;
  }
  const edges = gaussNewton(points, surface, target, range, true, false).edges;
  const used = edges.filter((edge) => edge.used);
  const rmsUm = Math.sqrt(
    used.reduce((sum, { residualUm }) => sum + residualUm ** 2, 0) / Math.max(1, used.length)
  );
  return { surface, edges, rmsUm, iterations, converged: because === 'settled', because, range, normal };
}

/** Radius from how large the inner rings are; centre on the ray through the rings' centre. */
function startingSphere(rings: FoundRings, target: RingTarget, range: Range): Surface['sphere'] {
  const ratios: number[] = [];
  for (let edge = 2; edge < 14; edge++) {
    const seen = [...rings.radii[edge]].filter((r) => !Number.isNaN(r));
    if (seen.length > 20) ratios.push(medianOf(seen) / mirroredRadiusPx(target, edge));
  }
  const radiusMm = Math.min(11, Math.max(4.5, 7.8 * medianOf(ratios.length > 0 ? ratios : [1])));
  const { x, y } = rayThrough(target, rings.center);
  const length = Math.hypot(x, y, target.cameraMm);
  const grow = radiusMm / length;
  // The centre lies behind the surface along the ray; the axis then meets the sphere at the range.
  const cx = x + x * grow;
  const cy = y + y * grow;
  const z = range.mm + Math.sqrt(Math.max(0, radiusMm ** 2 - cx * cx - cy * cy));
  return { x: cx, y: cy, z, radiusMm };
}

function widened(surface: Surface, degree: number): Surface {
  const basis = basisOf(degree);
  const coefficients = new Float64Array(basis.count);
  // Terms are ordered by degree, so the coarser ones keep their places.
  coefficients.set(surface.coefficients);
  return { ...surface, basis, coefficients };
}

function gaussNewton(
  points: { edge: number; meridian: number; ray: { x: number; y: number }; z: number }[],
  surface: Surface,
  target: RingTarget,
  range: Range,
  robust: boolean,
  solve = true
): { change: Float64Array | null; edges: EdgeOnSurface[]; normal: NormalEquations } {
  const reader = new SurfaceReader(surface);
  const { cameraMm } = target;
  const n = surface.basis.count;
  const { reachMm } = surface;
  const rows = points.map((point) => {
    const { edge, meridian, ray } = point;
    const on = meets(reader, ray, cameraMm, point.z);
    point.z = on.z;
    const { radiusMm, depthMm } = target.edges[edge];
    const miss = arrivesAt(cameraMm, depthMm, on.x, on.y, on.z, on.zx, on.zy, -1) - radiusMm;
    return { edge, meridian, on, miss };
  });
  const scatter = robust
    ? Math.max(0.02, 1.4826 * medianOf(sampled(rows.map(({ miss }) => Math.abs(miss)))))
    : Infinity;
  const normal = new NormalEquations(n);
  const row = new Float64Array(n);
  const edges: EdgeOnSurface[] = [];
  const h = 1e-5;
  for (const { edge, meridian, on, miss } of rows) {
    const { radiusMm, depthMm } = target.edges[edge];
    const { x, y, z, zx, zy } = on;
    const arrives = (dz: number, dx: number, dy: number) => {
      const s = (z + dz + cameraMm) / (z + cameraMm);
      return arrivesAt(cameraMm, depthMm, x * s, y * s, z + dz, zx + dx, zy + dy, -1) - radiusMm;
    };
    const byX = (arrives(0, h, 0) - miss) / h;
    const byY = (arrives(0, 0, h) - miss) / h;
    const slopes = Math.hypot(byX, byY);
    const share = robust ? miss / (outlying * scatter) : 0;
    const weight = Math.abs(share) < 1 ? (1 - share * share) ** 2 : 0;
    // What the slope is off, times a quarter of a millimetre, which is about a ring's width.
    edges.push({
      edge,
      meridian,
      x,
      y,
      residualUm: (1000 * 0.25 * miss) / Math.max(1e-6, slopes),
      used: weight > 0 && Number.isFinite(miss)
    });
    if (!solve || !(weight > 0) || !Number.isFinite(miss)) continue;
    const byZ = (arrives(h, 0, 0) - miss) / h;
    reader.at(x, y);
    const { value, du, dv } = reader.room;
    for (let k = 0; k < n; k++) row[k] = byZ * value[k] + (byX * du[k] + byY * dv[k]) / reachMm;
    normal.add(row, -miss, weight / missVariance);
  }
  const apex = reader.at(0, 0);
  row.set(reader.room.value);
  // Edges share what is left of their faults, so even thousands of them tell the distance worse than the range does.
  normal.add(row, range.mm - apex.z, 1 / apexHeldMm ** 2);
  surface.basis.terms.forEach(([i, j], k) => {
    const order = i + j;
    if (order > 2) normal.hold(k, -surface.coefficients[k], (order / 40) ** 4 / 1e-5);
  });
  return { change: solve ? normal.step() : null, edges, normal };
}

/** The surface is held to the range this closely. */
const apexHeldMm = 1e-5;

/** Variance of where rays arrive on the target, mm squared: a hundredth of an edge's spacing there, about 0.02 mm. */
const missVariance = 0.02 ** 2;

const sampled = (values: number[]): number[] =>
  values.filter((value, i) => i % 7 === 0 && Number.isFinite(value));

/** Where the ray from the camera meets the surface: x and y grow with z along it. */
export function meets(reader: SurfaceReader, ray: { x: number; y: number }, cameraMm: number, start = NaN) {
  let z = Number.isNaN(start) ? 0 : start;
  let point = { z: 0, zx: 0, zy: 0 };
  for (let i = 0; i < 12; i++) {
    const s = 1 + z / cameraMm;
    point = reader.at(ray.x * s, ray.y * s);
    const off = z - point.z;
    const slope = 1 - (point.zx * ray.x + point.zy * ray.y) / cameraMm;
    z -= off / slope;
    if (Math.abs(off) < 1e-8) break;
  }
  const s = 1 + z / cameraMm;
  return { x: ray.x * s, y: ray.y * s, ...point, z };
}
