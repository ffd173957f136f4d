import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { NormalEquations } from './normalEquations';
import { cellAt, countOf, gridOver, roomForCell, thirdDifferences } from './spline';
import { type Surface, SurfaceReader } from './surface';

const random = seededRandom(31);
const grid = gridOver({ x: 0.2, y: -0.1 }, 3, 0.7);

describe('bumps', () => {
  it('add up to one everywhere, and their slopes to nothing', () => {
    const cell = roomForCell();
    const sum = (values: Float64Array) => values.reduce((total, value) => total + value, 0);
    for (let i = 0; i < 50; i++) {
      cellAt(grid, 3 * (2 * random.uniform() - 1), 3 * (2 * random.uniform() - 1), cell);
      for (const cubics of [cell.across, cell.down]) {
        expect(sum(cubics.subarray(0, 4))).toBeCloseTo(1, 12);
        expect(sum(cubics.subarray(4, 8))).toBeCloseTo(0, 9);
        expect(sum(cubics.subarray(8))).toBeCloseTo(0, 9);
      }
    }
  });
  it('make a surface whose slopes and bends agree with differences, over the seams of cells too', () => {
    const surface: Surface = {
      sphere: { x: 0.1, y: 0.05, z: 7.8, radiusMm: 7.8 },
      middle: { x: 0.2, y: -0.1 },
      reachMm: 3,
      grid,
      coefficients: Float64Array.from({ length: countOf(grid) }, () => 0.01 * random.normal())
    };
    const reader = new SurfaceReader(surface);
    const h = 1e-5;
    for (const [x, y] of [
      [0.3, 1.1],
      [grid.x + 2 * grid.stepMm, grid.y + 3 * grid.stepMm],
      [-1.9, 0.4]
    ]) {
      const [right, left] = [reader.at(x + h, y), reader.at(x - h, y)];
      const [below, above] = [reader.at(x, y + h), reader.at(x, y - h)];
      const { zx, zy } = reader.at(x, y);
      const { zxx, zxy, zyy } = reader.bend();
      expect((right.z - left.z) / (2 * h)).toBeCloseTo(zx, 6);
      expect((below.z - above.z) / (2 * h)).toBeCloseTo(zy, 6);
      expect((right.zx - left.zx) / (2 * h)).toBeCloseTo(zxx, 3);
      expect((right.zy - left.zy) / (2 * h)).toBeCloseTo(zxy, 3);
      expect((below.zy - above.zy) / (2 * h)).toBeCloseTo(zyy, 3);
    }
  });
  it('of a paraboloid have no third differences', () => {
    const side = grid.cells + 3;
    const coefficients = Float64Array.from({ length: side * side }, (_, k) => {
      const [i, j] = [k % side, Math.floor(k / side)];
      return 2 + 0.3 * i - 0.1 * j + 0.02 * i * i + 0.05 * i * j - 0.01 * j * j;
    });
    for (const { which, factors } of thirdDifferences(grid))
      expect(which.reduce((sum, at, k) => sum + factors[k] * coefficients[at], 0)).toBeCloseTo(0, 10);
  });
});

describe('normal equations', () => {
  const size = 24;
  const observations = Array.from({ length: 90 }, () => {
    const first = Math.floor(random.uniform() * (size - 4));
    return {
      which: Int32Array.from([first, first + 1, first + 3, first + 4]),
      slopes: Float64Array.from({ length: 4 }, () => random.normal())
    };
  });
  const truth = Float64Array.from({ length: size }, () => random.normal());
  const filled = () => {
    const normal = new NormalEquations(size);
    for (const { which, slopes } of observations) {
      const value = which.reduce((sum, at, k) => sum + slopes[k] * truth[at], 0);
      normal.add(which, slopes, 4, value, 1);
    }
    return normal;
  };
  it('give back the parameters that observations were made from', () => {
    filled()
      .step()!
      .forEach((value, k) => expect(value).toBeCloseTo(truth[k], 8));
  });
  it('say when nothing determines one of them', () => {
    const normal = new NormalEquations(size);
    normal.add(observations[0].which, observations[0].slopes, 4, 1, 1);
    expect(normal.step()).toBeNull();
    expect(normal.drawn(() => 1)).toBeNull();
  });
  it('draw parameters whose spread is the inverse of the sums', () => {
    const normal = filled();
    const unit = new Float64Array(size);
    unit[7] = 1;
    const variance = normal.solved(unit)![7];
    const draws = Array.from({ length: 4000 }, () => normal.drawn(() => random.normal())![7]);
    const spread = draws.reduce((sum, value) => sum + value * value, 0) / draws.length;
    expect(spread / variance).toBeGreaterThan(0.9);
    expect(spread / variance).toBeLessThan(1.1);
  });
  it('hold a parameter where they are told to', () => {
    const normal = filled();
    normal.hold(3, 5, 1e12);
    expect(normal.step()![3]).toBeCloseTo(5, 6);
  });
});
