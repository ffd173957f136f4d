import { describe, expect, it } from 'vitest';
import type { Place } from '../../anatomy/place';
import { legsScene } from '../../phantom/bones/legs';
import { wristScene } from '../../phantom/bones/wrist';
import { knownPoints } from '../../phantom/xray/radiograph';
import type { Point } from '../../raster/orientation';
import { distance } from '../geometry';
import { guides } from './all';
import { fittingGuides, tradeOf } from './fitting';
import { legAxes } from './legs';
import { type Likely, likelyPlace } from './likely';
import { distalRadius } from './wrist';

const [front] = distalRadius.views;
/** What the simulated body calls the guide's landmarks. */
const namesInBody: Record<string, string> = {
  styloid: 'radial styloid',
  'axis upper': 'radius axis near',
  'axis lower': 'radius axis far'
};
const size = { width: 1000, height: 1200 };
const place = (placed: Record<string, Point>, wanted: string) =>
  likelyPlace(front, placed, wanted, size) as Likely;
/** The drawing itself, turned, sized and moved. */
const seenBy =
  (through: (point: Point) => Point) =>
  (keys: readonly string[]): Record<string, Point> =>
    Object.fromEntries(
      front.landmarks
        .filter(({ key }) => keys.includes(key))
        .map(({ key, onSchematic: { x, y } }) => [key, through({ x: 1000 * x, y: 1200 * y })])
    );

describe('where a landmark is likely', () => {
  it('is where the drawing has it, in a wide ring, before anything is placed', () => {
    const { at, radius } = place({}, 'styloid');
    expect(at.x).toBeGreaterThan(200);
    expect(at.x).toBeLessThan(400);
    expect(radius).toBeGreaterThan(150);
    expect(likelyPlace(front, {}, 'no such', size)).toBeNull();
  });
  it('follows what is placed: turned, sized and moved, and in a mirror', () => {
    const turned = seenBy(({ x, y }) => ({ x: 300 + 0.5 * x - 0.2 * y, y: 100 + 0.2 * x + 0.5 * y }));
    const mirrored = seenBy(({ x, y }) => ({ x: 900 - 0.6 * x, y: 50 + 0.6 * y }));
    for (const seen of [turned, mirrored]) {
      const all = seen(front.landmarks.map(({ key }) => key));
      const {
        at,
        radius,
        mirrored: found
      } = place(seen(['axis upper', 'axis lower', 'styloid']), 'ulnar head');
      expect(found).toBe(seen === mirrored);
      expect(distance(at, all['ulnar head'])).toBeLessThan(1);
      expect(radius).toBeLessThan(60);
    }
  });
  it('is on the other side where somebody says that it is mirrored', () => {
    const plain = likelyPlace(front, {}, 'styloid', size)!;
    const other = likelyPlace(front, {}, 'styloid', size, true)!;
    expect(other.at.x).toBeCloseTo(1000 - plain.at.x, 9);
    expect([plain.mirrored, other.mirrored]).toEqual([false, true]);
  });
  it('does not jump where two lie in one place', () => {
    const same = { x: 300, y: 400 };
    const { at, radius } = place({ 'axis upper': same, 'axis lower': same }, 'styloid');
    expect(Number.isFinite(at.x + at.y)).toBe(true);
    expect(radius).toBeGreaterThan(100);
  });

  it('holds most landmarks of bodies that it was not drawn from, once three are placed', () => {
    let [inside, all] = [0, 0];
    for (const seed of [11, 12, 13, 14]) {
      const wrist = wristScene(
        { seed, side: 'right', inclinationDeg: 18 + seed, volarTiltDeg: 8, ulnarVarianceMm: 1 },
        'front'
      );
      const legs = legsScene({
        seed,
        right: { femurMm: 420, tibiaMm: 350, mLdfaDeg: 87, mPtaDeg: 86 },
        left: { femurMm: 425, tibiaMm: 355, mLdfaDeg: 89, mPtaDeg: 88 }
      });
      for (const [scene, view] of [
        [wrist, front],
        [legs, legAxes.views[0]]
      ] as const) {
        const known = Object.assign(
          {},
          ...scene.bodies.map(({ landmarks }) => knownPoints(scene.view, landmarks))
        ) as ReturnType<typeof knownPoints>;
        const placed: Record<string, Point> = {};
        for (const { key } of view.landmarks) {
          const truth = known[namesInBody[key] ?? key].imagePoint;
          if (Object.keys(placed).length >= 3) {
            const likely = likelyPlace(view, placed, key, scene.view)!;
            all++;
            if (distance(likely.at, truth) <= likely.radius) inside++;
          }
          placed[key] = truth;
        }
      }
    }
    expect(all).toBeGreaterThan(20);
    expect(inside / all).toBeGreaterThan(0.8);
  });
});

describe('guides for a picture', () => {
  const keysFor = (places: Place[], projection: Parameters<typeof fittingGuides>[0]['projection']) =>
    fittingGuides({ places, projection }).map(({ guide, view }) => `${guide.key} ${view}`);
  const wrist: Place = { kind: 'bone', region: 'wrist', side: 'right', whose: 'person' };
  it('are those made for its place and its way of being taken', () => {
    expect(keysFor([wrist], 'back to front')).toEqual(['distal-radius front']);
    expect(keysFor([wrist], 'from the side')).toEqual(['distal-radius side']);
    expect(keysFor([{ kind: 'tooth', tooth: 36 }], 'periapical')).toEqual([
      'working-length tooth',
      'crestal-bone tooth',
      'caries-depth tooth',
      'implant-site site'
    ]);
    expect(keysFor([{ kind: 'tooth', tooth: 36 }], 'bitewing')).toEqual([
      'crestal-bone tooth',
      'caries-depth tooth'
    ]);
    // The sinus lies over the upper back teeth alone.
    expect(keysFor([{ kind: 'tooth', tooth: 16 }], 'periapical')).toContain('sinus-height site');
    expect(keysFor([{ kind: 'tooth', tooth: 12 }], 'periapical')).not.toContain('sinus-height site');
    expect(keysFor([{ kind: 'trunk', region: 'chest', whose: 'person' }], 'from the side')).toEqual([]);
    expect(keysFor([{ kind: 'trunk', region: 'chest', whose: 'animal' }], 'from the side')).toEqual([
      'heart-score side',
      'heart-score-cat side',
      'chest-shape side'
    ]);
    expect(keysFor([{ kind: 'trunk', region: 'chest', whose: 'animal' }], 'front to back')).toEqual([
      'chest-shape above'
    ]);
    expect(keysFor([], null)).toEqual([]);
  });
  it('name views that the guides have, and every guide can be met', () => {
    expect(tradeOf([wrist])).toBe('bones');
    expect(tradeOf([])).toBeNull();
    for (const { views } of guides)
      for (const { lines = [], landmarks } of views)
        for (const key of lines.flat()) expect(landmarks.map((each) => each.key)).toContain(key);
  });
});
