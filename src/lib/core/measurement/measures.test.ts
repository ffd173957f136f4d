import { describe, expect, it } from 'vitest';
import type { PlacedPoint, Scale } from '../calibration/scale';
import { seededRandom } from '../random';
import { fittedCircle, fittedEllipse } from './fit/circle';
import { length } from './length';
import { angle, angleBetweenLines, area, curveLength, distanceToLine, ratio } from './measures';
import { pooledDeviation, changed, spreadOf } from './repeated';
import { circle, ellipse } from './round';

const at = (x: number, y: number, uncertaintyPx = 1): PlacedPoint => ({ x, y, uncertaintyPx });
const scaleOf = (mm: number, relativeUncertainty: number, mmY = mm): Scale => ({
  source: 'line',
  mmPerPixelX: mm,
  mmPerPixelY: mmY,
  relativeUncertainty,
  description: ''
});

const half = Array.from({ length: 9 }, (_, i) =>
  at(100 + 50 * Math.cos((Math.PI * i) / 8), 100 + 50 * Math.sin((Math.PI * i) / 8))
);
const around = (rx: number, ry: number, turn: number, count: number) =>
  Array.from({ length: count }, (_, i) => {
    const a = (2 * Math.PI * i) / count;
    const [u, v] = [rx * Math.cos(a), ry * Math.sin(a)];
    return at(200 + u * Math.cos(turn) - v * Math.sin(turn), 150 + u * Math.sin(turn) + v * Math.cos(turn));
  });

describe('measures of exact points', () => {
  it('are those worked out by hand', () => {
    expect(angle([at(10, 0), at(0, 0), at(0, 5)], null).value).toBeCloseTo(90, 10);
    expect(angle([at(10, 0), at(0, 0), at(-10, 10)], null).value).toBeCloseTo(135, 10);
    expect(angleBetweenLines([at(0, 0), at(10, 0), at(0, 5), at(-10, 15)], null).value).toBeCloseTo(45, 10);
    expect(ratio([at(0, 0), at(30, 40), at(0, 0), at(0, 20)], null).value).toBeCloseTo(2.5, 10);
    expect(distanceToLine([at(3, 7), at(0, 0), at(10, 0)], scaleOf(0.1, 0)).value).toBeCloseTo(0.7, 10);
    expect(area([at(0, 0), at(10, 0), at(10, 4), at(0, 4)], scaleOf(0.5, 0)).value).toBeCloseTo(10, 10);
    expect(curveLength(half, null).value).toBeCloseTo(50 * Math.PI, 0);
    const round = circle(around(40, 40, 0, 12), scaleOf(0.1, 0));
    expect(round.diameter.value).toBeCloseTo(8, 6);
    expect(round.center.x).toBeCloseTo(20, 6);
    const oval = ellipse(around(60, 35, 0.4, 14), null);
    expect(oval.longest.value).toBeCloseTo(120, 4);
    expect(oval.shortest.value).toBeCloseTo(70, 4);
    expect(oval.angleDeg).toBeCloseTo((0.4 * 180) / Math.PI, 3);
  });
  it('mind pixels that are not square', () => {
    const tall = scaleOf(0.1, 0, 0.2);
    expect(angle([at(10, 0), at(0, 0), at(10, 5)], tall).value).toBeCloseTo(45, 10);
    expect(area([at(0, 0), at(10, 0), at(10, 4), at(0, 4)], tall).value).toBeCloseTo(0.8, 10);
  });
});

/** Places points and scale anew many times, as their uncertainties say, and asks in what share the ± holds the truth. */
function heldShare(
  points: PlacedPoint[],
  scale: Scale | null,
  measure: (points: PlacedPoint[], scale: Scale | null) => { value: number; plusMinus: number },
  seed: number,
  runs = 500
): { held: number; width: number } {
  const random = seededRandom(seed);
  const truth = measure(points, scale).value;
  let held = 0;
  const errors = [];
  let claimed = 0;
  for (let i = 0; i < runs; i++) {
    const shaken = points.map((p) => ({
      ...p,
      x: p.x + p.uncertaintyPx * random.normal(),
      y: p.y + p.uncertaintyPx * random.normal()
    }));
    const factor = 1 + (scale?.relativeUncertainty ?? 0) * random.normal();
    const off = scale && {
      ...scale,
      mmPerPixelX: scale.mmPerPixelX * factor,
      mmPerPixelY: scale.mmPerPixelY * factor
    };
    const { value, plusMinus } = measure(shaken, off);
    if (Math.abs(value - truth) <= plusMinus) held++;
    errors.push(Math.abs(value - truth));
    claimed += plusMinus / runs;
  }
  errors.sort((a, b) => a - b);
  return { held: held / runs, width: claimed / errors[Math.floor(0.95 * runs)] };
}

describe('the stated ± by Monte Carlo', () => {
  const scale = scaleOf(0.08, 0.012);
  const far = [at(100, 100, 1.2), at(420, 180, 0.8), at(380, 460, 1), at(90, 350, 1.5)];
  it.each([
    ['length', (p: PlacedPoint[], s: Scale | null) => length([p[0], p[1]], s)],
    ['curve', (p: PlacedPoint[], s: Scale | null) => curveLength(p, s)],
    ['angle', (p: PlacedPoint[], s: Scale | null) => angle(p, s)],
    ['angle between lines', (p: PlacedPoint[], s: Scale | null) => angleBetweenLines(p, s)],
    ['ratio', (p: PlacedPoint[], s: Scale | null) => ratio(p, s)],
    ['distance to a line', (p: PlacedPoint[], s: Scale | null) => distanceToLine(p, s)],
    ['area', (p: PlacedPoint[], s: Scale | null) => area(p, s)]
  ])('%s holds the truth in 95 of 100, and is no wider than it needs to be', (_, measure) => {
    const { held, width } = heldShare(far, scale, measure, 21);
    expect(held).toBeGreaterThan(0.925);
    expect(width).toBeLessThan(1.5);
  });
  it('of circles and ellipses as well', () => {
    const points = around(70, 70, 0, 10);
    const round = heldShare(points, scale, (p, s) => circle(p, s).diameter, 3, 120);
    expect(round.held).toBeGreaterThan(0.925);
    expect(round.width).toBeLessThan(1.5);
    const oval = heldShare(around(90, 50, 0.3, 16), scale, (p, s) => ellipse(p, s).longest, 4, 80);
    expect(oval.held).toBeGreaterThan(0.92);
    expect(oval.width).toBeLessThan(1.6);
  });
});

describe('the stated ± where slopes alone do not tell', () => {
  it('of a ratio over a short length holds too', () => {
    for (const short of [6, 8, 11, 15]) {
      const points = [at(100, 100, 1), at(300, 140, 1), at(400, 400, 1), at(400 + short, 400, 1)];
      const { held } = heldShare(points, null, ratio, short, 300);
      expect(held, `${short} px`).toBeGreaterThan(0.92);
    }
  });
  it('of angles and lengths in pixels of 1 to 1.5 and 1 to 3 holds, and is no wider than it needs to be', () => {
    const random = seededRandom(31);
    for (const tall of [1.5, 3])
      for (let i = 0; i < 4; i++) {
        const any = () => at(100 + 150 * random.uniform(), 100 + 150 * random.uniform(), 1.5);
        const points = [any(), at(400, 300, 1.5), any()];
        const { held, width } = heldShare(points, scaleOf(0.1, 0, 0.1 * tall), angle, 40 + i, 300);
        expect(held).toBeGreaterThan(0.91);
        expect(width).toBeLessThan(1.5);
      }
  });
  it('of points that coincide is not nothing', () => {
    expect(length([at(5, 5), at(5, 5)], null).plusMinus).toBeGreaterThan(2);
    expect(curveLength([at(5, 5), at(5, 5)], null).plusMinus).toBeGreaterThan(2);
    expect(distanceToLine([at(5, 0), at(0, 0), at(9, 0)], null).plusMinus).toBeGreaterThan(2);
  });
});

describe('points that tell nothing', () => {
  it('are refused, never measured', () => {
    expect(() => angle([at(0, 0), at(0, 0), at(5, 5)], null)).toThrow('coincide');
    expect(() => ratio([at(0, 0), at(1, 1), at(5, 5), at(5, 5)], null)).toThrow('coincide');
    expect(() => distanceToLine([at(0, 0), at(5, 5), at(5, 5)], null)).toThrow('coincide');
    expect(() => angle([at(0, 0), at(NaN, 0), at(5, 5)], null)).toThrow('point 2 is missing');
    expect(() => angle([at(0, 0), at(5, 5)], null)).toThrow('3 points needed');
    expect(() => area([at(0, 0), at(5, 5), at(1, 0)], scaleOf(0, 0))).toThrow('above 0');
    expect(() => circle([at(0, 0), at(1, 1), at(2, 2), at(3, 3)], null)).toThrow('on a line');
    expect(() => circle([at(4, 4), at(4, 4), at(4, 4)], null)).toThrow('on a line');
    expect(() => fittedCircle([at(0, 0), at(1, 1)])).toThrow('three points');
    expect(fittedEllipse([at(0, 0), at(1, 1), at(2, 2), at(3, 3), at(4, 4)])).toBeNull();
  });
});

describe('repeated readings', () => {
  it('spread as worked out by hand', () => {
    const spread = spreadOf([10, 12, 11])!;
    expect(spread.standardDeviation).toBeCloseTo(1, 12);
    expect(spread.repeatability).toBeCloseTo(1.96 * Math.SQRT2, 12);
    expect(spreadOf([4])).toBeNull();
    expect(pooledDeviation([[1, 3], [5, 5], [9]])).toBeCloseTo(1, 12);
    expect(pooledDeviation([[1], [2]])).toBeNull();
    expect(() => spreadOf([1, NaN])).toThrow('missing');
  });
  it('two readings of the same thing differ by more than the repeatability in 5 of 100', () => {
    const random = seededRandom(6);
    const { repeatability } = spreadOf(Array.from({ length: 400 }, () => 3 * random.normal()))!;
    let more = 0;
    for (let i = 0; i < 4000; i++)
      if (Math.abs(3 * random.normal() - 3 * random.normal()) > repeatability) more++;
    expect(more / 4000).toBeGreaterThan(0.03);
    expect(more / 4000).toBeLessThan(0.075);
  });
  it('a change has to be larger than both ± together', () => {
    expect(changed({ value: 10, plusMinus: 0.6 }, { value: 10.9, plusMinus: 0.8 }).change).toBe(
      'within the spread'
    );
    expect(changed({ value: 10, plusMinus: 0.6 }, { value: 11.1, plusMinus: 0.8 })).toMatchObject({
      change: 'larger',
      plusMinus: 1
    });
    expect(changed({ value: 10, plusMinus: 0.1 }, { value: 9, plusMinus: 0.1 }).change).toBe('smaller');
  });
});
