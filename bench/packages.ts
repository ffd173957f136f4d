import { contours } from 'd3-contour';
import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { CholeskyDecomposition, Matrix, solve } from 'ml-matrix';
import { outlinesAtLeast } from '../src/lib/core/cornea/contours';
import { NormalEquations } from '../src/lib/core/cornea/normalEquations';
import { fitted } from '../src/lib/core/measurement/fit/levenberg';
import { solved } from '../src/lib/core/measurement/fit/linear';
import { areaOf } from '../src/lib/core/measurement/geometry';
import { seededRandom } from '../src/lib/core/random';
import { type Row, median, times } from './report';

/** What the core does by hand against the package that does the same, in one run; docs/architecture.md draws on these. */
export async function benchPackages(): Promise<Row[]> {
  return [await smallSystems(), await tornCornea(), await edgeFit(), await mapOutlines()];
}

async function row(
  name: string,
  reference: string,
  ours: () => unknown,
  theirs: () => unknown,
  rest: Pick<Row, 'limit' | 'note'>
): Promise<Row> {
  const [oursMs, referenceMs] = [median(await times(30, ours)), median(await times(30, theirs))];
  return { name, oursMs, reference, referenceMs, ...rest };
}

const furthest = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  Math.max(...Array.from(a, (value, i) => Math.abs(value - b[i])));

function smallSystems(): Promise<Row> {
  const random = seededRandom(3);
  const size = 6;
  const matrix = Array.from({ length: size }, () => Array.from({ length: size }, () => random.uniform()));
  const right = Array.from({ length: size }, () => random.uniform());
  const theirs = () => solve(new Matrix(matrix), Matrix.columnVector(right)).to1DArray();
  const often = (work: () => unknown) => () => {
    for (let i = 0; i < 1000; i++) work();
  };
  return row(
    'Thousand linear systems of six',
    'ml-matrix',
    often(() => solved(matrix, right)),
    often(theirs),
    { limit: 1, note: `answers differ by ${furthest(solved(matrix, right)!, theirs()).toExponential(0)}` }
  );
}

/** As a fitted cornea's surface: each observation touches sixteen knots of a grid. */
function tornCornea(): Promise<Row> {
  const random = seededRandom(4);
  const knots = 20;
  const sums = new NormalEquations(knots * knots);
  for (let seen = 0; seen < 6000; seen++) {
    const [x, y] = [Math.floor(random.uniform() * (knots - 3)), Math.floor(random.uniform() * (knots - 3))];
    const touched = Int32Array.from({ length: 16 }, (_, i) => (y + Math.floor(i / 4)) * knots + x + (i % 4));
    const slopes = Float64Array.from(touched, () => random.uniform());
    sums.add(touched, slopes, 16, random.uniform(), 1);
  }
  for (let knot = 0; knot < sums.size; knot++) sums.hold(knot, 0, 0.1);
  const full = new Matrix(sums.size, sums.size);
  for (let i = 0; i < sums.size; i++)
    for (let j = 0; j <= i; j++) {
      full.set(i, j, sums.matrix[i * sums.size + j]);
      full.set(j, i, sums.matrix[i * sums.size + j]);
    }
  const right = Matrix.columnVector(Array.from(sums.right));
  const theirs = () => new CholeskyDecomposition(full).solve(right).to1DArray();
  const off = furthest(sums.step()!, theirs());
  return row(
    'Normal equations of a surface of 20 x 20 knots',
    'ml-matrix, all of the matrix',
    () => {
      sums.hold(0, 0, 1e-12); // So that the factors are worked out anew.
      sums.step();
    },
    theirs,
    { limit: 1, note: `answers differ by ${off.toExponential(0)}` }
  );
}

function edgeFit(): Promise<Row> {
  const random = seededRandom(5);
  const at = Array.from({ length: 200 }, (_, i) => i / 10);
  const model = (p: ArrayLike<number>, x: number) => p[0] + p[1] * Math.exp(-(((x - p[2]) / p[3]) ** 2));
  const seen = at.map((x) => model([1, 5, 9.3, 2.1], x) + 0.05 * random.normal());
  const start = [0.5, 4, 8, 1.5];
  const ours = () =>
    fitted({
      residuals: (p, out) => at.forEach((x, i) => (out[i] = model(p, x) - seen[i])),
      count: at.length,
      start,
      steps: start.map(() => 1e-4)
    });
  const theirs = () =>
    levenbergMarquardt({ x: at, y: seen }, (p: number[]) => (x: number) => model(p, x), {
      initialValues: start,
      damping: 1e-3,
      gradientDifference: 1e-4,
      maxIterations: 60,
      errorTolerance: 1e-12
    });
  const off = furthest(ours().parameters, theirs().parameterValues);
  return row('Fit of four parameters to 200 values', 'ml-levenberg-marquardt', ours, theirs, {
    limit: 1,
    note: `answers differ by ${off.toExponential(0)}; the package tells no covariance and never that it has settled`
  });
}

/** Here the package is faster; it draws outlines through the last value beside a gap, so that a lone one is lost. */
function mapOutlines(): Promise<Row> {
  const side = 115;
  const radius = 55;
  const fromMiddle = (i: number) => Math.hypot((i % side) - 57.3, Math.floor(i / side) - 56.8);
  const map = Float64Array.from({ length: side * side }, (_, i) =>
    fromMiddle(i) > radius ? NaN : 40 + 3 * Math.sin(i / 700) - fromMiddle(i) / 20
  );
  const levels = Array.from({ length: 17 }, (_, i) => 34 + i * 0.5);
  const outliner = contours().size([side, side]);
  const plain = Array.from(map);
  const disc = Float64Array.from(map, (value) => (Number.isNaN(value) ? NaN : 1));
  const area = Math.PI * radius ** 2;
  const part = (found: number) => `${((100 * found) / area).toFixed(1)} %`;
  const oursSees = areaOf(outlinesAtLeast(disc, side, 0)[0]);
  const ring = outliner.contour(Array.from(disc), 0).coordinates[0][0];
  const theirsSees = areaOf(ring.slice(0, -1).map(([x, y]) => ({ x, y })));
  return row(
    'Outlines of a corneal map at 17 levels',
    'd3-contour',
    () => levels.map((level) => outlinesAtLeast(map, side, level)),
    () => levels.map((level) => outliner.contour(plain, level)),
    {
      limit: Infinity,
      note: `of what was seen ours holds ${part(oursSees)}, the package ${part(theirsSees)}`
    }
  );
}
