import { seededRandom } from '../../random';
import { type Part, ball, ellipsoid, limb, rod } from '../solid/part';
import { type Frame, type Vec3, inTurn, movePoint, shifted, stretched, turnedAbout } from '../space';
import { type KnownPoint, knownPoints } from '../xray/radiograph';
import type { XrayView } from '../xray/view';
import { noiseAt } from '../xray/weave';
import type { Raster } from '../../raster/raster';
import { movedAll } from '../bones/kit';
import { type Thing, camera, photograph } from './camera';

/** How one part of the body stands against the part below: mm to its left and to the front, turns seen from front and side. */
export interface Stance {
  leftMm: number;
  frontMm: number;
  /** Its left side up, seen from the front. */
  rollDeg: number;
  /** Its front down, seen from the side. */
  pitchDeg: number;
}

export interface FigureWish {
  seed: number;
  head: Stance;
  chest: Stance;
  pelvis: Stance;
}

/** Colours of what is stuck on and hung up, red, green and blue from 0 to 1, and of the wall. */
export interface FigurePaint {
  marker: Vec3;
  plumb: Vec3;
  wall: Vec3;
}
const usualPaint: FigurePaint = {
  marker: [0.95, 0.85, 0.16],
  plumb: [0.82, 0.16, 0.12],
  wall: [1, 0.98, 0.94]
};

export type FigureView = 'front' | 'left' | 'right';

export interface FigurePhotograph {
  raster: Raster;
  view: XrayView;
  known: Record<string, KnownPoint>;
  /** Between the middles of the plumb line's two balls. */
  plumbMm: number;
}

const plumbMm = 1000;
const markerMm = 9;
const skin: Vec3 = [0.78, 0.6, 0.5];
const cloth: Vec3 = [0.28, 0.38, 0.46];

/**
 * A standing figure with stick-on markers, beside a plumb line with two balls: what posture is measured on. Axes are
 * the patient's; the floor is z = 0. The plumb line hangs straight down whatever the camera does.
 */
export function figurePhotograph(
  wish: FigureWish,
  from: FigureView,
  rollDeg = 0,
  paint: FigurePaint = usualPaint
): FigurePhotograph {
  const frame = (s: Stance, height: number): Frame =>
    inTurn(
      turnedAbout([0, 1, 0], -s.rollDeg, [0, 0, height]),
      turnedAbout([1, 0, 0], s.pitchDeg, [0, 0, height]),
      shifted([s.leftMm, -s.frontMm, 0])
    );
  const pelvis = frame(wish.pelvis, 960);
  const chest = inTurn(frame(wish.chest, 1100), shifted([wish.pelvis.leftMm, -wish.pelvis.frontMm, 0]));
  const head = inTurn(
    frame(wish.head, 1520),
    shifted([wish.pelvis.leftMm + wish.chest.leftMm, -wish.pelvis.frontMm - wish.chest.frontMm, 0])
  );
  const landmarks: Record<string, Vec3> = {
    'head left': movePoint(head, [83, 6, 1610]),
    'head right': movePoint(head, [-83, 6, 1610]),
    'head front': movePoint(head, [0, -101, 1640]),
    'chest left': movePoint(chest, [198, -52, 1428]),
    'chest right': movePoint(chest, [-198, -52, 1428]),
    'chest front': movePoint(chest, [0, -118, 1380]),
    'pelvis left': movePoint(pelvis, [128, -96, 985]),
    'pelvis right': movePoint(pelvis, [-128, -96, 985]),
    'hip left': movePoint(pelvis, [183, -6, 900]),
    'hip right': movePoint(pelvis, [-183, -6, 900])
  };
  const plumbX = from === 'front' ? 420 : 0;
  const plumbY = from === 'front' ? 0 : 380;
  const plumb: Vec3[] = [
    [plumbX, plumbY, 1560],
    [plumbX, plumbY, 1560 - plumbMm]
  ];
  landmarks['plumb upper'] = plumb[0];
  landmarks['plumb lower'] = plumb[1];
  const things: Thing[] = [
    ...body(pelvis, chest, head, wish.seed),
    ...Object.entries(landmarks)
      .filter(([name]) => !name.startsWith('plumb'))
      .map(([, at]): Thing => ({ parts: [ball(at, markerMm)], colour: paint.marker, shine: 0.3 })),
    { parts: plumb.map((at) => ball(at, 17)), colour: paint.plumb, shine: 0.35 },
    { parts: [rod([plumbX, plumbY, 1900], 1.6, [plumbX, plumbY, 500], 1.6)], colour: [0.1, 0.1, 0.1] }
  ];
  const way: Vec3 = from === 'front' ? [0, -3400, 0] : from === 'left' ? [3400, 0, 0] : [-3400, 0, 0];
  const middle: Vec3 = [from === 'front' ? 90 : 0, from === 'front' ? 0 : 90, 900];
  const tilt = (rollDeg * Math.PI) / 180;
  const across: Vec3 = from === 'front' ? [1, 0, 0] : from === 'left' ? [0, 1, 0] : [0, -1, 0];
  const view = camera({
    at: [middle[0] + way[0], middle[1] + way[1], 1050],
    towards: middle,
    up: [across[0] * Math.sin(tilt), across[1] * Math.sin(tilt), Math.cos(tilt)],
    pxPerMmThere: 0.62,
    width: 800,
    height: 1200
  });
  const raster = photograph(
    view,
    things,
    (x, y) => {
      const shade = 0.78 - 0.18 * (y / 1200) + 0.02 * noiseAt(x * 0.01, y * 0.01, 1, wish.seed);
      return y > 1140
        ? [0.5, 0.47, 0.42]
        : [shade * paint.wall[0], shade * paint.wall[1], shade * paint.wall[2]];
    },
    seededRandom(wish.seed)
  );
  return { raster, view, known: knownPoints(view, landmarks), plumbMm };
}

function body(pelvis: Frame, chest: Frame, head: Frame, seed: number): Thing[] {
  const flat = stretched(1, 0.66, 1);
  const freckle = ([x, y, z]: Vec3) => 1 + 0.05 * noiseAt(x * 0.03, y * 0.03, z * 0.03, seed);
  const torso: Part[] = [
    ...movedAll(
      [limb([0, 0, 1130], 128, [0, 0, 1370], 168, flat), limb([0, 0, 1400], 110, [0, 0, 1470], 62, flat)],
      chest
    ),
    ...movedAll(
      [limb([110, 0, 1410], 62, [175, 0, 1400], 58), limb([-110, 0, 1410], 62, [-175, 0, 1400], 58)],
      chest
    )
  ];
  const hips = movedAll(
    [limb([0, 0, 900], 150, [0, 0, 1060], 132, flat), limb([90, 0, 900], 86, [-90, 0, 900], 86)],
    pelvis
  );
  const legs = [1, -1].flatMap((side): Part[] => [
    limb(movePoint(pelvis, [side * 92, 0, 880]), 84, [side * 96, 4, 520], 56),
    limb([side * 96, 4, 520], 55, [side * 98, 16, 120], 36),
    limb([side * 98, 30, 60], 38, [side * 108, -120, 34], 30)
  ]);
  const arms = [1, -1].flatMap((side): Part[] => [
    limb(movePoint(chest, [side * 196, 0, 1390]), 46, [side * 262, 6, 1110], 36),
    limb([side * 262, 6, 1110], 34, [side * 272, -24, 880], 25),
    ellipsoid([side * 274, -30, 810], [22, 34, 66])
  ]);
  const skull = movedAll(
    [
      ellipsoid([0, 0, 1640], [76, 96, 112]),
      limb([0, -18, 1600], 62, [0, -52, 1556], 40),
      limb([0, -90, 1624], 11, [0, -104, 1600], 13),
      limb([0, 14, 1480], 56, [0, 2, 1570], 54)
    ],
    head
  );
  const hair = movedAll([ellipsoid([0, 16, 1668], [82, 92, 98])], head);
  return [
    {
      parts: [...torso, ...hips],
      colour: cloth,
      skin: ([x, y, z]) => 1 + 0.06 * noiseAt(x * 0.05, y * 0.05, z * 0.02, seed + 1)
    },
    { parts: [...arms, ...skull, ...legs.slice(1, 3), ...legs.slice(4)], colour: skin, skin: freckle },
    { parts: [legs[0], legs[3]], colour: [0.2, 0.22, 0.27] },
    { parts: hair, colour: [0.24, 0.17, 0.12] }
  ];
}
