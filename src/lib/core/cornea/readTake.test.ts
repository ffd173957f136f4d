import { describe, expect, it } from 'vitest';
import type { CorneaWish } from '../phantom/eye/cornea';
import { type EyeFault, eyeTake, nineGazes, offFromTruthUm } from '../phantom/scenes/eyeTakes';
import type { Raster } from '../raster/raster';
import { turnRaster } from '../raster/turnRaster';
import { type Range, unknownRange } from './fitTake';
import { bestSphere, keratometry } from './maps';
import { takeCornea } from './measured';
import { type TakeRead, readTake } from './readTake';
import { SurfaceReader } from './surface';
import { judgedSheet } from './spoilt';
import { type RingTarget, quillTarget as target } from './target';

const sphere: CorneaWish = { flatMm: 7.8 };
const straight = nineGazes[0];

function fitOf(read: TakeRead) {
  if (read.outcome === 'not read') throw new Error(read.because);
  return read;
}

const takeOf = (gaze: readonly [number, number], seed: number, fault?: EyeFault) =>
  eyeTake(sphere, gaze, target, seed, { fault });

describe('a radius and its ±', () => {
  const takes = [1, 2].map((seed) => takeOf(straight, seed));
  const radiusOf = (raster: Raster, range: Range) => {
    const cornea = takeCornea(fitOf(readTake(raster, target, range)).fit);
    const radius = (heights: typeof cornea.heights) => bestSphere(heights, 6).radiusMm;
    return { mm: radius(cornea.heights), u: cornea.uncertaintyOf(radius), cornea };
  };
  it('come out within a hundredth of a millimetre when the range finder spoke, and inside three times the ±', () => {
    for (const { raster, range } of takes) {
      const { mm, u, cornea } = radiusOf(raster, range);
      expect(Math.abs(mm - 7.8)).toBeLessThan(0.01);
      expect(Math.abs(mm - 7.8)).toBeLessThan(3 * u);
      expect(u).toBeLessThan(0.005);
      const power = cornea.uncertaintyOf((heights) => keratometry(heights).flatD);
      expect(power).toBeGreaterThan(0);
      expect(power).toBeLessThan(0.05);
    }
  });
  it('are much less sure when it did not, and say so', () => {
    const { raster, range } = takes[0];
    const known = radiusOf(raster, range);
    const unknown = radiusOf(raster, unknownRange);
    expect(unknown.u).toBeGreaterThan(8 * known.u);
    expect(Math.abs(unknown.mm - 7.8)).toBeLessThan(3 * unknown.u);
  });
  it('hang on the range as two tenths of it', () => {
    const { raster, range } = takes[0];
    const off = radiusOf(raster, { ...range, mm: range.mm + 0.1 }).mm - radiusOf(raster, range).mm;
    expect(Math.abs(off)).toBeGreaterThan(0.005);
    expect(Math.abs(off)).toBeLessThan(0.05);
    // The uncertainty that the range brings is that same slope.
    const { u } = radiusOf(raster, { ...range, uncertaintyMm: 0.1 });
    expect(u / Math.abs(off)).toBeGreaterThan(0.6);
    expect(u / Math.abs(off)).toBeLessThan(1.5);
  });
});

it('a sector that starts off is not left out for good: a toric that looks up and aside, tear film broken', () => {
  const shape: CorneaWish = { flatMm: 8, steepMm: 7.5, axisDeg: 25, q: -0.25 };
  const take = eyeTake(shape, [-12, 12], target, 9012, { tearBreak: 0.1 });
  const { fit } = fitOf(readTake(take.raster, target, take.range));
  const reader = new SurfaceReader(fit.surface);
  const offs = offFromTruthUm(shape, take.pose, (x, y) => reader.at(x, y).z, fit.surface.middle, 3.5);
  const [least, most] = [Math.min(...offs), Math.max(...offs)];
  expect(most - least).toBeLessThan(2);
  expect(fit.edges.filter(({ used }) => used).length / fit.edges.length).toBeGreaterThan(0.93);
});

describe('takes that give nothing, or little', () => {
  it.each([
    ['far out of focus', 'out of focus'],
    ['of a shut lid with the eye turned up', 'blink']
  ] as const)('%s: said in words', (_, fault) => {
    const { raster, range } = takeOf([0, 17], 5, fault);
    const read = readTake(raster, target, range);
    expect(read.outcome).toBe('not read');
    expect(read.outcome === 'not read' && read.because).toMatch(/^(No rings|Rings don’t|Too few)/);
  });
  it('an eye that moved is told by the way its rings faded', () => {
    const { raster, range } = takeOf(straight, 6, 'moved');
    const { quality } = fitOf(readTake(raster, target, range));
    expect(quality.description).toContain('moved');
    expect(quality.percent).toBeLessThan(55);
  });
  it('a lid over the rings is told as one', () => {
    const { raster, range } = takeOf([0, 0], 7, 'blink');
    const { quality } = fitOf(readTake(raster, target, range));
    expect(quality.fewest.quarter).toBe('above');
    expect(quality.description).toContain('lid');
  });
  const ringsOn = (place: (i: number) => RingTarget['edges'][number], edges = 48): RingTarget => ({
    ...target,
    name: 'another',
    edges: Array.from({ length: edges }, (_, i) => place(i))
  });
  it.each([
    ['with fewer rings', ringsOn((i) => ({ radiusMm: 9 + 2.6 * i, depthMm: 60 }), 30)],
    ['on a flat disc', ringsOn((i) => ({ radiusMm: 6 + 1.9 * i, depthMm: 60 }))],
    ['in a cone', ringsOn((i) => ({ radiusMm: 8 + 0.6 * i, depthMm: 75 - 1.4 * i }))],
    [
      'with rings of another width',
      ringsOn((i) => ({ ...target.edges[i], radiusMm: target.edges[i].radiusMm + (i % 2 ? 0.5 : 0) }))
    ]
  ])('of another instrument’s target, %s, nothing is made', (_, other) => {
    const { raster, range } = eyeTake(sphere, straight, other, 8);
    const read = readTake(raster, target, range);
    expect(read.outcome).toBe('not read');
    expect(read.outcome === 'not read' && read.because).toContain('another instrument');
  });
  it('rings cut in half give a surface where they are, and a capture quality that asks again', () => {
    const { raster, range } = takeOf(straight, 9);
    const data = raster.data.slice();
    for (let y = 0; y < raster.height; y++)
      for (let x = raster.width / 2 + 120; x < raster.width; x++) data[y * raster.width + x] = 40;
    const { quality, fit } = fitOf(readTake({ ...raster, data }, target, range));
    expect(quality.percent).toBeLessThan(55);
    expect(quality.description).toContain('on the right');
    const { hasData } = takeCornea(fit);
    expect(hasData(-3, 0)).toBe(true);
    expect(hasData(3, 0)).toBe(false);
  });
  it('the fit can be stopped from its progress', () => {
    const { raster, range } = takeOf(straight, 10);
    const stop = () => {
      throw new Error('cancelled');
    };
    expect(() => readTake(raster, target, range, stop)).toThrow('cancelled');
  });
});

describe('five takes', () => {
  const shape: CorneaWish = { flatMm: 8, steepMm: 7.6, axisDeg: 20, q: -0.2 };
  const toricTakes = nineGazes.slice(0, 5).map((gaze, i) => eyeTake(shape, gaze, target, 60 + i));
  const judged = (of: typeof toricTakes) => {
    const reads = of.map(({ raster, range }) => fitOf(readTake(raster, target, range)));
    return judgedSheet(
      of.map(({ gazeRightDeg, gazeUpDeg }, i) => ({ fit: reads[i].fit, gazeRightDeg, gazeUpDeg })),
      reads.map(({ quality }) => quality),
      target
    );
  };
  it('stored upside down are not joined, and it is said why', () => {
    const turned = toricTakes.map((take) => ({
      ...take,
      raster: turnRaster(take.raster, { quarterTurns: 2, mirrored: false })
    }));
    expect(() => judged(turned)).toThrow('upside down');
  });
  it('of two different eyes are not joined', () => {
    const mixed = toricTakes.map((take, i) =>
      i % 2 ? eyeTake({ flatMm: 7.3, steepMm: 7.2, axisDeg: 80 }, nineGazes[i], target, 70 + i) : take
    );
    expect(() => judged(mixed)).toThrow('two eyes');
  });
});
