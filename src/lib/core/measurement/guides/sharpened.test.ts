import { describe, expect, it } from 'vitest';
import type { PlacedPoint } from '../../calibration/scale';
import { dogHipsScene } from '../../phantom/animals/dogHips';
import { dogStifleScene } from '../../phantom/animals/dogSide';
import { spineFrontScene } from '../../phantom/bones/spine';
import { wristScene } from '../../phantom/bones/wrist';
import { bodyPicture } from '../../phantom/foreign/bodyPicture';
import { roundJoint } from '../../phantom/foreign/roundJoint';
import { type SeededRandom, seededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import { type Patch, patchOf, patchOfRaster } from '../../raster/patch';
import { edgeNear } from '../edge/edgeNear';
import { linesDeg } from '../geometry';
import { hipCover } from './dogHips';
import { plateauAngle } from './plateauAngle';
import type { GuideView } from './guide';
import { sharpenedBy } from './sharpened';
import { spineCurve } from './spineCurve';
import { distalRadius } from './wrist';

const families = ['linear', 'logarithmic', 'curved', 'root'] as const;
/** Somebody's press: off by up to so much either way. */
const pressed = (random: SeededRandom, { x, y }: Point, off: number): PlacedPoint => ({
  x: x + off * (2 * random.uniform() - 1),
  y: y + off * (2 * random.uniform() - 1),
  uncertaintyPx: 2
});
const far = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);
const headView: GuideView = {
  key: 'joint',
  name: 'Joint',
  landmarks: [],
  sharpens: [{ kind: 'round', landmark: 'head' }]
};

describe('the middle of a round head', () => {
  it('is found from a rough press in pictures of other detectors, or nothing is told', () => {
    const tally = { right: 0, wrong: 0, falsely: 0 };
    for (let i = 0; i < 4; i++) {
      const random = seededRandom(3100 + i);
      const { raster, head } = roundJoint(families[i % 4], random);
      const found = sharpenedBy(
        headView,
        { head: pressed(random, head.center, 0.3 * head.radiusPx) },
        patchOfRaster(raster)
      );
      if (found.head) tally[far(found.head, head.center) < 0.08 * head.radiusPx ? 'right' : 'wrong']++;
      const bare = roundJoint(families[i % 4], random, { head: false });
      const press = pressed(random, bare.head.center, 0.3 * bare.head.radiusPx);
      if (sharpenedBy(headView, { head: press }, patchOfRaster(bare.raster)).head) tally.falsely++;
    }
    expect(tally.wrong).toBe(0);
    expect(tally.falsely).toBe(0);
    expect(tally.right).toBeGreaterThanOrEqual(2);
  });
  it('is told with its outline in a dog’s hips', () => {
    const random = seededRandom(77);
    const { raster, known } = bodyPicture(
      dogHipsScene({ seed: 5, rightDeg: 104, leftDeg: 96 }),
      'curved',
      random
    );
    const truth = (key: string) => known[key].imagePoint;
    const placed = Object.fromEntries(
      ['right head', 'left head'].map((key) => [key, pressed(random, truth(key), 14)])
    );
    const found = sharpenedBy(hipCover.views[0], placed, patchOfRaster(raster));
    for (const key of ['right head', 'left head']) {
      expect(far(found[key], truth(key)), key).toBeLessThan(3.5);
      expect(found[key].outline!.radiusPx).toBeGreaterThan(50);
      expect(found[key].pressed).toEqual([{ x: placed[key].x, y: placed[key].y }]);
    }
  });
});

describe('edges and shafts between two presses', () => {
  const angleOff = (truth: readonly Point[], at: readonly Point[]) =>
    linesDeg(truth[0], truth[1], at[0], at[1]);

  it('turn a rough line onto a joint surface, an end plate, a shaft', () => {
    const random = seededRandom(4);
    const stifle = bodyPicture(dogStifleScene({ seed: 3, plateauDeg: 23 }), 'root', random);
    const ends = ['plateau front', 'plateau back'];
    const truth = ends.map((key) => stifle.known[key].imagePoint);
    const press = Object.fromEntries(ends.map((key, i) => [key, pressed(random, truth[i], 14)]));
    const found = sharpenedBy(plateauAngle.views[0], press, patchOfRaster(stifle.raster));
    expect(
      angleOff(
        truth,
        ends.map((key) => found[key])
      )
    ).toBeLessThan(1.2);
    // Where along the surface they lie is told by the press alone, and so is how surely.
    expect(found['plateau front'].uncertaintyPx).toBe(2);

    const wrist = bodyPicture(
      wristScene(
        { seed: 2, side: 'right', inclinationDeg: 24, volarTiltDeg: 9, ulnarVarianceMm: 1 },
        'front'
      ),
      'linear',
      random
    );
    const [near, distant] = ['radius axis near', 'radius axis far'].map((key) => wrist.known[key].imagePoint);
    const on = (share: number) => ({
      x: distant.x + share * (near.x - distant.x),
      y: distant.y + share * (near.y - distant.y)
    });
    const shaft = sharpenedBy(
      distalRadius.views[0],
      { 'axis upper': pressed(random, on(0.55), 7), 'axis lower': pressed(random, on(0.05), 7) },
      patchOfRaster(wrist.raster)
    );
    expect(angleOff([near, distant], [shaft['axis upper'], shaft['axis lower']])).toBeLessThan(0.8);
  });

  it('of a spine are mostly told, and what is told is right to two degrees', () => {
    const random = seededRandom(8);
    const curves = [{ upper: 'T5', lower: 'T11', cobbDeg: 31, convex: 'right' as const }];
    const { raster, known } = bodyPicture(spineFrontScene({ seed: 6, curves }), 'logarithmic', random);
    const [view] = spineCurve.views;
    const keys = view.landmarks.map(({ key }) => key).filter((key) => known[key]?.inPicture);
    const placed = Object.fromEntries(keys.map((key) => [key, pressed(random, known[key].imagePoint, 8)]));
    const found = sharpenedBy(view, placed, patchOfRaster(raster));
    const told = view.lines!.filter((ends) => ends.every((key) => found[key]));
    expect(told.length).toBeGreaterThanOrEqual(6);
    for (const [a, b] of told)
      expect(angleOff([known[a].imagePoint, known[b].imagePoint], [found[a], found[b]]), a).toBeLessThan(2);
  });

  it('are none in noise, in an even picture, beyond the rim, or for one press alone', () => {
    const random = seededRandom(9);
    const size = { width: 500, height: 400 };
    const noise = patchOf(
      Float32Array.from({ length: 200_000 }, () => random.normal()),
      size
    );
    const even = patchOf(new Float32Array(200_000).fill(7), size);
    const [view] = plateauAngle.views;
    const all = (patch: Patch, x: number) =>
      sharpenedBy(
        view,
        Object.fromEntries(
          ['plateau front', 'plateau back', 'shaft upper', 'shaft lower'].map((key, i) => [
            key,
            { x: x + 90 * i, y: 200 + 10 * i, uncertaintyPx: 2 }
          ])
        ),
        patch
      );
    expect(all(noise, 100)).toEqual({});
    expect(all(even, 100)).toEqual({});
    expect(all(noise, 5000)).toEqual({});
    expect(all(noise, -900)).toEqual({});
    expect(sharpenedBy(view, { 'plateau front': { x: 200, y: 200, uncertaintyPx: 2 } }, noise)).toEqual({});
    expect(sharpenedBy(headView, { head: { x: 250, y: 200, uncertaintyPx: 2 } }, noise)).toEqual({});
  });
});

describe('a press beside an edge', () => {
  const random = seededRandom(12);
  /** Dark on the left, bright on the right of a slanting line through (60, 50), noisy. */
  const slanted = patchOf(
    Float32Array.from({ length: 12_000 }, (_, i) => {
      const [x, y] = [(i % 120) + 0.5, Math.floor(i / 120) + 0.5];
      const off = (x - 60) * 0.8 + (y - 50) * 0.6;
      return 1000 / (1 + Math.exp(-off)) + 8 * random.normal();
    }),
    { width: 120, height: 100 }
  );
  it('is pulled to it, and no further than it may', () => {
    for (const off of [-6, -2, 3, 7]) {
      const found = edgeNear(slanted, { x: 60 + 0.8 * off, y: 50 + 0.6 * off }, 9)!;
      expect(Math.abs((found.x - 60) * 0.8 + (found.y - 50) * 0.6)).toBeLessThan(0.7);
    }
    expect(edgeNear(slanted, { x: 20, y: 30 }, 9)).toBeNull();
  });
  it('stays where nothing stands out', () => {
    const noise = patchOf(
      Float32Array.from({ length: 10_000 }, () => random.normal()),
      { width: 100, height: 100 }
    );
    expect(edgeNear(noise, { x: 50, y: 50 }, 8)).toBeNull();
    expect(() => edgeNear(noise, { x: 50, y: 50 }, 1)).toThrow('2 pixels');
  });
});
