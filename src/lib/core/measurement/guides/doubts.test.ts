import { describe, expect, it } from 'vitest';
import { dogHipsScene } from '../../phantom/animals/dogHips';
import { legsScene } from '../../phantom/bones/legs';
import { neckScene } from '../../phantom/bones/neck';
import { spineFrontScene } from '../../phantom/bones/spine';
import { wristScene } from '../../phantom/bones/wrist';
import { knownPoints } from '../../phantom/xray/radiograph';
import { seededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import type { Scene } from '../../phantom/bones/kit';
import { guides } from './all';
import { hipCover } from './dogHips';
import { doubtOf } from './doubts';
import type { GuideView } from './guide';
import { legAxes } from './legs';
import { neckCurve } from './neck';
import { spineCurve } from './spineCurve';
import { distalRadius } from './wrist';

const inBody: Record<string, string> = {
  styloid: 'radial styloid',
  'axis upper': 'radius axis near',
  'axis lower': 'radius axis far'
};
/** The landmarks of a view as a simulated picture shows them. */
function seenIn({ landmarks }: GuideView, { bodies, view }: Scene): Record<string, Point> {
  const known = knownPoints(view, Object.assign({}, ...bodies.map((body) => body.landmarks)));
  return Object.fromEntries(
    landmarks.flatMap(({ key }) => {
      const found = known[inBody[key] ?? key];
      return found ? [[key, found.imagePoint]] : [];
    })
  );
}
const through = (points: Record<string, Point>, of: (point: Point) => Point) =>
  Object.fromEntries(Object.entries(points).map(([key, point]) => [key, of(point)]));

const bodies: [string, GuideView, Scene][] = [
  [
    'wrist',
    distalRadius.views[0],
    wristScene({ seed: 5, side: 'right', inclinationDeg: 14, volarTiltDeg: 2, ulnarVarianceMm: 4 }, 'front')
  ],
  [
    'legs',
    legAxes.views[0],
    legsScene({
      seed: 5,
      right: { femurMm: 400, tibiaMm: 350, mLdfaDeg: 80, mPtaDeg: 92 },
      left: { femurMm: 440, tibiaMm: 330, mLdfaDeg: 94, mPtaDeg: 80 }
    })
  ],
  [
    'spine',
    spineCurve.views[0],
    spineFrontScene({ seed: 5, curves: [{ upper: 'T5', lower: 'T11', cobbDeg: 55, convex: 'right' }] })
  ],
  [
    'bent neck',
    neckCurve.views[1],
    neckScene({ seed: 5, position: 'bent', segmentsDeg: [-9, -10, -11, -12, -8] })
  ],
  ['hips of a dog', hipCover.views[0], dogHipsScene({ seed: 5, rightDeg: 112, leftDeg: 84 })]
];

describe('what is placed', () => {
  it.each(bodies)('on a %s that was not drawn from is not doubted, turned or not', (_, view, scene) => {
    const seen = seenIn(view, scene);
    expect(Object.keys(seen).length).toBeGreaterThanOrEqual(4);
    expect(doubtOf(view, seen)).toBeNull();
    expect(
      doubtOf(
        view,
        through(seen, ({ x, y }) => ({ x: x - 0.2 * y, y: y + 0.2 * x }))
      )
    ).toBeNull();
  });
  it('is doubted where the patient’s right lies on the other side', () => {
    for (const [name, view, scene] of bodies.filter(([name]) => !/wrist|neck/.test(name)))
      expect(
        doubtOf(
          view,
          through(seenIn(view, scene), ({ x, y }) => ({ x: -x, y }))
        ),
        name
      ).toBe('mirrored');
    // A wrist has no two sides: it may be the other one.
    const [, wrist, scene] = bodies[0];
    expect(
      doubtOf(
        wrist,
        through(seenIn(wrist, scene), ({ x, y }) => ({ x: -x, y }))
      )
    ).toBeNull();
  });
  it('is doubted where it lies anyhow, and hardly ever is nothing said of that', () => {
    const random = seededRandom(31);
    let [told, all] = [0, 0];
    for (const { views } of guides)
      for (const view of views) {
        const own = view.landmarks.filter(({ beside }) => !beside);
        if (own.length < 7) continue;
        for (let i = 0; i < 5; i++) {
          const anyhow = Object.fromEntries(
            own.map(({ key }) => [key, { x: 1000 * random.uniform(), y: 1000 * random.uniform() }])
          );
          all++;
          if (doubtOf(view, anyhow)) told++;
        }
      }
    expect(all).toBeGreaterThan(40);
    expect(told / all).toBeGreaterThan(0.9);
  });
  it('in one place, or by a few landmarks alone, tells nothing', () => {
    const [view] = legAxes.views;
    expect(
      doubtOf(view, Object.fromEntries(view.landmarks.map(({ key }) => [key, { x: 5, y: 5 }])))
    ).toBeNull();
    expect(doubtOf(view, { 'right hip': { x: 1, y: 2 }, 'right knee': { x: 90, y: 1 } })).toBeNull();
    expect(doubtOf(view, {})).toBeNull();
  });
});
