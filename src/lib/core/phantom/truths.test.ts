import { describe, expect, it } from 'vitest';
import { dogHipsScene } from './animals/dogHips';
import { dogChestScene, dogStifleScene } from './animals/dogSide';
import { fetlockScene } from './animals/fetlock';
import type { Scene } from './bones/kit';
import { brokenShaftScene, legsScene } from './bones/legs';
import { neckNames, neckScene } from './bones/neck';
import { spineFrontScene, spineSideScene } from './bones/spine';
import { wristBody, wristScene } from './bones/wrist';
import { leadLetter, ruler, steelBall, steelBar } from './markers';
import { figurePhotograph } from './photo/figure';
import { woundPhotograph } from './photo/closeUps';
import { seededRandom } from '../random';
import { type Vec3, dot, lengthOf, movePoint, sub, unit } from './space';
import { attenuationOf, knownPoints } from './xray/radiograph';
import { projected, xrayView } from './xray/view';

const degrees = (radians: number) => (radians * 180) / Math.PI;
const between = (a: Vec3, b: Vec3) => degrees(Math.acos(Math.max(-1, Math.min(1, dot(unit(a), unit(b))))));
const landmarksOf = (scene: Scene): Record<string, Vec3> =>
  Object.assign({}, ...scene.bodies.map((body) => body.landmarks));
const random = seededRandom(12);
const any = (low: number, high: number) => low + (high - low) * random.uniform();

describe('a wrist', () => {
  it('has the slopes and the variance that were set, by its landmarks', () => {
    for (let i = 0; i < 20; i++) {
      const wish = { inclinationDeg: any(10, 30), volarTiltDeg: any(-15, 18), ulnarVarianceMm: any(-3, 4) };
      const { landmarks: at } = wristBody({ seed: i, side: 'right', ...wish });
      const across = sub(at['radial styloid'], at['ulnar corner']);
      expect(degrees(Math.atan2(across[2], across[0]))).toBeCloseTo(wish.inclinationDeg, 9);
      const rim = sub(at['dorsal rim'], at['volar rim']);
      expect(degrees(Math.atan2(rim[2], rim[1]))).toBeCloseTo(wish.volarTiltDeg, 9);
      expect(at['ulnar head'][2] - at['ulnar corner'][2]).toBeCloseTo(wish.ulnarVarianceMm, 9);
    }
  });
  it('broken, tilts back by what was set and carries its landmarks along', () => {
    const whole = wristBody({
      seed: 1,
      side: 'left',
      inclinationDeg: 22,
      volarTiltDeg: 11,
      ulnarVarianceMm: 0
    });
    const broken = wristBody({
      seed: 1,
      side: 'left',
      inclinationDeg: 22,
      volarTiltDeg: 11,
      ulnarVarianceMm: 0,
      break: { parts: 2, dorsalTiltDeg: 20, shorteningMm: 3, radialShiftMm: 1 }
    });
    for (const name of ['radial styloid', 'dorsal rim'])
      expect(
        lengthOf(sub(movePoint(broken.fragment!, whole.landmarks[name]), broken.landmarks[name]))
      ).toBeLessThan(1e-9);
    const rim = sub(broken.landmarks['dorsal rim'], broken.landmarks['volar rim']);
    expect(degrees(Math.atan2(rim[2], rim[1]))).toBeCloseTo(11 - 20, 9);
  });
  it('agrees in height between its two views, once each is scaled at the landmark', () => {
    const wish = {
      seed: 1,
      side: 'right' as const,
      inclinationDeg: 24,
      volarTiltDeg: 10,
      ulnarVarianceMm: 1
    };
    const [front, side] = (['front', 'side'] as const).map((from) => {
      const scene = wristScene(wish, from);
      const { known } = { known: knownPoints(scene.view, landmarksOf(scene)) };
      return { scene, known };
    });
    for (const name of ['radial styloid', 'ulnar head', 'dorsal rim']) {
      const height = ({ scene, known }: typeof front) =>
        ((scene.view.height / 2 - known[name].imagePoint.y) * scene.view.pitchMm) / known[name].magnification;
      expect(height(front), name).toBeCloseTo(height(side), 6);
    }
  });
});

describe('a spine', () => {
  it('from the front has its curves between their end vertebrae', () => {
    const curves = [
      { upper: 'T5', lower: 'T11', cobbDeg: 38, convex: 'right' as const },
      { upper: 'T11', lower: 'L4', cobbDeg: 24, convex: 'left' as const }
    ];
    const at = landmarksOf(spineFrontScene({ seed: 1, curves: [curves[0]] }));
    const plate = (name: string, end: string) => sub(at[`${name} ${end} left`], at[`${name} ${end} right`]);
    const tilt = (v: Vec3) => degrees(Math.atan2(v[2], v[0]));
    expect(Math.abs(tilt(plate('T5', 'upper')) - tilt(plate('T11', 'lower')))).toBeCloseTo(38, 6);
    const middle = (name: string) => (at[`${name} upper left`][0] + at[`${name} upper right`][0]) / 2;
    expect(middle('T8')).toBeLessThan(Math.min(middle('T5'), middle('T11')));
    const both = spineFrontScene({ seed: 1, curves });
    const seen = landmarksOf(both);
    const tiltOf = (name: string) => tilt(sub(seen[`${name} upper left`], seen[`${name} upper right`]));
    expect(Math.abs(tiltOf('T5') - tiltOf('T11'))).toBeCloseTo(38, 6);
    expect(Math.abs(tiltOf('T11') - tiltOf('L4'))).toBeCloseTo(24, 6);
  });
  it('from the side has incidence = tilt + slope at its landmarks', () => {
    for (const [incidenceDeg, tiltDeg] of [
      [48, 10],
      [60, 22]
    ]) {
      const at = landmarksOf(
        spineSideScene({ seed: 1, incidenceDeg, tiltDeg, lordosisDeg: 55, kyphosisDeg: 40 })
      );
      const plate = sub(at['S1 back'], at['S1 front']);
      const normal: Vec3 = [0, plate[2], -plate[1]];
      const down: Vec3 = normal[2] < 0 ? normal : [0, -normal[1], -normal[2]];
      expect(between(down, sub(at['hip axis'], at['S1 middle']))).toBeCloseTo(incidenceDeg, 6);
      expect(between([0, 0, -1], sub(at['hip axis'], at['S1 middle']))).toBeCloseTo(tiltDeg, 6);
      expect(degrees(Math.atan2(Math.abs(plate[2]), plate[1]))).toBeCloseTo(incidenceDeg - tiltDeg, 6);
    }
  });
  it('of the neck has its segments along the backs of the vertebrae, in every position', () => {
    for (const position of ['neutral', 'bent', 'stretched'] as const) {
      const scene = neckScene({ seed: 1, position, segmentsDeg: [4, 5, 6, 4, 3] });
      const at = landmarksOf(scene);
      const tangent = (name: string) => {
        const v = sub(at[`${name} upper back`], at[`${name} lower back`]);
        return degrees(Math.atan2(v[1], v[2]));
      };
      neckNames.slice(1).forEach((name, i) => {
        const below = neckNames[i];
        expect(tangent(name) - tangent(below), `${position} ${name}`).toBeCloseTo(
          scene.truth[`${name} on ${below} Deg`],
          6
        );
      });
      expect(tangent('C2') - tangent('C7')).toBeCloseTo(scene.truth['C2 to C7 Deg'], 6);
    }
  });
});

describe('legs', () => {
  it('have their lengths and the angles of their joint lines', () => {
    const right = { femurMm: 430, tibiaMm: 362, mLdfaDeg: 88, mPtaDeg: 84 };
    const left = { femurMm: 441, tibiaMm: 360, mLdfaDeg: 91, mPtaDeg: 87 };
    const scene = legsScene({ seed: 1, right, left });
    const at = landmarksOf(scene);
    for (const [name, wish] of Object.entries({ right, left })) {
      const [hip, knee, ankle] = ['hip', 'knee', 'ankle'].map((each) => at[`${name} ${each}`]);
      const condyles = sub(at[`${name} condyle outer`], at[`${name} condyle inner`]);
      expect(between(sub(hip, knee), condyles), `${name} mLDFA`).toBeCloseTo(wish.mLdfaDeg, 6);
      const inwards = sub(at[`${name} plateau inner`], at[`${name} plateau outer`]);
      expect(between(sub(ankle, at[`${name} plateau middle`]), inwards), `${name} MPTA`).toBeCloseTo(
        wish.mPtaDeg,
        6
      );
      const hka = 180 - between(sub(knee, hip), sub(ankle, knee));
      expect(Math.abs(scene.truth[`${name}HkaDeg`] - 180)).toBeCloseTo(180 - hka, 6);
    }
    expect(scene.truth.lengthDifferenceMm).toBeGreaterThan(5);
  });
  it('broken, are turned and shifted by exactly what was set', () => {
    const wish = {
      seed: 1,
      bone: 'femur' as const,
      angleFrontDeg: 9,
      angleSideDeg: 0,
      shiftMm: [5, -3, 8] as Vec3
    };
    const at = landmarksOf(brokenShaftScene(wish, 'front'));
    const axis = (a: string, b: string) => sub(at[a], at[b]);
    expect(between(axis('near axis 1', 'near axis 2'), axis('far axis 1', 'far axis 2'))).toBeCloseTo(9, 6);
  });
});

describe('animals', () => {
  it('have hips with Norberg’s angles as set', () => {
    for (const [rightDeg, leftDeg] of [
      [106, 97],
      [88, 110]
    ]) {
      const at = landmarksOf(dogHipsScene({ seed: 1, rightDeg, leftDeg }));
      const line = sub(at['left head'], at['right head']);
      expect(between(line, sub(at['right rim'], at['right head']))).toBeCloseTo(rightDeg, 6);
      expect(
        between(sub(at['right head'], at['left head']), sub(at['left rim'], at['left head']))
      ).toBeCloseTo(leftDeg, 6);
    }
  });
  it('have a plateau and a heart as set', () => {
    for (const plateauDeg of [18, 27]) {
      const at = landmarksOf(dogStifleScene({ seed: 1, plateauDeg }));
      const axis = sub(at.ankle, at.eminence);
      const plateau = sub(at['plateau back'], at['plateau front']);
      expect(Math.abs(90 - between(axis, plateau))).toBeCloseTo(plateauDeg, 6);
      expect(at['plateau back'][2]).toBeLessThan(at['plateau front'][2]);
    }
    const scene = dogChestScene({ seed: 1, lengthInVertebrae: 5.4, widthInVertebrae: 4.3 });
    const at = landmarksOf(scene);
    const vertebra = scene.truth.vertebraMm;
    expect(lengthOf(sub(at.apex, at.carina)) / vertebra).toBeCloseTo(5.4, 6);
    expect(lengthOf(sub(at['heart back'], at['heart front'])) / vertebra).toBeCloseTo(4.3, 6);
    expect(lengthOf(sub(at['T4 middle'], at['T5 middle']))).toBeCloseTo(vertebra, 6);
  });
  it('have a fetlock bent as set', () => {
    const at = landmarksOf(fetlockScene({ seed: 1, jointDeg: 152 }));
    expect(
      between(sub(at['cannon far'], at['fetlock middle']), sub(at['pastern joint'], at['fetlock middle']))
    ).toBeCloseTo(152, 6);
  });
});

describe('markers', () => {
  const view = xrayView({
    through: [0, 0, 0],
    along: [0, 1, 0],
    up: [0, 0, 1],
    toObjectMm: 1000,
    toDetectorMm: 30,
    pitchMm: 0.1,
    width: 600,
    height: 500
  });
  const shadow = (body: ReturnType<typeof steelBall>) => {
    const map = attenuationOf([body], view);
    const xs: number[] = [];
    const ys: number[] = [];
    map.forEach((value, i) => {
      if (value > 0.2) {
        xs.push(i % 600);
        ys.push(Math.floor(i / 600));
      }
    });
    return {
      width: Math.max(...xs) - Math.min(...xs) + 1,
      height: Math.max(...ys) - Math.min(...ys) + 1,
      xs,
      ys
    };
  };
  it('a ball is as wide as its size and its height over the detector make it', () => {
    for (const [depth, mm] of [
      [0, 10],
      [20, 6]
    ]) {
      const { width } = shadow(steelBall([3, depth, 5], mm));
      expect(Math.abs(width - (mm * (1030 / (1000 + depth))) / 0.1)).toBeLessThan(1.6);
    }
    expect(() => steelBall([0, 0, 0], 0)).toThrow(RangeError);
  });
  it('a bar is as long as its ends are apart, a ruler has a line each ten millimetres', () => {
    const { width } = shadow(steelBar([-10, 0, 0], [10, 0, 0], 2));
    expect(Math.abs(width - (20 * 1.03) / 0.1)).toBeLessThan(2);
    const body = ruler([-20, 0, 0], [1, 0, 0], [0, 0, 1], 40);
    const [a, b] = [projected(view, body.landmarks['ruler 0']), projected(view, body.landmarks['ruler 40'])];
    expect((b.x - a.x) * 0.1).toBeCloseTo(40 * 1.03, 6);
    expect(Object.keys(body.landmarks)).toHaveLength(5);
  });
  it('a lead letter stands upright where it was put, as large as it is', () => {
    const { xs, ys, height } = shadow(leadLetter(view, 'L', { x: 100, y: 120 }, 14));
    expect(Math.abs(height - 140)).toBeLessThan(4);
    const foot = ys.filter((y) => y > Math.max(...ys) - 15).length;
    const head = ys.filter((y) => y < Math.min(...ys) + 15).length;
    expect(foot).toBeGreaterThan(3 * head);
    expect(Math.min(...xs)).toBeGreaterThan(85);
  });
});

describe('a photograph', () => {
  const stance = { leftMm: 0, frontMm: 0, rollDeg: 0, pitchDeg: 0 };
  const figure = figurePhotograph(
    { seed: 1, head: { ...stance, leftMm: 20, rollDeg: 5 }, chest: stance, pelvis: stance },
    'front',
    2
  );
  it('shows the plumb line’s balls where they are known to be', () => {
    const { raster, known } = figure;
    for (const name of ['plumb upper', 'plumb lower']) {
      const { imagePoint } = known[name];
      let [sum, sx, sy] = [0, 0, 0];
      for (let y = Math.floor(imagePoint.y) - 20; y < imagePoint.y + 20; y++)
        for (let x = Math.floor(imagePoint.x) - 20; x < imagePoint.x + 20; x++) {
          const at = 3 * (y * raster.width + x);
          if (raster.data[at] < 60 || raster.data[at + 1] > 0.65 * raster.data[at]) continue;
          sum++;
          sx += x + 0.5;
          sy += y + 0.5;
        }
      expect(sum).toBeGreaterThan(150);
      expect(Math.hypot(sx / sum - imagePoint.x, sy / sum - imagePoint.y)).toBeLessThan(0.6);
    }
  });
  it('turns and shifts the head’s markers as set', () => {
    const { known } = figure;
    const v = sub(known['head left'].patientPointMm, known['head right'].patientPointMm);
    expect(degrees(Math.atan2(v[2], v[0]))).toBeCloseTo(5, 6);
    const shoulders = sub(known['chest left'].patientPointMm, known['chest right'].patientPointMm);
    expect(shoulders[2]).toBeCloseTo(0, 9);
  });
  it('of a wound shows its paper scale at the size it says', () => {
    const { raster, pxPerMm } = woundPhotograph(1, 30, 14);
    const row = Math.round(raster.height - 130 + 5 * pxPerMm);
    let dark = 0;
    for (let x = 170; x < 180 + 6 * pxPerMm; x++) if (raster.data[3 * (row * raster.width + x)] < 90) dark++;
    expect(Math.abs(dark - 5 * pxPerMm)).toBeLessThan(4);
  });
});
