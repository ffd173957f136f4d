import { describe, expect, it } from 'vitest';
import { rootMeanSquare } from '../measurement/fit/linear';
import { type CorneaWish, cornea } from '../phantom/eye/cornea';
import { type EyePose, straightAhead } from '../phantom/eye/mirror';
import { type RingImageWish, ringImage } from '../phantom/eye/ringImage';
import { seededRandom } from '../random';
import { offFromTruthUm, rangeTo, trueEdgeAt } from '../phantom/scenes/eyeTakes';
import { patchOfRaster } from '../raster/patch';
import type { Raster } from '../raster/raster';
import { advisedGaze, coverageOf, heldLids } from './coverage';
import { type TakeFit, fitTake } from './fitTake';
import { joined } from './join';
import { eyeParts, widthLandmarks } from './limbusPupil';
import {
  axialPower,
  bestConic,
  bestSphere,
  keratometry,
  rmsOfOrder,
  sagAt,
  tangentialPower,
  zernikeOf
} from './maps';
import { qualityOf } from './quality';
import { type FoundRings, ringPoints, ringsIn } from './rings';
import { judgedSheet } from './spoilt';
import { SurfaceReader } from './surface';
import { quillTarget } from './target';

const target = quillTarget;
const shapes: Record<string, CorneaWish> = {
  sphere: { flatMm: 7.8 },
  toric: { flatMm: 8, steepMm: 7.5, axisDeg: 25 },
  conic: { flatMm: 7.6, q: -0.3 },
  cone: { flatMm: 7.8, q: -0.2, cone: { x: 0.7, y: 1, heightMm: 0.03, widthMm: 1.1 } }
};

function ringsOf(wish: Partial<RingImageWish> & { cornea: CorneaWish; pose: EyePose }): FoundRings {
  const found = ringsIn(ringImage({ target, seed: 3, ...wish }).raster, target);
  if (found.outcome === 'none') throw new Error(found.because);
  return found.rings;
}

const aside: EyePose = { gazeRightDeg: 14, gazeUpDeg: -9, shiftMm: [0.1, -0.1, 0.05], turningMm: 13.5 };
const cases = Object.entries(shapes).map(([name, shape], i) => {
  const pose = i % 2 === 0 ? { ...straightAhead, shiftMm: [0.06, -0.08, 0.04] as const } : aside;
  const rings = ringsOf({ cornea: shape, pose, nose: { side: 'right', reachMm: 1.2 }, tearBreak: 0.1 });
  const fit = fitTake(rings, target, { mm: rangeTo(shape, pose, target), uncertaintyMm: 0.005 });
  return { name, shape, pose, rings, fit };
});

describe.each(cases)('one take of a $name', ({ shape, pose, rings, fit }) => {
  it('has its rings where the law of reflection puts them, and uses none of another number', () => {
    const truly = trueEdgeAt(shape, pose, target);
    const used = new Set(
      fit.edges.filter((each) => each.used).map(({ edge, meridian }) => `${edge} ${meridian}`)
    );
    let wrong = 0;
    const offs: number[] = [];
    const points = ringPoints(rings);
    for (const { edge, meridian, image } of points) {
      if (!used.has(`${edge} ${meridian}`)) continue;
      const truth = truly(image);
      // Just outside the last edge the target ends and nothing is counted.
      if (truth === null && edge >= target.edges.length - 2) continue;
      if (truth === null || Math.abs(truth - edge) > 0.5) wrong++;
      else offs.push(truth - edge);
    }
    expect(points.length).toBeGreaterThan(0.6 * rings.meridians * target.edges.length);
    expect(used.size).toBeGreaterThan(0.9 * points.length);
    expect(wrong / points.length).toBeLessThan(0.002);
    expect(rootMeanSquare(offs)).toBeLessThan(0.06);
  });
  it('gives the surface to a micrometre over 7 mm, and says what is left', () => {
    const reader = new SurfaceReader(fit.surface);
    expect(
      rootMeanSquare(offFromTruthUm(shape, pose, (x, y) => reader.at(x, y).z, fit.surface.middle, 3.5))
    ).toBeLessThan(1);
    expect(fit.rmsUm).toBeLessThan(0.2);
    expect(fit.because).toBe('settled');
    expect(fit.startOffUm).toBeLessThan(40);
  });
});

it('a sphere’s radius comes out within a hundredth of a millimetre, its powers with it', () => {
  const { fit } = cases[0];
  const reader = new SurfaceReader(fit.surface);
  const { x, y } = fit.surface.middle;
  const centred = { at: (u: number, v: number) => reader.at(x + u, y + v) } as SurfaceReader;
  expect(Math.abs(bestSphere(centred, 6).radiusMm - 7.8)).toBeLessThan(0.01);
});

it('a distance that is off by a tenth of a millimetre shifts the radius by a few hundredths', () => {
  const { rings, shape, pose } = cases[0];
  const near = fitTake(rings, target, { mm: rangeTo(shape, pose, target) + 0.1, uncertaintyMm: 0.005 });
  const reader = new SurfaceReader(near.surface);
  const centred = {
    at: (u: number, v: number) => reader.at(near.surface.middle.x + u, near.surface.middle.y + v)
  } as SurfaceReader;
  const off = Math.abs(bestSphere(centred, 6).radiusMm - 7.8);
  expect(off).toBeGreaterThan(0.005);
  expect(off).toBeLessThan(0.05);
});

describe('limbus and pupil', () => {
  it('are found behind the rings, to a fiftieth of the iris, and proposed for the guide', () => {
    for (const [irisMm, pupilMm] of [
      [5.6, 1.6],
      [6.1, 2.3]
    ]) {
      const { raster } = ringImage({
        cornea: shapes.sphere,
        pose: straightAhead,
        target,
        seed: 8,
        irisMm,
        pupilMm
      });
      const parts = eyeParts(patchOfRaster(raster))!;
      // The limbus lies two to three millimetres further from the camera than the apex, and looks that much smaller.
      expect(Math.abs(parts.limbus.radiusPx / target.pxPerMm / (irisMm * 0.99) - 1)).toBeLessThan(0.02);
      expect(Math.abs(parts.pupil.radiusPx / target.pxPerMm / (pupilMm * 1.06 * 0.99) - 1)).toBeLessThan(
        0.06
      );
      const proposed = widthLandmarks(parts);
      expect(proposed['limbus right'].x - proposed['limbus left'].x).toBeCloseTo(
        2 * parts.limbus.radiusPx,
        6
      );
    }
  });
  it('of an eye that looks far aside are not told', () => {
    const { raster } = ringImage({
      cornea: shapes.sphere,
      pose: { ...aside, gazeRightDeg: 16 },
      target,
      seed: 8
    });
    expect(eyeParts(patchOfRaster(raster))).toBeNull();
  });
});

describe('pictures that hold no eye', () => {
  const grey = (of: (x: number, y: number) => number): Raster => {
    const { width, height } = target;
    const data = Uint8Array.from({ length: width * height }, (_, i) => of(i % width, Math.floor(i / width)));
    return { width, height, channels: 1, bitsStored: 8, offset: 0, data };
  };
  it.each([
    ['one grey', grey(() => 90)],
    ['skin', grey((x, y) => 100 + 20 * Math.sin(x / 30) * Math.cos(y / 25))],
    ['stripes', grey((x) => (Math.floor(x / 7) % 2 ? 180 : 20))]
  ])('%s: said in words', (_, raster) => {
    const found = ringsIn(raster, target);
    expect(found.outcome).toBe('none');
    expect(found.outcome === 'none' && found.because.length).toBeGreaterThan(20);
  });
  it('a shut lid: said in words, or a quality that asks for another take', () => {
    const blink = ringImage({
      cornea: shapes.sphere,
      pose: straightAhead,
      target,
      seed: 5,
      blink: true
    }).raster;
    const found = ringsIn(blink, target);
    if (found.outcome === 'found') expect(qualityOf(found.rings, target).percent).toBeLessThan(60);
    else expect(found.because).toContain('lid');
  });
  it('an open eye has a quality that keeps it', () => {
    expect(qualityOf(cases[0].rings, target).percent).toBeGreaterThan(80);
  });
});

describe('several gazes joined', () => {
  const shape: CorneaWish = { flatMm: 8, steepMm: 7.6, axisDeg: 20, q: -0.2 };
  const random = seededRandom(9);
  const gazes: [number, number][] = [
    [0, 0],
    [17, 0],
    [-17, 0],
    [0, 17],
    [0, -17]
  ];
  const poses = gazes.map(([right, up], i): EyePose =>
    i === 0
      ? { ...straightAhead, shiftMm: [0.05, -0.08, 0.03] }
      : {
          gazeRightDeg: right + 0.5 * random.normal(),
          gazeUpDeg: up + 0.5 * random.normal(),
          shiftMm: [0.1 * random.normal(), 0.1 * random.normal(), 0.05 * random.normal()],
          turningMm: 13.5
        }
  );
  const fits: TakeFit[] = poses.map((pose, i) =>
    fitTake(ringsOf({ cornea: shape, pose, seed: 20 + i }), target, {
      mm: rangeTo(shape, pose, target) + 0.003 * random.normal(),
      uncertaintyMm: 0.005
    })
  );
  const takes = fits.map((fit, i) => ({ fit, gazeRightDeg: gazes[i][0], gazeUpDeg: gazes[i][1] }));
  it('make one surface, and find how far the eye had turned', () => {
    let rounds = 0;
    const sheet = joined(takes, target, () => rounds++);
    expect(rounds).toBe(sheet.iterations);
    expect(sheet.converged).toBe(true);
    const reader = new SurfaceReader(sheet.surface);
    const pose = sheet.takes[0].pose;
    const offs = offFromTruthUm(
      shape,
      poses[0],
      (x, y) => reader.at(x - pose.x, y - pose.y).z - pose.towards,
      pose,
      5
    );
    expect(rootMeanSquare(offs)).toBeLessThan(3);
    sheet.takes.forEach(({ pose, agreeing }, i) => {
      expect(agreeing).toBeGreaterThan(0.9);
      if (i > 0) expect(Math.abs((pose.right * 180) / Math.PI - poses[i].gazeRightDeg)).toBeLessThan(0.25);
    });
  });
  it('say what is covered, and the gaze that would add most, which then adds about that', () => {
    const three = takes.slice(0, 3);
    const sheet = joined(three, target);
    const reader = new SurfaceReader(sheet.surface);
    const radiusMm = 5.75;
    const have = coverageOf(
      three,
      sheet.takes.map(({ pose }) => pose),
      radiusMm
    );
    const one = coverageOf(three.slice(0, 1), [sheet.takes[0].pose], radiusMm);
    expect(have.share).toBeGreaterThan(one.share + 0.1);
    const advice = advisedGaze(reader, have, sheet.takes[0].pose, target, heldLids)!;
    // To the sides it has been looked already: up or down is what is missing.
    expect(Math.abs(advice.upDeg)).toBeGreaterThan(Math.abs(advice.rightDeg));
    const pose: EyePose = {
      gazeRightDeg: advice.rightDeg,
      gazeUpDeg: advice.upDeg,
      shiftMm: [0, 0, 0],
      turningMm: 13.5
    };
    const fit = fitTake(ringsOf({ cornea: shape, pose, seed: 60 }), target, {
      mm: rangeTo(shape, pose, target),
      uncertaintyMm: 0.005
    });
    const four = [...three, { fit, gazeRightDeg: advice.rightDeg, gazeUpDeg: advice.upDeg }];
    const after = joined(four, target);
    const now = coverageOf(
      four,
      after.takes.map((each) => each.pose),
      radiusMm
    );
    expect(now.share - have.share).toBeGreaterThan(0.6 * advice.adds);
    const nine = coverageOf(
      takes,
      joined(takes, target).takes.map((each) => each.pose),
      radiusMm
    );
    expect(nine.share).toBeGreaterThan(0.9);
  });
  const good = {
    percent: 90,
    description: 'Good.',
    seen: 0.9,
    fewest: { quarter: 'above' as const, seen: 0.8 }
  };
  it('name the one that is of another eye, and join the rest without it', () => {
    const other: CorneaWish = { flatMm: 7.4, steepMm: 7.3, axisDeg: 80 };
    const wrong = fitTake(ringsOf({ cornea: other, pose: poses[3], seed: 70 }), target, {
      mm: rangeTo(other, poses[3], target),
      uncertaintyMm: 0.005
    });
    const mixed = takes.map((each, i) => (i === 3 ? { ...each, fit: wrong } : each));
    const { sheet, verdicts } = judgedSheet(
      mixed,
      takes.map(() => good),
      target
    );
    expect(verdicts.map(({ again }) => again)).toEqual([false, false, false, true, false]);
    expect(verdicts[3].because).toContain('Take it again');
    expect(sheet.takes).toHaveLength(4);
  });
  it('all fit when none is spoilt, and a poor capture is said all the same', () => {
    const poor = { ...good, percent: 40, description: 'The lid or lashes hide the rings above.' };
    const { verdicts } = judgedSheet(takes, [good, good, poor, good, good], target);
    expect(verdicts.map(({ again }) => again)).toEqual([false, false, true, false, false]);
    expect(verdicts[2].because).toContain('lid');
  });
  it('can be cancelled from their progress, and need a take', () => {
    const stop = () => {
      throw new Error('cancelled');
    };
    expect(() => joined(takes, target, stop)).toThrow('cancelled');
    expect(() => joined([], target)).toThrow('at least one take');
  });
});

describe('maps of exact surfaces', () => {
  const plain = (wish: CorneaWish): SurfaceReader => {
    const shape = cornea(wish);
    return { at: (x: number, y: number) => shape.at(x, y) } as SurfaceReader;
  };
  it('a sphere of 7.8 mm has 43.27 dioptres everywhere', () => {
    const reader = plain({ flatMm: 7.8 });
    for (const [x, y] of [
      [0, 0],
      [1, 2],
      [-3, 1]
    ]) {
      expect(axialPower(reader, x, y)).toBeCloseTo(337.5 / 7.8, 2);
      expect(tangentialPower(reader, x, y)).toBeCloseTo(337.5 / 7.8, 2);
    }
    expect(bestConic(reader).q).toBeCloseTo(0, 3);
    expect(sagAt(reader, 10, 30)).toBeCloseTo(7.8 - Math.sqrt(7.8 ** 2 - 25), 6);
  });
  it('a toric has its radii in its keratometry', () => {
    const k = keratometry(plain({ flatMm: 8, steepMm: 7.5, axisDeg: 25 }));
    expect(Math.abs(k.flatMm - 8)).toBeLessThan(0.02);
    expect(Math.abs(k.steepMm - 7.5)).toBeLessThan(0.02);
    expect(k.steepAxisDeg).toBeCloseTo(115, 0);
  });
  it('a conic has its asphericity, and flattens towards the rim', () => {
    const reader = plain({ flatMm: 7.7, q: -0.3 });
    const { apexRadiusMm, q, rmsUm } = bestConic(reader);
    expect(apexRadiusMm).toBeCloseTo(7.7, 4);
    expect(q).toBeCloseTo(-0.3, 4);
    expect(rmsUm).toBeLessThan(0.01);
    expect(tangentialPower(reader, 3.5, 0)).toBeLessThan(axialPower(reader, 3.5, 0));
    expect(axialPower(reader, 3.5, 0)).toBeLessThan(axialPower(reader, 0.5, 0));
  });
  it('Zernike terms that were added come out as they went in', () => {
    const terms: [number, number][] = [
      [7, 2],
      [12, 1.5]
    ];
    const with_ = zernikeOf(plain({ flatMm: 7.8, zernike: { terms, radiusMm: 3 } }));
    const without = zernikeOf(plain({ flatMm: 7.8 }));
    expect(with_[7] - without[7]).toBeCloseTo(2, 3);
    expect(with_[12] - without[12]).toBeCloseTo(1.5, 3);
    expect(rmsOfOrder(with_, 3)).toBeCloseTo(2, 3);
    expect(() => zernikeOf(plain({ flatMm: 7.8 }), 6, 9)).toThrow('0 to 8');
  });
});
