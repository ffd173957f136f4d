import { describe, expect, it } from 'vitest';
import { length } from '../measurement/length';
import { seededRandom } from '../random';
import { ballScene } from '../phantom/scenes/ballScene';
import { projected } from '../phantom/xray/view';
import { patchOfRaster } from '../raster/patch';
import { combined, uniformWithin } from './budget';
import { findRound } from './markers/findRound';
import { scaleFromMarker, scaleFromSensor, sourceToMarker } from './markerScale';

describe('a scale from a marker', () => {
  const apart = {
    mm: -50,
    uncertaintyMm: 10,
    sourceToMarkerMm: 1140,
    sourceToMarkerUncertaintyMm: 20
  };
  const ball = { description: 'a steel ball of 25 mm', sizeMm: 25, toleranceMm: 0.1 };
  it('at another height than the bone gives the worked value', () => {
    const scale = scaleFromMarker(ball, { sizePx: 280, uncertaintyPx: 0.2 }, apart);
    expect(scale.mmPerPixelX).toBeCloseTo((25 / 280) * (1090 / 1140), 12);
    const expected = Math.hypot(0.2 / 280, 0.1 / Math.sqrt(3) / 25, 10 / 1090, (50 * 20) / 1140 / 1090);
    expect(scale.relativeUncertainty).toBeCloseTo(expected, 12);
  });
  it('is told how far the source is by the marker’s own magnification, else by what is usual', () => {
    const known = sourceToMarker({ mm: 1150, uncertaintyMm: 20 }, { value: 1.15, uncertainty: 0.01 });
    expect(known.sourceToMarkerMm).toBeCloseTo(1000, 9);
    expect(known.sourceToMarkerUncertaintyMm).toBeCloseTo(19.444, 3);
    const usual = sourceToMarker({ mm: 1150, uncertaintyMm: 0 }, null);
    expect(usual.sourceToMarkerMm).toBeCloseTo(1000, 9);
    expect(usual.sourceToMarkerUncertaintyMm).toBeCloseTo(75.3, 1);
  });
  it('without a word of the bone says that the marker is taken to be where the bone is', () => {
    const scale = scaleFromMarker(ball, { sizePx: 280, uncertaintyPx: 0.2 });
    expect(scale.mmPerPixelY).toBeCloseTo(25 / 280, 12);
    expect(scale.relativeUncertainty).toBeGreaterThan(0.005);
  });
  it('refuses sizes and heights that can’t be', () => {
    expect(() => scaleFromMarker({ ...ball, sizeMm: 0 }, { sizePx: 9, uncertaintyPx: 0 })).toThrow(
      'above 0 mm'
    );
    expect(() => scaleFromMarker(ball, { sizePx: NaN, uncertaintyPx: 0 })).toThrow('larger than 0');
    expect(() => scaleFromMarker(ball, { sizePx: 9, uncertaintyPx: 0 }, { ...apart, mm: -1200 })).toThrow(
      'between detector and source'
    );
    expect(() => combined([{ description: 'x', relative: NaN }])).toThrow('uncertainty of x');
  });
});

describe('a scale from the sensor', () => {
  it('is its size over its pixels', () => {
    const scale = scaleFromSensor({ width: 26, height: 34 }, { width: 1300, height: 1700 }, 0.1, {
      value: 1,
      uncertainty: 0
    });
    expect(scale.mmPerPixelX).toBeCloseTo(0.02, 12);
    expect(scale.relativeUncertainty).toBeCloseTo(uniformWithin(0.1) / 34, 12);
  });
  it('refuses a picture of another shape, and a magnification below 1', () => {
    expect(() => scaleFromSensor({ width: 26, height: 34 }, { width: 1700, height: 1300 }, 0.1)).toThrow(
      'turned'
    );
    expect(() =>
      scaleFromSensor({ width: 26, height: 34 }, { width: 1300, height: 1700 }, 0.1, {
        value: 0.9,
        uncertainty: 0
      })
    ).toThrow('1 or more');
  });
});

it('lengths after scaling by a ball found by itself are inside their ± in 95 of 100, and the ± is not too wide', () => {
  let held = 0;
  const errors: number[] = [];
  let claimed = 0;
  const count = 40;
  for (let k = 0; k < count; k++) {
    const random = seededRandom(7000 + k);
    const scene = ballScene(
      { width: 420, height: 460, ballsPx: [30 + 40 * random.uniform()], besideBone: k % 2 === 0 },
      random,
      k
    );
    const [truth] = scene.balls;
    const search = findRound(patchOfRaster(scene.raster), {
      kind: 'ball',
      diameterMm: truth.diameterMm,
      diameterPx: { least: truth.diameterPx * 0.7, most: truth.diameterPx * 1.4 },
      hint: { at: truth.center, withinPx: 30 }
    });
    const ball = search.outcome === 'found' ? search.best : search.others[0];
    // The ball's size is off by up to its tolerance, its height by some millimetres; the bone is 15 mm further up.
    const tolerance = 0.02 * truth.diameterMm;
    const nominal = truth.diameterMm + tolerance * (2 * random.uniform() - 1);
    const sourceToDetectorMm = 1090;
    const boneMm = 90 - 15 * random.uniform();
    const magnification = (truth.diameterPx * scene.pitchMm) / truth.diameterMm;
    const markerMm = sourceToDetectorMm * (1 - 1 / magnification);
    const said = { mm: sourceToDetectorMm * (1 + 0.02 * random.normal()), uncertaintyMm: 22 };
    const scale = scaleFromMarker(
      { description: 'a ball', sizeMm: nominal, toleranceMm: tolerance },
      { sizePx: ball.diameterPx, uncertaintyPx: ball.uncertaintyPx },
      {
        mm: markerMm - boneMm + 5 * random.normal(),
        uncertaintyMm: 5,
        ...sourceToMarker(said, { value: magnification, uncertainty: 0.001 })
      }
    );
    const z = 90 - boneMm;
    const a = projected(scene.view, [-18, -10, z]);
    const b = projected(scene.view, [14, 12, z]);
    const placed = (p: { x: number; y: number }) => ({
      x: p.x + 0.8 * random.normal(),
      y: p.y + 0.8 * random.normal(),
      uncertaintyPx: 0.8
    });
    const { value, plusMinus } = length([placed(a), placed(b)], scale);
    const error = Math.abs(value - Math.hypot(32, 22));
    if (error <= plusMinus) held++;
    errors.push(error);
    claimed += plusMinus / count;
  }
  errors.sort((x, y) => x - y);
  expect(held).toBeGreaterThanOrEqual(0.92 * count);
  expect(claimed).toBeLessThan(1.5 * Math.max(errors[Math.floor(0.95 * count)], 0));
});
