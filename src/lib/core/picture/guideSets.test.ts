import { describe, expect, it } from 'vitest';
import type { PlacedPoint, Scale } from '../calibration/scale';
import type { Point } from '../raster/orientation';
import { type Orientation, toImage } from '../raster/orientation';
import { guideSetsOf, guideSpreads } from './guideSets';
import type { GuidePoints } from './layers/guide/guide';
import { type PictureLayers, noLayers } from './pictureLayers';
import type { PictureView } from './pictureView';

const scale = (mmPerPixelX: number, mmPerPixelY = mmPerPixelX): Scale => ({
  source: 'calibrated',
  mmPerPixelX,
  mmPerPixelY,
  relativeUncertainty: 0.01,
  description: ''
});
const view = (pictureId: string, fileScale: Scale | null, more: Partial<PictureView> = {}) =>
  ({
    pictureId,
    width: 400,
    height: 300,
    fileScale,
    firstOrientation: { quarterTurns: 0, mirrored: false },
    layers: noLayers,
    ...more
  }) as PictureView;
const on = (view: string, points: Record<string, PlacedPoint>, version = 1): GuidePoints => ({
  set: 'one',
  guide: 'distal-radius',
  version,
  view,
  points
});
const layers = (body: GuidePoints, orientation: Orientation | null = null): PictureLayers => ({
  ...noLayers,
  orientation,
  items: [{ id: body.set, kind: 'guide', body, by: '' }]
});
/** As they are seen: the shaft upright, the styloid 20 above the inner corner and 40 to its left. */
const seen: Record<string, Point> = {
  'axis upper': { x: 100, y: 280 },
  'axis lower': { x: 100, y: 200 },
  styloid: { x: 80, y: 100 },
  'ulnar corner': { x: 120, y: 120 },
  'ulnar head': { x: 140, y: 123 }
};
const placed = (of: (point: Point) => Point) =>
  Object.fromEntries(Object.entries(seen).map(([key, point]) => [key, { ...of(point), uncertaintyPx: 1 }]));
const resultOf = (sets: ReturnType<typeof guideSetsOf>, key: string) => {
  const found = sets[0].results.find(({ formula }) => formula.key === key)!;
  return found.outcome === 'value' ? found.value : found;
};
const inclination = (Math.atan2(20, 40) * 180) / Math.PI;

describe('what follows from the landmarks of a guide', () => {
  it('is worked out over all pictures of a doing, each by its own scale', () => {
    const side = on('side', {
      'axis upper': { x: 50, y: 200, uncertaintyPx: 1 },
      'axis lower': { x: 50, y: 150, uncertaintyPx: 1 },
      'volar rim': { x: 30, y: 100, uncertaintyPx: 1 },
      'dorsal rim': { x: 70, y: 93, uncertaintyPx: 1 }
    });
    const sets = guideSetsOf([
      {
        picture: view('a', scale(0.5)),
        layers: layers(
          on(
            'front',
            placed((point) => point)
          )
        )
      },
      { picture: view('b', null), layers: layers(side) }
    ]);
    expect(sets).toHaveLength(1);
    expect([...sets[0].views.keys()]).toEqual(['front', 'side']);
    expect(resultOf(sets, 'inclination')).toMatchObject({
      value: expect.closeTo(inclination, 9),
      unit: 'deg'
    });
    expect(resultOf(sets, 'height')).toMatchObject({ value: expect.closeTo(10, 9), unit: 'mm' });
    expect(resultOf(sets, 'tilt')).toMatchObject({
      value: expect.closeTo((Math.atan2(7, 40) * 180) / Math.PI, 9)
    });
  });
  it('is the same however the picture is stored, as long as it is seen the same', () => {
    for (const orientation of [
      { quarterTurns: 1, mirrored: false },
      { quarterTurns: 2, mirrored: true },
      { quarterTurns: 3, mirrored: true, tiltDeg: 4 }
    ] as Orientation[]) {
      const size = { width: 400, height: 300, pixelAspect: 1 };
      const body = on(
        'front',
        placed((point) => toImage(point, size, orientation))
      );
      const sets = guideSetsOf([{ picture: view('a', scale(0.5)), layers: layers(body, orientation) }]);
      expect(resultOf(sets, 'inclination')).toMatchObject({ value: expect.closeTo(inclination, 6) });
      expect(resultOf(sets, 'height')).toMatchObject({ value: expect.closeTo(10, 6) });
    }
  });
  it('counts pixels without a scale, holds pixels that are not square, and says which landmarks are missing', () => {
    const body = on(
      'front',
      placed((point) => point)
    );
    const bare = guideSetsOf([{ picture: view('a', null), layers: layers(body) }]);
    expect(resultOf(bare, 'height')).toMatchObject({ value: expect.closeTo(20, 9), unit: 'px' });
    expect(resultOf(bare, 'tilt')).toMatchObject({ outcome: 'missing' });
    const tall = on(
      'front',
      placed(({ x, y }) => ({ x, y: y / 2 }))
    );
    const sets = guideSetsOf([{ picture: view('a', scale(0.5, 1)), layers: layers(tall) }]);
    expect(resultOf(sets, 'inclination')).toMatchObject({ value: expect.closeTo(inclination, 6) });
    expect(resultOf(sets, 'height')).toMatchObject({ value: expect.closeTo(10, 6) });
  });
  it('done again on the same picture tells its spread, of each result and of each landmark', () => {
    const again = on(
      'front',
      placed((point) => point)
    );
    again.points.styloid = { x: 83, y: 104, uncertaintyPx: 1 };
    const first = on(
      'front',
      placed((point) => point)
    );
    const elsewhere = { ...first, set: 'three' };
    const items = [first, { ...again, set: 'two' }].map((body) => ({
      id: body.set,
      kind: 'guide' as const,
      body,
      by: ''
    }));
    const picture = view('a', scale(0.5));
    const sets = guideSetsOf([
      { picture, layers: { ...noLayers, items } },
      { picture: view('b', scale(0.5)), layers: layers(elsewhere) }
    ]);
    const [spread, ...others] = guideSpreads(sets);
    expect(others).toEqual([]);
    expect(spread.count).toBe(2);
    // Heights of 10 and 8 mm: one deviation is the root of 2.
    const height = spread.results.find(({ formula }) => formula.key === 'height')!;
    expect(height.spread.mean).toBeCloseTo(9, 9);
    expect(height.spread.standardDeviation).toBeCloseTo(Math.SQRT2, 9);
    expect(height.unit).toBe('mm');
    // 3 and 4 apart: 5, of which each lies half away.
    expect(spread.landmarks[0]).toMatchObject({
      key: 'styloid',
      deviationPx: expect.closeTo(5 / Math.SQRT2, 9)
    });
    expect(spread.landmarks[1].deviationPx).toBe(0);
    expect(guideSpreads(sets.slice(2))).toEqual([]);
  });
  it('of a guide of another version says so, of one that nobody knows is left out', () => {
    const body = on(
      'front',
      placed((point) => point),
      7
    );
    const [set] = guideSetsOf([{ picture: view('a', null), layers: layers(body) }]);
    expect(set.changed).toBe(true);
    const unknown = layers({ ...body, guide: 'of tomorrow' });
    expect(guideSetsOf([{ picture: view('a', null), layers: unknown }])).toEqual([]);
  });
});
