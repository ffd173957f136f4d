import { describe, expect, it } from 'vitest';
import type { PlacedPoint } from '../../calibration/scale';
import { dogHipsScene } from '../../phantom/animals/dogHips';
import { dogStifleScene } from '../../phantom/animals/dogSide';
import { spineFrontScene } from '../../phantom/bones/spine';
import { wristScene } from '../../phantom/bones/wrist';
import { bodyPicture } from '../../phantom/foreign/bodyPicture';
import { roundJoint } from '../../phantom/foreign/roundJoint';
import { toothRoot } from '../../phantom/foreign/toothRoot';
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
import { crestalBone, workingLength } from './teeth';
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

describe('the end of a root', () => {
  const [tooth] = workingLength.views;
  const presses = (
    random: SeededRandom,
    { entrance, middle, tip }: Pick<ReturnType<typeof toothRoot>, 'entrance' | 'middle' | 'tip'>
  ) => {
    const long = far(entrance, tip);
    return {
      long,
      placed: {
        'canal 1': pressed(random, entrance, 0.03 * long),
        'canal 2': pressed(random, middle, 0.03 * long),
        apex: pressed(random, tip, 0.05 * long)
      }
    };
  };

  it('is found from a rough press in pictures of other detectors, or nothing is told', () => {
    const tally = { right: 0, wrong: 0, falsely: 0 };
    for (let i = 0; i < 4; i++) {
      const random = seededRandom(4200 + i);
      const drawn = toothRoot(families[i % 4], random);
      const { long, placed } = presses(random, drawn);
      const found = sharpenedBy(tooth, placed, patchOfRaster(drawn.raster));
      if (found.apex) tally[far(found.apex, drawn.tip) < 0.035 * long ? 'right' : 'wrong']++;
    }
    for (let i = 0; i < 1; i++) {
      const random = seededRandom(4300 + i);
      const bare = toothRoot(families[i], random, { root: false });
      const found = sharpenedBy(tooth, presses(random, bare).placed, patchOfRaster(bare.raster));
      tally.falsely += Number(Boolean(found.apex));
    }
    expect(tally).toMatchObject({ wrong: 0, falsely: 0 });
    expect(tally.right).toBeGreaterThanOrEqual(2);
  });
  it('brings what lies along the root onto its axis, and nothing that lies beside it', () => {
    const { patch, tip } = bluntRoot();
    const placed = {
      'canal 1': { x: 150, y: 100, uncertaintyPx: 1 },
      'canal 2': { x: 138, y: 215, uncertaintyPx: 1 },
      'canal 3': { x: 190, y: 250, uncertaintyPx: 1 },
      apex: { x: 156, y: 292, uncertaintyPx: 1 }
    };
    const found = sharpenedBy(tooth, placed, patch);
    expect(far(found.apex, tip)).toBeLessThan(2);
    expect(found['canal 2'].x).toBeCloseTo(150, 0);
    expect(found['canal 2'].y).toBeCloseTo(215, 0);
    expect(found['canal 3']).toBeUndefined();
    expect(found['canal 1']).toBeUndefined();
    // A press that moves takes the proposal off: it says which ones it rests on.
    expect(found.apex.pressed).toEqual([
      { x: 156, y: 292 },
      { x: 150, y: 100 }
    ]);
    const axis = found.apex.path!.axis;
    expect(axis.every(({ x }) => Math.abs(x - 150) < 2)).toBe(true);
    expect(far(axis[0], tip)).toBeLessThan(2);
  });
  it('is the same in a picture where dense is dark, and on its head', () => {
    const { patch, tip } = bluntRoot();
    const dark: Patch = { ...patch, data: patch.data.map((value) => 255 - value) };
    const upside: Patch = { ...patch, data: Float32Array.from(patch.data).reverse() };
    const sides = (turn: (point: Point) => Point) =>
      Object.fromEntries(
        Object.entries({
          'mesial junction': { x: 118, y: 100 },
          'distal junction': { x: 182, y: 100 },
          apex: { x: 145, y: 290 }
        }).map(([key, at]) => [key, { ...turn(at), uncertaintyPx: 1 }])
      );
    const turned = ({ x, y }: Point) => ({ x: patch.width - x, y: patch.height - y });
    const [view] = crestalBone.views;
    expect(far(sharpenedBy(view, sides(plain), dark).apex, tip)).toBeLessThan(2);
    expect(far(sharpenedBy(view, sides(turned), upside).apex, turned(tip))).toBeLessThan(2);
  });
  it('is not told while a landmark above it is missing', () => {
    const { patch } = bluntRoot();
    const apex = { x: 145, y: 290, uncertaintyPx: 1 };
    const one = { 'mesial junction': { x: 118, y: 100, uncertaintyPx: 1 }, apex };
    expect(sharpenedBy(crestalBone.views[0], one, patch)).toEqual({});
  });
  const plain = (point: Point) => point;
});

/** A root of plain greys, upright about x = 150, with a ligament and a wall around it. */
function bluntRoot(): { patch: Patch; tip: Point } {
  const [width, height, tipY, cap] = [300, 400, 300, 60];
  const random = seededRandom(9);
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, s] = [Math.abs(x + 0.5 - width / 2), tipY - y - 0.5];
      const half = s <= 0 ? 0 : s < cap ? 25 * Math.sqrt(1 - (1 - s / cap) ** 2) : 25 + 0.06 * (s - cap);
      const off = s > -12 ? u - half : Infinity;
      const grey = off < 0 ? 180 : off < 6 && s > -6 ? 90 : off < 12 ? 165 : 140;
      data[y * width + x] = grey + Math.round(6 * random.uniform());
    }
  return {
    patch: patchOfRaster({ width, height, channels: 1, bitsStored: 8, offset: 0, data }),
    tip: { x: width / 2, y: tipY }
  };
}

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
