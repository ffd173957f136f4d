import { describe, expect, it } from 'vitest';
import type { PlacedPoint, Scale } from '../../calibration/scale';
import { dogHipsScene } from '../../phantom/animals/dogHips';
import { dogChestScene, dogStifleScene } from '../../phantom/animals/dogSide';
import type { Scene } from '../../phantom/bones/kit';
import { legsScene } from '../../phantom/bones/legs';
import { neckScene } from '../../phantom/bones/neck';
import { spineFrontScene, spineSideScene } from '../../phantom/bones/spine';
import { wristScene } from '../../phantom/bones/wrist';
import { figurePhotograph } from '../../phantom/photo/figure';
import { seededRandom } from '../../random';
import { type Vec3, add, times } from '../../phantom/space';
import { knownPoints } from '../../phantom/xray/radiograph';
import { guides } from './all';
import { hipCover } from './dogHips';
import { heartOfCats, heartScore } from './heartScore';
import { plateauAngle } from './plateauAngle';
import { cariesDepth } from './caries';
import { chestShape } from './catChest';
import { elbowFit } from './dogElbow';
import { shoulderRoom } from './shoulder';
import { kneeCapOfDogs } from './dogKneeCap';
import { hoof } from './hoof';
import { implantSite, sinusHeight } from './implantSite';
import { spineBalance } from './spineBalance';
import { type GuideResult, type PlacedView, evaluated } from './evaluate';
import { hipRoof } from './childHip';
import { eyeWidths } from './eye';
import { greatToe, heelBone } from './foot';
import { kneeCap } from './knee';
import { type Guide, sourceInWords } from './guide';
import { legAxes, legLengthDifference } from './legs';
import { neckCurve } from './neck';
import { pelvisSide } from './pelvis';
import { posture } from './posture';
import { curvesOf, spineCurve } from './spineCurve';
import { crestalBone, workingLength } from './teeth';
import { distalRadius } from './wrist';

const mm: Scale = { source: 'line', mmPerPixelX: 1, mmPerPixelY: 1, relativeUncertainty: 0, description: '' };
const at = (x: number, y: number): PlacedPoint => ({ x, y, uncertaintyPx: 0.5 });
const value = (results: GuideResult[], key: string): number => {
  const found = results.find(({ formula }) => formula.key === key);
  if (found?.outcome !== 'value') throw new Error(`${key}: ${JSON.stringify(found)}`);
  return found.value.value;
};

/** Landmarks of the room seen from a direction without perspective, so that formulas meet the truth exactly. */
type Seen = Record<string, PlacedPoint>;
const landmarksOf = (scene: Scene): Record<string, Vec3> =>
  Object.assign({}, ...scene.bodies.map(({ landmarks }) => landmarks)) as Record<string, Vec3>;
const seen = (landmarks: Record<string, Vec3>, x: (p: Vec3) => number): Seen =>
  Object.fromEntries(Object.entries(landmarks).map(([key, p]) => [key, at(x(p), -p[2])]));
/** From the front: the patient's left, x above 0, is on the right of the picture. */
const fromFront = (scene: Scene): Seen => seen(landmarksOf(scene), (p) => p[0]);
/** From the side, the patient looks to the left: y runs to the back. */
const fromSide = (scene: Scene): Seen => seen(landmarksOf(scene), (p) => p[1]);
const view = (points: Seen, scale: Scale | null = mm): PlacedView => ({ points, scale });

const random = seededRandom(77);
const any = (low: number, high: number) => low + (high - low) * random.uniform();

describe('guides on bodies of known truth, to 0.01 degree', () => {
  it('wrist', () => {
    for (let i = 0; i < 10; i++) {
      const wish = { inclinationDeg: any(12, 30), volarTiltDeg: any(-15, 18), ulnarVarianceMm: any(-3, 4) };
      const scene = wristScene({ seed: i, side: i % 2 ? 'left' : 'right', ...wish }, 'front');
      const named = (points: Seen): Seen => ({
        ...points,
        styloid: points['radial styloid']
      });
      const landmarks = landmarksOf(wristScene({ seed: i, side: 'right', ...wish }, 'front'));
      const axis = landmarks['radius axis near'][2] - landmarks['radius axis far'][2];
      // The scene's own shaft leans a little; the truth is told against the room's upright.
      const straight = (points: Seen): Seen => ({
        ...points,
        'axis upper': at(0, Math.abs(axis)),
        'axis lower': at(0, 0)
      });
      const results = evaluated(distalRadius, {
        front: view(straight(named(fromFront(scene)))),
        side: view(straight(named(fromSide(scene))))
      });
      expect(value(results, 'inclination')).toBeCloseTo(wish.inclinationDeg, 2);
      expect(value(results, 'tilt')).toBeCloseTo(wish.volarTiltDeg, 2);
      expect(value(results, 'ulnar variance')).toBeCloseTo(wish.ulnarVarianceMm, 2);
      expect(value(results, 'height')).toBeCloseTo(26.5 * Math.tan((wish.inclinationDeg * Math.PI) / 180), 2);
    }
  });
  it('legs', () => {
    const right = { femurMm: 430, tibiaMm: 362, mLdfaDeg: 86, mPtaDeg: 84 };
    const left = { femurMm: 441, tibiaMm: 360, mLdfaDeg: 91, mPtaDeg: 89 };
    const scene = legsScene({ seed: 1, right, left });
    const points = fromFront(scene);
    const results = evaluated(legAxes, { standing: view(points) });
    for (const [side, wish] of Object.entries({ right, left })) {
      expect(value(results, `${side} mldfa`)).toBeCloseTo(wish.mLdfaDeg, 2);
      expect(value(results, `${side} mpta`)).toBeCloseTo(wish.mPtaDeg, 2);
      expect(value(results, `${side} hka`)).toBeCloseTo(scene.truth[`${side}HkaDeg`], 2);
    }
    const lengths = evaluated(legLengthDifference, { standing: view(points) });
    expect(value(lengths, 'difference')).toBeCloseTo(
      value(lengths, 'left length') - value(lengths, 'right length'),
      9
    );
    expect(Math.abs(value(lengths, 'difference') - scene.truth.lengthDifferenceMm)).toBeLessThan(1);
  });
  it('spine from the front: every curve, its end vertebrae found from the points', () => {
    const curves = [
      { upper: 'T5', lower: 'T11', cobbDeg: 38, convex: 'right' as const },
      { upper: 'T11', lower: 'L4', cobbDeg: 24, convex: 'left' as const }
    ];
    const points = fromFront(spineFrontScene({ seed: 1, curves }));
    const results = evaluated(spineCurve, { front: view(points) });
    // Above the upper curve the spine comes back to upright: a third one.
    expect(results.map(({ formula }) => formula.key)).toEqual(['cobb T1 T5', 'cobb T5 T11', 'cobb T11 L4']);
    expect(value(results, 'cobb T5 T11')).toBeCloseTo(38, 2);
    expect(value(results, 'cobb T11 L4')).toBeCloseTo(24, 2);
    // A straight spine has no curve, and of a single vertebra none is told.
    const straight = Object.fromEntries(
      Object.entries(points).map(([key, p]) => [key, at(p.x, Math.round(p.y / 40) * 40)])
    );
    expect(curvesOf((key) => (key.startsWith('T5') ? points[key] : undefined))).toEqual([]);
    expect(evaluated(spineCurve, { front: view({ 'T1 upper left': straight['T1 upper left'] }) })).toEqual(
      []
    );
  });
  it('spine from the side: incidence is tilt and slope together', () => {
    for (const mirror of [1, -1]) {
      const scene = spineSideScene({
        seed: 1,
        incidenceDeg: 57,
        tiltDeg: 19,
        lordosisDeg: 55,
        kyphosisDeg: 40
      });
      const points = seen(landmarksOf(scene), (p) => mirror * p[1]);
      const results = evaluated(pelvisSide, {
        side: view({
          ...points,
          'hip 1': points['hip left'],
          'hip 2': points['hip right'],
          C7: points['T1 upper front']
        })
      });
      expect(value(results, 'incidence')).toBeCloseTo(57, 2);
      expect(value(results, 'tilt')).toBeCloseTo(19, 2);
      expect(value(results, 'slope')).toBeCloseTo(38, 2);
    }
  });
  it('neck in three positions, whichever way it looks', () => {
    for (const mirror of [1, -1]) {
      const views = Object.fromEntries(
        (['neutral', 'bent', 'stretched'] as const).map((position) => {
          const scene = neckScene({ seed: 1, position, segmentsDeg: [4, 5, 6, 4, 3] });
          const points = seen(landmarksOf(scene), (p) => mirror * p[1]);
          return [position, { scene, placed: view({ ...points, 'C7 front': points['C7 upper front'] }) }];
        })
      );
      const results = evaluated(
        neckCurve,
        Object.fromEntries(Object.entries(views).map(([key, { placed }]) => [key, placed]))
      );
      for (const [position, { scene }] of Object.entries(views)) {
        expect(value(results, `${position} C2-C7`)).toBeCloseTo(scene.truth['C2 to C7 Deg'], 2);
        expect(value(results, `${position} C4-C5`)).toBeCloseTo(scene.truth['C4 on C5 Deg'], 2);
      }
      expect(value(results, 'motion bent C4-C5')).toBeCloseTo(
        views.bent.scene.truth['C4 on C5 Deg'] - views.neutral.scene.truth['C4 on C5 Deg'],
        2
      );
    }
  });
  it('animals', () => {
    const hips = evaluated(hipCover, {
      below: view(fromFront(dogHipsScene({ seed: 1, rightDeg: 106, leftDeg: 93 })))
    });
    expect(value(hips, 'right')).toBeCloseTo(106, 2);
    expect(value(hips, 'left')).toBeCloseTo(93, 2);
    const left = hips.find(({ formula }) => formula.key === 'left');
    expect(left?.outcome === 'value' && left.standing).toBe('below');
    for (const plateauDeg of [18, 27]) {
      const stifle = evaluated(plateauAngle, {
        side: view(fromSide(dogStifleScene({ seed: 1, plateauDeg })))
      });
      expect(value(stifle, 'angle')).toBeCloseTo(plateauDeg, 2);
    }
    const chest = dogChestScene({ seed: 1, lengthInVertebrae: 5.4, widthInVertebrae: 4.3 });
    const points = landmarksOf(chest);
    const step = points['T5 middle'][1] - points['T4 middle'][1];
    const along: Vec3 = [0, step, points['T5 middle'][2] - points['T4 middle'][2]];
    const fronts = Object.fromEntries(
      Array.from({ length: 9 }, (_, i): [string, Vec3] => [
        `T${i + 4} front`,
        add(points['T4 front'], times(along, i))
      ])
    );
    const score = evaluated(heartScore, { side: view({ ...fromSide(chest), ...seen(fronts, (p) => p[1]) }) });
    expect(value(score, 'score')).toBeCloseTo(9.7, 2);
  });
});

describe('guides worked out by hand', () => {
  it('clear knock-knees are told as such, with both condyles inside of the line from hip to ankle', () => {
    // The patient's right leg stands on the left of the picture: outwards is to the left.
    const knee = (inwards: number) => ({
      'right hip': at(100, 0),
      'right knee': at(100 + inwards, 400),
      'right ankle': at(100, 800),
      'right condyle outer': at(85 + inwards, 405),
      'right condyle inner': at(115 + inwards, 405)
    });
    const bent = (2 * Math.atan(80 / 400) * 180) / Math.PI;
    expect(value(evaluated(legAxes, { standing: view(knee(80)) }), 'right hka')).toBeCloseTo(180 + bent, 3);
    expect(value(evaluated(legAxes, { standing: view(knee(-80)) }), 'right hka')).toBeCloseTo(180 - bent, 3);
  });
  it('a spinal curve of more than 90 degrees is told as it is', () => {
    const plate = (name: string, deg: number, y: number) => {
      const a = (deg * Math.PI) / 180;
      const [dx, dy] = [20 * Math.cos(a), 20 * Math.sin(a)];
      return Object.fromEntries(
        (['upper', 'lower'] as const).flatMap((end, i) => [
          // From the front the patient's left is on the right of the picture.
          [`${name} ${end} right`, at(100 - dx, y + 10 * i - dy)],
          [`${name} ${end} left`, at(100 + dx, y + 10 * i + dy)]
        ])
      );
    };
    const points = { ...plate('T5', 52, 100), ...plate('T8', 0, 200), ...plate('T12', -54, 300) };
    expect(value(evaluated(spineCurve, { front: view(points) }), 'cobb T5 T12')).toBeCloseTo(106, 3);
  });
  it('a plateau that falls to the front has an angle below 0', () => {
    const stifle = (back: number) => ({
      'plateau front': at(0, 0),
      'plateau back': at(100, back),
      eminence: at(50, 0),
      ankle: at(50, 500)
    });
    const deg = (Math.atan(0.3) * 180) / Math.PI;
    expect(value(evaluated(plateauAngle, { side: view(stifle(30)) }), 'angle')).toBeCloseTo(deg, 3);
    expect(value(evaluated(plateauAngle, { side: view(stifle(-30)) }), 'angle')).toBeCloseTo(-deg, 3);
  });
  it('a heart is measured on as many vertebrae as it is long, and not on fewer', () => {
    const chest = (edges: number) => ({
      carina: at(0, 100),
      apex: at(0, 152),
      'heart front': at(-20, 130),
      'heart back': at(22, 130),
      ...Object.fromEntries(Array.from({ length: edges }, (_, i) => [`T${i + 4} front`, at(10 * i, 0)]))
    });
    expect(value(evaluated(heartScore, { side: view(chest(7)) }), 'score')).toBeCloseTo(9.4, 3);
    const short = evaluated(heartScore, { side: view(chest(5)) });
    expect(short.every((each) => each.outcome !== 'value')).toBe(true);
  });
  it('a canal of straight pieces is as long as they are, a millimetre a pixel', () => {
    const points = { reference: at(0, 0), 'canal 1': at(0, 10), apex: at(0, 22) };
    const results = evaluated(workingLength, { tooth: view(points) });
    expect(value(results, 'length')).toBeCloseTo(22, 6);
    const bent = evaluated(workingLength, { tooth: view({ ...points, 'canal 2': at(2, 16) }) });
    expect(value(bent, 'length')).toBeGreaterThan(22.5);
  });
  it('bone 4 of 20 down the root is 20 %, and falls into the second stage; none of the stages is called normal', () => {
    const points = {
      'mesial junction': at(0, 0),
      'mesial crest': at(0, 4),
      apex: at(0, 20),
      'distal junction': at(0, 0)
    };
    const results = evaluated(crestalBone, { tooth: view(points, null) });
    expect(value(results, 'mesial loss')).toBeCloseTo(20, 10);
    const [mesial, distal] = results;
    expect(mesial).toMatchObject({ standing: null, stage: 'as in stage II: 15 to 33 %' });
    expect(distal).toMatchObject({ outcome: 'missing', points: ['tooth.distal crest'] });
  });
  it('an iris 290 px wide is 11.6 mm at 0.04 mm a pixel, and in pixels without a scale', () => {
    const points = { 'limbus left': at(100, 50), 'limbus right': at(390, 50) };
    const scaled = evaluated(eyeWidths, {
      eye: view(points, { ...mm, mmPerPixelX: 0.04, mmPerPixelY: 0.04 })
    });
    expect(value(scaled, 'hvid')).toBeCloseTo(11.6, 10);
    const [plain] = evaluated(eyeWidths, { eye: view(points, null) });
    expect(plain).toMatchObject({ outcome: 'value', value: { unit: 'px' }, standing: null });
  });
});

/** A result that is refused, with why. */
const refusal = (results: GuideResult[], key: string): string => {
  const found = results.find(({ formula }) => formula.key === key);
  return found?.outcome === 'cannot' ? found.because : JSON.stringify(found);
};

describe('guides whose points contradict what they are called', () => {
  const front = (way: 1 | -1) =>
    Object.fromEntries(
      ['head', 'chest', 'pelvis'].flatMap((part, i) => [
        [`${part} right`, at(500 - way * 60, 100 + 200 * i)],
        [`${part} left`, at(500 + way * 60, 110 + 200 * i)]
      ])
    );
  it('a mirrored photograph gives no roll of 170 degrees and no shift to the wrong side', () => {
    const sound = evaluated(posture, { front: view(front(1)) });
    expect(value(sound, 'head roll')).toBeCloseTo((-Math.atan(10 / 120) * 180) / Math.PI, 6);
    const mirrored = evaluated(posture, { front: view(front(-1)) });
    for (const key of ['head roll', 'pelvis roll', 'head left', 'chest left'])
      expect(refusal(mirrored, key)).toContain('mirrored');
  });
  it('a side photograph of the other side gives neither a shift nor a pitch', () => {
    const side = (way: number) => ({
      head: at(500, 100),
      'head front': at(500 + 40 * way, 95),
      chest: at(480, 300),
      'chest front': at(480 + 50 * way, 310)
    });
    const sound = evaluated(posture, { right: view(side(1)) });
    expect(value(sound, 'head forward right')).toBeCloseTo(20, 9);
    expect(value(sound, 'chest pitch right')).toBeCloseTo((-Math.atan(0.2) * 180) / Math.PI, 6);
    const other = evaluated(posture, { right: view(side(-1)) });
    for (const key of ['head forward right', 'head pitch right'])
      expect(refusal(other, key)).toContain('of the other side');
  });
  it('hips whose rims lie on two sides, or beside the other head, give no cover', () => {
    const hips = {
      'right head': at(300, 600),
      'left head': at(700, 600),
      'right rim': at(290, 540),
      'left rim': at(710, 540)
    };
    const cover = (changes: Seen) => evaluated(hipCover, { below: view({ ...hips, ...changes }) });
    expect(value(cover({}), 'right')).toBeCloseTo(90 + (Math.atan(1 / 6) * 180) / Math.PI, 6);
    // A picture that stands on its head measures the same.
    const turned = Object.fromEntries(
      Object.entries(hips).map(([key, p]) => [key, at(1000 - p.x, 1200 - p.y)])
    );
    expect(value(cover(turned), 'right')).toBeCloseTo(value(cover({}), 'right'), 9);
    expect(refusal(cover({ 'right rim': at(290, 660) }), 'right')).toContain('same side');
    expect(refusal(cover({ 'right rim': at(690, 540) }), 'right')).toContain('swapped');
  });
  it('a sacrum steeper than upright keeps its incidence, whichever way the patient looks', () => {
    const rad = Math.PI / 180;
    for (const way of [1, -1])
      for (const [slope, tilt] of [
        [40, 15],
        [40, -8],
        [72, 25],
        [100, 30]
      ]) {
        // Looking left: the plate runs from its front end backwards and up, the hips lie in front of and below it.
        const [middle, half, down] = [at(500, 400), 25, 110];
        const plate = (sign: number) =>
          at(500 + way * sign * half * Math.cos(slope * rad), 400 - sign * half * Math.sin(slope * rad));
        const hip = at(middle.x - way * down * Math.sin(tilt * rad), middle.y + down * Math.cos(tilt * rad));
        const results = evaluated(pelvisSide, {
          side: view({ 'hip 1': hip, 'hip 2': hip, 'S1 front': plate(-1), 'S1 back': plate(1) })
        });
        expect(value(results, 'slope')).toBeCloseTo(slope, 6);
        expect(value(results, 'tilt')).toBeCloseTo(tilt, 6);
        expect(value(results, 'incidence')).toBeCloseTo(slope + tilt, 6);
      }
  });
});

describe('a view’s plumb line and scale', () => {
  const tall: Scale = { ...mm, mmPerPixelX: 0.5, mmPerPixelY: 0.75 };
  /** Places in mm as pixels of that scale, the camera turned by some degrees. */
  const taken = (places: Record<string, [number, number]>, deg: number) => {
    const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
    const pixel = ([x, y]: [number, number]) => at((c * x - s * y) / 0.5, (s * x + c * y) / 0.75);
    return {
      points: Object.fromEntries(Object.entries(places).map(([key, place]) => [key, pixel(place)])),
      down: pixel([0, 1])
    };
  };
  it('turn points whose pixels are not square by the true angle', () => {
    const places: Record<string, [number, number]> = {
      'head right': [200, 300],
      'head left': [320, 300],
      'chest right': [180, 500],
      'chest left': [360, 520]
    };
    for (const deg of [0, 7, -20]) {
      const { points, down } = taken(places, deg);
      const results = evaluated(posture, { front: { points, scale: tall, down } });
      expect(value(results, 'head roll')).toBeCloseTo(0, 9);
      expect(value(results, 'chest roll')).toBeCloseTo((-Math.atan(20 / 180) * 180) / Math.PI, 9);
      expect(value(results, 'head left')).toBeCloseTo(-10, 9);
    }
  });
  it('that tell nothing refuse that view’s results in words, and no others', () => {
    const { points } = taken({ 'head right': [200, 300], 'head left': [320, 300] }, 0);
    const side = {
      points: { head: at(5, 5), 'head front': at(15, 5) },
      scale: mm
    };
    const without = (front: PlacedView) => evaluated(posture, { front, right: side });
    const noLine = without({ points, scale: mm, down: { x: 0, y: 0 } });
    expect(refusal(noLine, 'head roll')).toBe('the plumb line has no length');
    expect(value(noLine, 'head pitch right')).toBeCloseTo(0, 9);
    const noScale = without({ points, scale: { ...mm, mmPerPixelX: 0 } });
    expect(refusal(noScale, 'head roll')).toContain('a scale must be above 0');
  });
});

describe('posture photographs', () => {
  const still = { leftMm: 0, frontMm: 0, rollDeg: 0, pitchDeg: 0 };
  const wish = {
    seed: 3,
    head: { ...still, leftMm: 22, frontMm: 18, rollDeg: 6 },
    chest: { ...still, leftMm: -12, rollDeg: -4 },
    pelvis: { ...still, rollDeg: 3 }
  };
  it('tell how head, chest and pelvis stand, whatever the camera is held by', () => {
    const { known, plumbMm } = figurePhotograph(wish, 'front', 2);
    const points = Object.fromEntries(
      Object.entries(known).map(([key, { imagePoint }]) => [key, { ...imagePoint, uncertaintyPx: 0.5 }])
    );
    const [upper, lower] = [points['plumb upper'], points['plumb lower']];
    const mmPerPixel = plumbMm / Math.hypot(upper.x - lower.x, upper.y - lower.y);
    const scale = { ...mm, mmPerPixelX: mmPerPixel, mmPerPixelY: mmPerPixel };
    const results = evaluated(posture, { front: { points, scale } });
    const room = (name: string) => known[name].patientPointMm;
    const roll = (part: string) => {
      const [l, r] = [room(`${part} left`), room(`${part} right`)];
      return (Math.atan2(l[2] - r[2], l[0] - r[0]) * 180) / Math.PI;
    };
    for (const part of ['head', 'chest', 'pelvis'])
      expect(Math.abs(value(results, `${part} roll`) - roll(part))).toBeLessThan(0.4);
    const middle = (part: string) => (room(`${part} left`)[0] + room(`${part} right`)[0]) / 2;
    // The pelvis markers stand nearer to the camera than the plumb line: perspective leaves some millimetres.
    expect(Math.abs(value(results, 'head left') - (middle('head') - middle('chest')))).toBeLessThan(5);
  });
  it('have a wider ± where the plumb line’s balls were placed less surely', () => {
    const { known } = figurePhotograph(wish, 'front', 2);
    const withLine = (uncertaintyPx: number) => {
      const points = Object.fromEntries(
        Object.entries(known).map(([key, { imagePoint }]) => [
          key,
          { ...imagePoint, uncertaintyPx: key.startsWith('plumb') ? uncertaintyPx : 0.1 }
        ])
      );
      const found = evaluated(posture, { front: { points, scale: mm } });
      const result = found.find(({ formula }) => formula.key === 'head roll')!;
      return result.outcome === 'value' ? result.value.plusMinus : NaN;
    };
    // Two standard uncertainties of a line of 620 pixels whose ends are each known to 6.
    const turn = (2 * 6 * Math.SQRT2 * 180) / Math.PI / 620;
    expect(withLine(6) / turn).toBeGreaterThan(0.9);
    expect(withLine(6) / turn).toBeLessThan(1.15);
    expect(withLine(0.1)).toBeLessThan(0.15 * turn);
  });
});

describe('every guide', () => {
  it.each(guides.map((guide): [string, Guide] => [guide.name, guide]))(
    '%s says where each landmark is, once',
    (_, guide) => {
      for (const { landmarks } of guide.views) {
        expect(new Set(landmarks.map(({ key }) => key)).size).toBe(landmarks.length);
        for (const { where, onSchematic } of landmarks) {
          expect(where.length).toBeGreaterThan(10);
          expect(onSchematic.x).toBeGreaterThanOrEqual(0);
          expect(onSchematic.x).toBeLessThanOrEqual(1);
          expect(onSchematic.y).toBeGreaterThanOrEqual(0);
          expect(onSchematic.y).toBeLessThanOrEqual(1);
        }
      }
      const known = new Set(
        guide.views.flatMap(({ key, landmarks }) => landmarks.map((each) => `${key}.${each.key}`))
      );
      for (const formula of guide.formulas) {
        for (const key of formula.needs) expect(known.has(key), `${formula.key} needs ${key}`).toBe(true);
        expect(formula.source.year).toBeGreaterThan(1900);
        // A range or stage that nobody has checked says so wherever it is shown.
        for (const { source } of [formula, formula.normal, formula.stages].filter(
          (each) => each !== undefined
        ))
          expect(/unchecked/.test(sourceInWords(source))).toBe(Boolean(source.fromMemory));
      }
      expect(evaluated(guide, {}).every(({ outcome }) => outcome === 'missing')).toBe(true);
    }
  );
  it('gives no number for points that coincide or are not there', () => {
    const same = at(50, 50);
    for (const guide of guides) {
      const views = Object.fromEntries(
        guide.views.map(({ key, landmarks }) => [
          key,
          view(Object.fromEntries(landmarks.map((each) => [each.key, same])))
        ])
      );
      for (const result of evaluated(guide, views))
        if (result.outcome === 'value')
          expect(result.formula.power, `${guide.key} ${result.formula.key}`).toBe(1);
      const broken = Object.fromEntries(
        guide.views.map(({ key, landmarks }) => [
          key,
          view(Object.fromEntries(landmarks.map((each) => [each.key, at(NaN, 0)])))
        ])
      );
      expect(evaluated(guide, broken).every(({ outcome }) => outcome === 'missing')).toBe(true);
    }
  });
});

it('points placed in a picture with perspective give the wrist’s angles to a degree and a half', () => {
  const scene = wristScene(
    { seed: 2, side: 'right', inclinationDeg: 24, volarTiltDeg: 9, ulnarVarianceMm: 1 },
    'front'
  );
  const known = knownPoints(scene.view, landmarksOf(scene));
  const place = (name: string): PlacedPoint => ({ ...known[name].imagePoint, uncertaintyPx: 0.5 });
  const results = evaluated(distalRadius, {
    front: view(
      {
        styloid: place('radial styloid'),
        'ulnar corner': place('ulnar corner'),
        'ulnar head': place('ulnar head'),
        'axis upper': place('radius axis near'),
        'axis lower': place('radius axis far')
      },
      null
    )
  });
  expect(Math.abs(value(results, 'inclination') - 24)).toBeLessThan(1.5);
});

describe('exact coordinates', () => {
  const mirror = (points: Seen): Seen =>
    Object.fromEntries(Object.entries(points).map(([key, { x, y }]) => [key, at(-x, y)]));

  const turned = (points: Seen, deg: number): Seen => {
    const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
    return Object.fromEntries(
      Object.entries(points).map(([key, { x, y }]) => [key, at(c * x - s * y, s * x + c * y)])
    );
  };
  const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);

  it('caries: shares of the way to the pulp, and which third of the dentine', () => {
    // Of eight parts the enamel is two wide and the lesion five deep, a little off the straight way.
    const lesion = (deepest: number) => ({
      surface: at(0, 0),
      junction: at(40, 6),
      deepest: at(20 * deepest, 8),
      pulp: at(160, 0)
    });
    const deep = evaluated(cariesDepth, { tooth: view(turned(lesion(5), 37)) });
    expect(value(deep, 'share')).toBeCloseTo(62.5, 6);
    expect(value(deep, 'dentine share')).toBeCloseTo(50, 6);
    expect(value(deep, 'left')).toBeCloseTo(60, 6);
    expect(deep[1]).toMatchObject({ stage: 'middle third of the dentine' });
    const shallow = evaluated(cariesDepth, { tooth: view(lesion(1)) });
    expect(value(shallow, 'dentine share')).toBeCloseTo(-100 / 6, 6);
    expect(shallow[1]).toMatchObject({ stage: 'within the enamel' });
    expect(refusal(evaluated(cariesDepth, { tooth: view(lesion(-1)) }), 'share')).toContain('swapped');
  });
  it('implant sites: the narrowest of two widths, and bone below the sinus by its class', () => {
    const gap = evaluated(implantSite, {
      site: view({
        'mesial neck': at(0, 0),
        'distal neck': at(7.4, 0),
        'mesial root': at(0.4, 8),
        'distal root': at(7, 8)
      })
    });
    expect(value(gap, 'neck')).toBeCloseTo(7.4, 9);
    expect(value(gap, 'narrowest')).toBeCloseTo(6.6, 9);
    const bone = (height: number) =>
      evaluated(sinusHeight, { site: view({ crest: at(0, height), floor: at(0, 0) }) })[0];
    expect([4, 8, 11, 14].map((height) => (bone(height) as { stage?: string }).stage)).toEqual([
      'less than 5 mm',
      '5 to 10 mm',
      '10 to 12 mm',
      'more than 12 mm'
    ]);
  });
  it('spine: balance and tilts have the patient’s sides, and a mirrored picture is refused', () => {
    const points = {
      C7: at(512, 100),
      S1: at(500, 800),
      'T1 right': at(495, 120),
      'T1 left': at(535, 120 - 40 * tan(6)),
      'shoulder right': at(400, 130),
      'shoulder left': at(620, 121),
      'crest right': at(380, 760),
      'crest left': at(620, 760 + 240 * tan(2)),
      apex: at(480, 400)
    };
    const results = evaluated(spineBalance, { front: view(points) });
    expect(value(results, 'balance')).toBeCloseTo(12, 9);
    expect(value(results, 'apex')).toBeCloseTo(-20, 9);
    expect(value(results, 'T1 tilt')).toBeCloseTo(6, 6);
    expect(value(results, 'pelvis tilt')).toBeCloseTo(-2, 6);
    expect(value(results, 'shoulders')).toBeCloseTo(9, 9);
    const mirrored = evaluated(spineBalance, { front: view(mirror(points)) });
    for (const key of ['T1 tilt', 'pelvis tilt', 'shoulders'])
      expect(refusal(mirrored, key)).toContain('mirrored');
  });
  it('dog’s hip: a rim through the middle covers half the head, on either side', () => {
    // At 0.4 of the radius inwards of the middle, and as far outwards.
    const share = (off: number) => 100 * (1 - (Math.acos(off) - off * Math.sqrt(1 - off * off)) / Math.PI);
    const chord = (off: number) => ({
      'right head': at(0, 0),
      'left head': at(60, 0),
      'right head edge': at(0, 10),
      'right rim in front': at(-10 * off, -10 * Math.sqrt(1 - off * off)),
      'right rim behind': at(-10 * off, 10 * Math.sqrt(1 - off * off))
    });
    for (const off of [0, 0.4, -0.4]) {
      const results = evaluated(hipCover, { below: view(turned(chord(off), 25)) });
      expect(value(results, 'right cover')).toBeCloseTo(share(off), 6);
    }
    expect(share(0)).toBe(50);
    expect(share(0.4)).toBeCloseTo(74.77, 1);
    const away = { ...chord(0), 'right rim in front': at(-15, -5), 'right rim behind': at(-15, 5) };
    expect(refusal(evaluated(hipCover, { below: view(away) }), 'right cover')).toContain('does not cross');
  });
  it('shoulder: room, height of the head in radii, and the critical angle, on either side', () => {
    const points = {
      'head middle': at(100, 100),
      'head top': at(100, 76),
      'acromion under': at(100, 67),
      'acromion edge': at(160 - 90 * tan(33), 40),
      'socket upper': at(160, 80),
      'socket lower': at(160, 130)
    };
    for (const seenAs of [points, mirror(points), turned(points, 17)]) {
      const results = evaluated(shoulderRoom, { front: view(seenAs) });
      expect(value(results, 'room')).toBeCloseTo(9, 6);
      expect(value(results, 'height of the head')).toBeCloseTo(33 / 24, 6);
      expect(value(results, 'shoulder angle')).toBeCloseTo(33, 6);
    }
    const flat = evaluated(shoulderRoom, { front: view({ ...points, 'head top': points['head middle'] }) });
    expect(refusal(flat, 'height of the head')).toBeTruthy();
  });
  it('dog’s elbow: the notch’s opening and the radius off its circle', () => {
    const on = (deg: number, radius = 10) =>
      at(radius * Math.cos((deg * Math.PI) / 180), radius * Math.sin((deg * Math.PI) / 180));
    const points = { anconeal: on(-80), notch: on(10), coronoid: on(100), radius: on(125, 12.5) };
    for (const seenAs of [points, mirror(points)]) {
      const results = evaluated(elbowFit, { side: view(seenAs) });
      expect(value(results, 'notch angle')).toBeCloseTo(180, 4);
      expect(value(results, 'step')).toBeCloseTo(2.5, 4);
    }
    const flat = evaluated(elbowFit, {
      side: view({ ...points, anconeal: at(0, 0), notch: at(5, 0), coronoid: at(10, 0) })
    });
    expect(flat.every(({ outcome }) => outcome === 'cannot')).toBe(true);
  });
  it('dog’s knee cap: ligament over length, and the outer angle on either leg', () => {
    const side = { 'patella upper': at(0, 0), 'patella lower': at(0, 20), tuberosity: at(0, 54) };
    const front = {
      'shaft upper': at(100, 0),
      'shaft lower': at(100, 100),
      'condyle outer': at(80, 200 - 20 * tan(5)),
      'condyle inner': at(120, 200 + 20 * tan(5))
    };
    const results = evaluated(kneeCapOfDogs, {
      side: view(side, null),
      front: view(turned(front, 11), null)
    });
    expect(value(results, 'ratio')).toBeCloseTo(1.7, 9);
    expect(value(results, 'outer angle')).toBeCloseTo(85, 6);
    const other = evaluated(kneeCapOfDogs, { front: view(mirror(front), null) });
    expect(value(other, 'outer angle')).toBeCloseTo(85, 6);
  });
  it('stifle: the slope against the shaft, and the ligament against the plateau', () => {
    const points = {
      'plateau front': at(0, 0),
      'plateau back': at(100, 100 * tan(24)),
      'shaft upper': at(50, 200),
      'shaft lower': at(50 + 100 * tan(4), 300),
      tuberosity: at(-20, 60),
      'patella lower': at(-20 - 60 * tan(10), 0)
    };
    for (const seenAs of [points, mirror(points)]) {
      const results = evaluated(plateauAngle, { side: view(seenAs, null) });
      expect(value(results, 'anatomical')).toBeCloseTo(28, 6);
      expect(value(results, 'ligament')).toBeCloseTo(90 + 24 + 10, 6);
    }
  });
  it('cat’s chest: width over depth by each picture’s own scale, and not without one', () => {
    const side = {
      'T10 middle': at(0, 0),
      sternum: at(0, 160),
      'T10 upper': at(0, -12),
      'T10 lower': at(0, -2)
    };
    const above = { 'wall right': at(0, 0), 'wall left': at(360, 0) };
    const half = { ...mm, mmPerPixelX: 0.5, mmPerPixelY: 0.5, relativeUncertainty: 0.03 };
    const rough = { ...half, relativeUncertainty: 0.04 };
    const results = evaluated(chestShape, {
      side: view(side, rough),
      above: view(above, { ...half, mmPerPixelX: 0.25, mmPerPixelY: 0.25 })
    });
    expect(value(results, 'frontosagittal')).toBeCloseTo(90 / 80, 9);
    expect(value(results, 'vertebral')).toBeCloseTo(16, 9);
    const [first] = results;
    // Both scales are in it: 5 % of it, twice.
    expect(first.outcome === 'value' && first.value.plusMinus / first.value.value).toBeGreaterThan(0.0999);
    const bare = evaluated(chestShape, { side: view(side, rough), above: view(above, null) });
    expect(refusal(bare, 'frontosagittal')).toContain('no scale');
    expect(value(bare, 'vertebral')).toBeCloseTo(16, 9);
  });
  it('cat’s heart has its own range', () => {
    const [score] = evaluated(heartOfCats, {
      side: view({
        carina: at(0, 100),
        apex: at(0, 140),
        'heart front': at(-15, 130),
        'heart back': at(16, 130),
        ...Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`T${i + 4} front`, at(10 * i, 0)]))
      })
    });
    expect(score).toMatchObject({ outcome: 'value', standing: 'within' });
    expect(value([score], 'score')).toBeCloseTo(7.1, 6);
  });
  it('hoof: angles over the ground, whichever way the horse looks and the picture leans', () => {
    const points = {
      'ground front': at(0, 200),
      'ground back': at(180, 200),
      'wall toe': at(10, 180),
      'wall upper': at(10 + 100 / tan(52), 80),
      'coffin tip': at(40, 170),
      'coffin front': at(40 + 80 / tan(57), 90),
      'coffin back': at(140, 170 - 100 * tan(5)),
      'pastern lower': at(120, 60),
      'pastern upper': at(120 + 50 / tan(55), 10)
    };
    for (const seenAs of [points, mirror(points), turned(points, 14)]) {
      const results = evaluated(hoof, { side: view(seenAs) });
      expect(value(results, 'hoof angle')).toBeCloseTo(52, 6);
      expect(value(results, 'palmar angle')).toBeCloseTo(5, 6);
      expect(value(results, 'rotation')).toBeCloseTo(5, 6);
      expect(value(results, 'pastern axis')).toBeCloseTo(3, 6);
      expect(value(results, 'founder distance')).toBeCloseTo(10, 6);
    }
    const swapped = {
      ...points,
      'ground front': points['ground back'],
      'ground back': points['ground front']
    };
    expect(refusal(evaluated(hoof, { side: view(swapped) }), 'hoof angle')).toContain('leans forwards');
  });
  it('heel bone: Böhler’s angle, whichever way the foot looks, below 0 where the joint has sunk', () => {
    const bones = { tuber: at(100, 20 * tan(30)), facet: at(80, 0), front: at(30, 50 * tan(5)) };
    for (const points of [bones, mirror(bones)])
      expect(value(evaluated(heelBone, { side: view(points) }), 'angle')).toBeCloseTo(35, 9);
    const sunk = { ...bones, facet: at(80, 40), tuber: at(100, 30), front: at(30, 30) };
    expect(value(evaluated(heelBone, { side: view(sunk) }), 'angle')).toBeLessThan(0);
  });
  it('great toe: leaning to the other toes counts up, on either foot', () => {
    const way = (base: { x: number; y: number }, deg: number, long: number) =>
      at(base.x + long * Math.sin((deg * Math.PI) / 180), base.y - long * Math.cos((deg * Math.PI) / 180));
    const [first, toe, second] = [at(30, 90), at(29, 40), at(45, 88)];
    const bones = {
      'first base': first,
      'first head': way(first, -6, 40),
      'toe base': toe,
      'toe head': way(toe, 12, 20),
      'second base': second,
      'second head': way(second, 3, 40)
    };
    for (const points of [bones, mirror(bones)]) {
      const results = evaluated(greatToe, { above: view(points) });
      expect(value(results, 'hallux valgus')).toBeCloseTo(18, 9);
      expect(value(results, 'between metatarsals')).toBeCloseTo(9, 9);
    }
  });
  it('knee cap: both ratios', () => {
    const results = evaluated(kneeCap, {
      side: view(
        {
          'upper pole': at(0, 0),
          'lower pole': at(30, 40),
          tubercle: at(30, 100),
          'surface upper': at(10, 5),
          'surface lower': at(10, 35),
          'plateau front': at(46, 62)
        },
        null
      )
    });
    expect(value(results, 'tendon ratio')).toBeCloseTo(60 / 50, 9);
    expect(value(results, 'surface ratio')).toBeCloseTo(45 / 30, 9);
  });
  it('hips: index and cover of each side, also of a pelvis that leans', () => {
    const lean = (points: Seen, deg: number): Seen => {
      const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
      return Object.fromEntries(
        Object.entries(points).map(([key, { x, y }]) => [key, at(c * x - s * y, s * x + c * y)])
      );
    };
    const bones: Seen = {
      'right cartilage': at(-20, 0),
      'left cartilage': at(20, 0),
      'right rim': at(-40, -20 * tan(24)),
      'left rim': at(40, -20 * tan(31)),
      'right head': at(-40 + 10 * tan(28), -20 * tan(24) + 10),
      'left head': at(40 + 10 * tan(8), -20 * tan(31) + 10)
    };
    for (const points of [bones, lean(bones, 7)]) {
      const results = evaluated(hipRoof, { front: view(points) });
      expect(value(results, 'right index')).toBeCloseTo(24, 9);
      expect(value(results, 'left index')).toBeCloseTo(31, 9);
      expect(value(results, 'right cover')).toBeCloseTo(28, 9);
      expect(value(results, 'left cover')).toBeCloseTo(-8, 9);
    }
  });
});
