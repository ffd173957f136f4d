import { medianOf, rootMeanSquare } from '../measurement/fit/linear';
import { type Progress, type LongWork, finished } from '../longWork';
import { type EdgePlace, arcStep } from './arcStep';
import { NormalEquations } from './normalEquations';
import { type CameraRay, arrival, rayThrough } from './reflection';
import { type FoundRings, ringPoints } from './rings';
import { type Wish, countOf, gridOver, holdSmooth, movedBy, thirdDifferences, touching } from './spline';
import { type Surface, SurfaceReader } from './surface';
import { type RingTarget, mirroredRadiusPx } from './target';

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
  /** How far the arc-step's heights scatter about the fitted surface, micrometres: what the fit was good for. */
  startOffUm: number;
  iterations: number;
  converged: boolean;
  because: 'settled' | 'most iterations done' | 'not determined';
  range: Range;
  /** At the surface: what its coefficients hang on. */
  normal: NormalEquations;
  /** How the coefficients change with the range, per mm. */
  byRange: Float64Array;
}

const cellMm = 0.7;
/** Heights that change by less than this, root mean square, have settled: a twentieth of a micrometre. */
const settledMm = 5e-5;
const mostRounds = 12;
/** The first rounds look at every eighth meridian, the others at every fourth: more tell nothing new. */
const roughRounds = 3;
const roughMeridians = 8;
const fineMeridians = 4;
/**
 * Scatter that is allowed for at least, mm on the target, round by round: wide at first, or a part of the cornea that
 * starts off would be left out for good; never so wide that a ring's neighbour, 3.5 mm on, counts as it.
 */
const leastScatters = [0.6, 0.25, 0.08, 0.04];
/** Edges this many times the ordinary scatter off count for nothing. */
const outlying = 5;
/** The surface is held to the range this closely. */
const apexHeldMm = 1e-5;
/** Standard deviation of where rays arrive on the target: a hundredth of an edge's spacing there. */
const missSd = 0.02;
/** Third differences of the surface's bumps are about this large in steepening corneas; held far looser than data hold them. */
const thirdMm = 0.02;
/** What the arc-step's heights are believed to. */
const startSd = 0.01;

/** A ring edge, the camera's ray to it, and what the last round made of it. */
interface Ray {
  edge: number;
  meridian: number;
  ray: CameraRay;
  /** Where it met the surface. */
  x: number;
  y: number;
  z: number;
  /** How far from its edge it arrived on the target, mm, and how that changes. */
  miss: number;
  byZ: number;
  byZx: number;
  byZy: number;
  weight: number;
}

/**
 * The surface of one take in the room's axes: from the arc-step's heights, by Gauss' and Newton's steps to where all
 * ring edges obey the law of reflection in three dimensions; edges that do not belong lose their weight (Tukey's). The
 * range fixes how far the eye was.
 */
export const fitTake = (
  rings: FoundRings,
  target: RingTarget,
  range: Range = unknownRange,
  told?: (progress: Progress) => void
): TakeFit => finished(fittingTake(rings, target, range), told);

/** As `fitTake`, a round a step. */
export function* fittingTake(
  rings: FoundRings,
  target: RingTarget,
  range: Range = unknownRange
): LongWork<TakeFit> {
  const middle = rayThrough(target, rings.center);
  const found = ringPoints(rings).map(({ edge, meridian, image }): Ray => ({
    edge,
    meridian,
    ray: rayThrough(target, image),
    x: NaN,
    y: NaN,
    z: NaN,
    miss: NaN,
    byZ: NaN,
    byZx: NaN,
    byZy: NaN,
    weight: 0
  }));
  const away = ({ ray }: Ray) => Math.sqrt((ray.x - middle.x) ** 2 + (ray.y - middle.y) ** 2);
  const sorted = Float64Array.from(found, away).sort();
  // Beyond what nearly all edges reach there is only what was mistaken for one.
  const reachMm = 1.04 * sorted[Math.floor((sorted.length - 1) * 0.985)];
  const points = found.filter((point) => away(point) < reachMm * 0.995);
  const grid = gridOver(middle, reachMm, cellMm);
  const wishes = thirdDifferences(grid);
  const surface: Surface = {
    sphere: startingSphere(rings, target, range),
    middle,
    reachMm,
    grid,
    coefficients: new Float64Array(countOf(grid))
  };
  const apexMm = new SurfaceReader(surface).at(middle.x, middle.y).z;
  const start = arcStep(rings, target, apexMm, fineMeridians).filter(
    ({ x, y }) => Math.hypot(x - middle.x, y - middle.y) < reachMm
  );
  layOver(surface, start, wishes);
  let iterations = 0;
  let because: TakeFit['because'] = 'most iterations done';
  const rough = points.filter(({ meridian }) => meridian % roughMeridians === 0);
  const fine = points.filter(({ meridian }) => meridian % fineMeridians === 0);
  let sums: Sums | null = null;
  while (iterations < mostRounds) {
    const rays = iterations < roughRounds ? rough : fine;
    mirrorRays(rays, surface, target, leastScatters[iterations] ?? missSd);
    sums = sumsOf(rays, surface, range, wishes);
    iterations++;
    yield { done: iterations, of: mostRounds };
    const change = sums.normal.step();
    if (!change) {
      because = 'not determined';
      break;
    }
    for (let k = 0; k < change.length; k++) surface.coefficients[k] += change[k];
    const moved = () =>
      movedBy(
        change,
        rays.filter(({ weight }) => weight > 0),
        surface
      );
    if (iterations >= leastScatters.length && moved() < settledMm) {
      because = 'settled';
      break;
    }
  }
  mirrorRays(points, surface, target, missSd);
  const { normal, apexRow } = sums!;
  const edges = points.map(onSurface);
  return {
    surface,
    edges,
    rmsUm: rootMeanSquare(edges.filter(({ used }) => used).map(({ residualUm }) => residualUm)),
    startOffUm: offFrom(start, surface),
    iterations,
    converged: because === 'settled',
    because,
    range,
    normal,
    byRange: normal.solved(apexRow) ?? new Float64Array(surface.coefficients.length)
  };
}

function onSurface({ edge, meridian, x, y, miss, byZx, byZy, weight }: Ray): EdgeOnSurface {
  // What the slope is off, times a quarter of a millimetre, which is about a ring's width.
  const residualUm = (1000 * 0.25 * miss) / Math.max(1e-6, Math.hypot(byZx, byZy));
  return { edge, meridian, x, y, residualUm, used: weight > 0 };
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

/** Gives the surface the heights of places, by least squares; those that then lie far off are left out of a second round. */
function layOver(surface: Surface, places: readonly EdgePlace[], wishes: readonly Wish[]): void {
  const reader = new SurfaceReader(surface);
  let kept = places;
  for (let round = 0; round < 2; round++) {
    const normal = new NormalEquations(surface.coefficients.length);
    for (const { x, y, z } of kept) {
      const off = z - reader.at(x, y).z;
      const { which, value } = reader.bumps();
      normal.add(which, value, touching, off, 1 / startSd ** 2);
    }
    holdSmooth(normal, wishes, surface.coefficients, thirdMm);
    const change = normal.step();
    if (!change) return;
    for (let k = 0; k < change.length; k++) surface.coefficients[k] += change[k];
    const offs = places.map(({ x, y, z }) => Math.abs(z - reader.at(x, y).z));
    const within = outlying * Math.max(startSd / 10, 1.4826 * medianOf(offs));
    kept = places.filter((_, i) => offs[i] < within);
  }
}

function offFrom(places: readonly EdgePlace[], surface: Surface): number {
  const reader = new SurfaceReader(surface);
  const offs = places.filter((_, i) => i % 3 === 0).map(({ x, y, z }) => 1000 * (z - reader.at(x, y).z));
  // Edges that belong to nothing would rule the mean.
  return 1.4826 * medianOf(offs.map(Math.abs));
}

/** Mirrors every ray in the surface, and weighs it by how far from its edge it arrives. */
function mirrorRays(rays: readonly Ray[], surface: Surface, target: RingTarget, leastScatter: number): void {
  const reader = new SurfaceReader(surface);
  const { cameraMm } = target;
  const offs: number[] = [];
  for (const ray of rays) {
    const { x, y, z, zx, zy } = meets(reader, ray.ray, cameraMm, ray.z);
    const { radiusMm, depthMm } = target.edges[ray.edge];
    const arriving = arrival(cameraMm, depthMm, x, y, z, zx, zy);
    ray.x = x;
    ray.y = y;
    ray.z = z;
    ray.miss = arriving.radiusMm - radiusMm;
    ray.byZ = arriving.byZ;
    ray.byZx = arriving.byZx;
    ray.byZy = arriving.byZy;
    if (Number.isFinite(ray.miss)) offs.push(Math.abs(ray.miss));
  }
  const most = outlying * Math.max(leastScatter, 1.4826 * medianOf(offs));
  for (const ray of rays) {
    const share = ray.miss / most;
    ray.weight = Math.abs(share) < 1 ? (1 - share * share) ** 2 : 0;
  }
}

interface Sums {
  normal: NormalEquations;
  /** What a millimetre more of range adds to the right side. */
  apexRow: Float64Array;
}

/** What the rays, the range and smoothness ask of the surface's bumps. */
function sumsOf(rays: readonly Ray[], surface: Surface, range: Range, wishes: readonly Wish[]): Sums {
  const reader = new SurfaceReader(surface);
  const normal = new NormalEquations(surface.coefficients.length);
  const slopes = new Float64Array(touching);
  for (const { x, y, miss, byZ, byZx, byZy, weight } of rays) {
    if (weight === 0) continue;
    reader.at(x, y);
    const { which, value, dx, dy } = reader.bumps();
    for (let k = 0; k < touching; k++) slopes[k] = byZ * value[k] + byZx * dx[k] + byZy * dy[k];
    normal.add(which, slopes, touching, -miss, weight / missSd ** 2);
  }
  const apexRow = new Float64Array(surface.coefficients.length);
  const apex = reader.at(0, 0);
  const { which, value } = reader.bumps();
  // Edges share what is left of their faults, so even thousands of them tell the distance worse than the range does.
  normal.add(which, value, touching, range.mm - apex.z, 1 / apexHeldMm ** 2);
  for (let k = 0; k < touching; k++) apexRow[which[k]] = value[k] / apexHeldMm ** 2;
  holdSmooth(normal, wishes, surface.coefficients, thirdMm);
  return { normal, apexRow };
}

/** Where the ray from the camera meets the surface: x and y grow with z along it. */
function meets(reader: SurfaceReader, ray: { x: number; y: number }, cameraMm: number, start = NaN) {
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
