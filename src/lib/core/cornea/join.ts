import { medianOf } from '../measurement/fit/linear';
import { type Progress, type LongWork, finished } from '../longWork';
import type { TakeFit } from './fitTake';
import { NormalEquations } from './normalEquations';
import { axisZ, meetsEye, missOf, movedMiss } from './onEye';
import { type Pose, placedAt, toEye, toRoom } from './pose';
import { type Wish, countOf, gridOver, holdSmooth, movedBy, thirdDifferences, touching } from './spline';
import { type Surface, SurfaceReader } from './surface';
import type { RingTarget } from './target';

/** A take to be joined: its own fit, and where the eye was asked to look, degrees to the picture's right and up. */
export interface TakeToJoin {
  fit: TakeFit;
  gazeRightDeg: number;
  gazeUpDeg: number;
}

export interface JoinedTake {
  pose: Pose;
  /** Average distance of its own surface from the joined one, micrometres, over where both have data; its range apart. */
  averageUm: number;
  /** Share of its edges that agree with the joined surface. */
  agreeing: number;
}

export interface CorneaSheet {
  surface: Surface;
  takes: JoinedTake[];
  iterations: number;
  converged: boolean;
  /** Standard deviation of what is left, as a height over a ring's width, micrometres. */
  rmsUm: number;
  /** At the surface: what its coefficients, and after them the poses, hang on. */
  normal: NormalEquations;
}

const cellMm = 0.7;
const mostRounds = 14;
/** Heights that change by less than this, root mean square, have settled. */
const settledMm = 6e-5;
const everyMeridian = 16;
/** How far gaze may be off what was asked, and where the eye may stand: standard deviations. */
const gazeSd = (0.7 * Math.PI) / 180;
const shiftSd = 0.3;
const poseSize = 5;
const missSd = 0.03;
const outlying = 4;
const thirdMm = 0.02;
/** Over so many of its outermost edges in a meridian a take's weight fades. */
const fadingEdges = 4;
interface Observed {
  take: number;
  edge: number;
  /** The camera ray through z = 0 of the room. */
  x: number;
  y: number;
  /** Less where the take ends, so that no step is left there. */
  weight: number;
  /** Place on the eye, kept from round to round. */
  ez: number;
}

/**
 * All takes together on one surface in the eye's own axes, which are those of the room at the first take's gaze. Each
 * other take's turn and shift are found with the surface, from all ring edges by the law of reflection, robustly.
 * @throws RangeError when there is no take
 */
export const joined = (
  takes: readonly TakeToJoin[],
  target: RingTarget,
  told?: (progress: Progress) => void
): CorneaSheet => finished(joining(takes, target), told);

/** As `joined`, a round a step. */
export function* joining(takes: readonly TakeToJoin[], target: RingTarget): LongWork<CorneaSheet> {
  if (takes.length === 0) throw new RangeError('a sheet needs at least one take');
  const poses = takes.map(({ fit, gazeRightDeg, gazeUpDeg }): Pose =>
    startingPose(fit, gazeRightDeg, gazeUpDeg)
  );
  const observed = takes.flatMap(({ fit }, take) => observedOf(fit, take, target));
  const middle = { x: 0, y: 0 };
  const reachMm = reachOf(takes, poses);
  const grid = gridOver(middle, reachMm, cellMm);
  const radius = medianOf(takes.map(({ fit }) => fit.surface.sphere.radiusMm));
  const surface: Surface = {
    sphere: { x: 0, y: 0, z: radius, radiusMm: radius },
    middle,
    reachMm,
    grid,
    coefficients: new Float64Array(countOf(grid))
  };
  const smooth = thirdDifferences(grid);
  const count = surface.coefficients.length;
  let converged = false;
  let iterations = 0;
  let round: Round | null = null;
  while (iterations < mostRounds && !converged) {
    round = step(observed, surface, poses, takes, target, smooth, iterations);
    iterations++;
    yield { done: iterations, of: mostRounds };
    const change = round.normal.step();
    if (!change) break;
    for (let k = 0; k < count; k++) surface.coefficients[k] += change[k];
    poses.forEach((pose, i) => {
      const at = count + i * poseSize;
      pose.right += change[at];
      pose.up += change[at + 1];
      pose.x += change[at + 2];
      pose.y += change[at + 3];
      pose.towards += change[at + 4];
    });
    converged = iterations > 3 && movedBy(change, round.places, surface) < settledMm;
  }
  const { rmsUm, agreeing, normal } = round!;
  return {
    surface,
    takes: takes.map(({ fit }, i) => ({
      pose: poses[i],
      averageUm: averageUm(fit, surface, poses[i]),
      agreeing: agreeing[i]
    })),
    iterations,
    converged,
    rmsUm,
    normal
  };
}

function startingPose(fit: TakeFit, rightDeg: number, upDeg: number): Pose {
  const pose: Pose = {
    right: (rightDeg * Math.PI) / 180,
    up: (upDeg * Math.PI) / 180,
    x: 0,
    y: 0,
    towards: 0
  };
  // Shifted so that the sphere of this take has its centre where the turned eye has it.
  const { sphere } = fit.surface;
  const placed = placedAt(pose);
  const center = toRoom(placed, 0, 0, sphere.radiusMm, 1);
  pose.x = sphere.x - center[0];
  pose.y = sphere.y - center[1];
  pose.towards = -(sphere.z - center[2]);
  return pose;
}

/** Every sixteenth meridian of a take, another sixteenth for each. */
function observedOf(fit: TakeFit, take: number, target: RingTarget): Observed[] {
  const outermost: number[] = [];
  for (const { edge, meridian, used } of fit.edges)
    if (used) outermost[meridian] = Math.max(edge, outermost[meridian] ?? 0);
  const reader = new SurfaceReader(fit.surface);
  return fit.edges
    .filter((edge) => edge.used && edge.meridian % everyMeridian === take % everyMeridian)
    .map(({ edge, meridian, x, y }): Observed => {
      const stretch = 1 + reader.at(x, y).z / target.cameraMm;
      const weight = Math.min(1, (1 + outermost[meridian] - edge) / fadingEdges);
      return { take, edge, x: x / stretch, y: y / stretch, weight, ez: NaN };
    });
}

/** Far enough for every take's data, once turned into the eye's axes. */
function reachOf(takes: readonly TakeToJoin[], poses: Pose[]): number {
  let reach = 0;
  takes.forEach(({ fit }, i) => {
    const placed = placedAt(poses[i]);
    const reader = new SurfaceReader(fit.surface);
    for (const { x, y, used } of fit.edges) {
      if (!used) continue;
      const [ex, ey] = toEye(placed, x, y, reader.at(x, y).z, 1);
      reach = Math.max(reach, Math.hypot(ex, ey));
    }
  });
  return Math.min(7.2, reach * 1.03);
}

interface Round {
  normal: NormalEquations;
  /** Where on the eye its observations lay. */
  places: { x: number; y: number }[];
  rmsUm: number;
  agreeing: number[];
}

function step(
  observed: Observed[],
  surface: Surface,
  poses: Pose[],
  takes: readonly TakeToJoin[],
  target: RingTarget,
  smooth: readonly Wish[],
  round: number
): Round {
  const { cameraMm } = target;
  const { reachMm, coefficients } = surface;
  const reader = new SurfaceReader(surface);
  const n = coefficients.length;
  const normal = new NormalEquations(n + takes.length * poseSize);
  const which = new Int32Array(touching + poseSize);
  const slopes = new Float64Array(touching + poseSize);
  const h = 1e-5;
  const moved = poses.map((pose) => [
    placedAt(pose),
    placedAt({ ...pose, right: pose.right + h }),
    placedAt({ ...pose, up: pose.up + h }),
    placedAt({ ...pose, x: pose.x + h }),
    placedAt({ ...pose, y: pose.y + h }),
    placedAt({ ...pose, towards: pose.towards + h })
  ]);
  const misses = new Float64Array(observed.length);
  const places = observed.map((each, i) => {
    const on = meetsEye(reader, moved[each.take][0], each, cameraMm);
    each.ez = on.z;
    const { radiusMm, depthMm } = target.edges[each.edge];
    misses[i] = missOf(moved[each.take][0], on.x, on.y, on.z, on.zx, on.zy, cameraMm, depthMm) - radiusMm;
    return on;
  });
  const scatter = Math.max(
    round < 2 ? 1 : missSd,
    1.4826 * medianOf(misses.filter(Number.isFinite).map(Math.abs))
  );
  const counts = takes.map(() => ({ all: 0, agreeing: 0 }));
  let squares = 0;
  let used = 0;
  for (const [i, each] of observed.entries()) {
    const on = places[i];
    const miss = misses[i];
    const { take, edge } = each;
    const count = counts[take];
    count.all++;
    const share = miss / (outlying * scatter);
    if (!(Math.abs(share) < 1) || !(Math.hypot(on.x, on.y) < reachMm)) continue;
    count.agreeing++;
    const weight = (each.weight * (1 - share * share) ** 2) / missSd ** 2;
    if (weight === 0) continue;
    const { radiusMm, depthMm } = target.edges[edge];
    const placed = moved[take][0];
    const at = (z: number, zx: number, zy: number) =>
      missOf(placed, on.x, on.y, z, zx, zy, cameraMm, depthMm) - radiusMm;
    const byZ = (at(on.z + h, on.zx, on.zy) - miss) / h;
    const byX = (at(on.z, on.zx + h, on.zy) - miss) / h;
    const byY = (at(on.z, on.zx, on.zy + h) - miss) / h;
    reader.at(on.x, on.y);
    const { which: bumps, value, dx, dy } = reader.bumps();
    for (let k = 0; k < touching; k++) {
      which[k] = bumps[k];
      slopes[k] = byZ * value[k] + byX * dx[k] + byY * dy[k];
    }
    for (let p = 0; p < poseSize; p++) {
      which[touching + p] = n + take * poseSize + p;
      // The first take says what straight ahead is: only its distance is looked for.
      slopes[touching + p] =
        take === 0 && p < 4
          ? 0
          : (movedMiss(moved[take][p + 1], on, each, cameraMm, depthMm) - radiusMm - miss) / h;
    }
    normal.add(which, slopes, which.length, -miss, weight);
    squares += (miss / Math.max(1e-6, Math.hypot(byX, byY))) ** 2;
    used++;
  }
  takes.forEach(({ fit, gazeRightDeg, gazeUpDeg }, i) => {
    const from = n + i * poseSize;
    const pose = poses[i];
    const nominal = [(gazeRightDeg * Math.PI) / 180, (gazeUpDeg * Math.PI) / 180, 0, 0];
    const now = [pose.right, pose.up, pose.x, pose.y];
    const sds = i === 0 ? [1e-7, 1e-7, 1e-6, 1e-6] : [gazeSd, gazeSd, shiftSd, shiftSd];
    sds.forEach((sd, p) => normal.hold(from + p, (i === 0 ? now[p] : nominal[p]) - now[p], 1 / (sd * sd)));
    // The range finder saw the cornea on the camera's axis.
    const on = meetsEye(reader, moved[i][0], { x: 0, y: 0, ez: NaN }, cameraMm);
    const roomZ = toRoom(moved[i][0], on.x, on.y, on.z, 1)[2];
    const bumps = reader.bumps();
    which.set(bumps.which);
    slopes.set(bumps.value);
    for (let p = 0; p < poseSize; p++) {
      which[touching + p] = from + p;
      slopes[touching + p] = (axisZ(moved[i][p + 1], on, cameraMm) - roomZ) / h;
    }
    const sd = Math.max(1e-3, fit.range.uncertaintyMm);
    normal.add(which, slopes, which.length, fit.range.mm - roomZ, 1 / sd ** 2);
  });
  // The surface touches the eye's own origin.
  const apex = reader.at(0, 0);
  const { which: touched, value } = reader.bumps();
  normal.add(touched, value, touching, -apex.z, 1e10);
  holdSmooth(normal, smooth, coefficients, thirdMm);
  return {
    normal,
    places,
    rmsUm: 250 * Math.sqrt(squares / Math.max(1, used)),
    agreeing: counts.map(({ all, agreeing }) => (all > 0 ? agreeing / all : 0))
  };
}

/**
 * Mean distance of a take's own surface from the joined one along z of the eye, at its edges. What all of it lies nearer
 * or further by is the range finder's and taken out.
 */
function averageUm(fit: TakeFit, surface: Surface, pose: Pose): number {
  const reader = new SurfaceReader(fit.surface);
  const whole = new SurfaceReader(surface);
  const placed = placedAt(pose);
  const offs: number[] = [];
  fit.edges.forEach(({ x, y, used }, i) => {
    if (!used || i % 17 !== 0) return;
    const [ex, ey, ez] = toEye(placed, x, y, reader.at(x, y).z, 1);
    if (Math.hypot(ex, ey) < surface.reachMm) offs.push(ez - whole.at(ex, ey).z);
  });
  if (offs.length === 0) return NaN;
  const all = meanOf(offs);
  return 1000 * meanOf(offs.map((off) => Math.abs(off - all)));
}

const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
