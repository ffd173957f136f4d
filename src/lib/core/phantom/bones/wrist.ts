import { type Part, type Plane, ball, cutBy, ellipsoid, limb } from '../solid/part';
import { type Frame, type Vec3, inTurn, movePoint, shifted, stretched, turnedAbout } from '../space';
import { flatPanel } from '../xray/detector';
import { leadLetter, steelBall } from '../markers';
import type { Layer } from '../xray/layer';
import type { Body } from '../xray/radiograph';
import { xrayView } from '../xray/view';
import { type Scene, bone, flesh, beyond, movedAll, shaft, tube } from './kit';

/**
 * A wrist in axes of its own: x to the thumb's side, y to the back of the hand, z to the fingers; the middle of the
 * radius' joint surface is the origin. Millimetres.
 */
export interface WristWish {
  seed: number;
  side: 'right' | 'left';
  /** Slope of the joint surface from the front: the styloid's side is higher. */
  inclinationDeg: number;
  /** Slope from the side: positive towards the palm. */
  volarTiltDeg: number;
  /** How far the ulna's head stands beyond the radius' inner corner. */
  ulnarVarianceMm: number;
  /** A break 22 mm below the joint: how the far fragment was moved, from where it belongs. Three parts split the joint. */
  break?: {
    parts: 2 | 3;
    dorsalTiltDeg: number;
    shorteningMm: number;
    radialShiftMm: number;
    stepMm?: number;
  };
  density?: number;
}

export interface WristBody extends Body {
  fragment: Frame | null;
}

const styloidX = 15;
const cornerX = -11.5;
const rimY = 8.5;
const breakZ = -22;

export function wristBody(wish: WristWish): WristBody {
  const slopeX = Math.tan((wish.inclinationDeg * Math.PI) / 180);
  const slopeY = Math.tan((wish.volarTiltDeg * Math.PI) / 180);
  const joint = { normal: [-slopeX, -slopeY, 1] as Vec3, offset: 0 };
  const on = (x: number, y: number): Vec3 => [x, y, x * slopeX + y * slopeY];
  const flat = stretched(1, 0.66, 1);
  const radius = [
    ...shaft([-1, 0, -120], [0.5, 0, -42], 7.6, 6.4, 8.6, flat),
    limb([0.5, 0, -42], 8.6, [1, 0, -24], 12, flat),
    limb([1, 0, -24], 12, [1.6, 0, -8], 15.2, flat),
    limb([1.6, 0, -8], 15.2, [2, 0, 9], 14.6, flat)
  ].map((part) => cutBy(part, joint));
  const marrow = [limb([-1, 0, -120], 3.1, [0.3, 0, -48], 3.6, flat)];
  const moves = fragmentMoves(wish);
  const landmarks: Record<string, Vec3> = {
    'radial styloid': on(styloidX, 0),
    'ulnar corner': on(cornerX, 0),
    'dorsal rim': on(0, rimY),
    'volar rim': on(0, -rimY),
    'radius axis far': [0.4, 0, -50],
    'radius axis near': [-0.8, 0, -100]
  };
  const layers: Layer[] = [];
  const boneOf = (broken: Plane[] = [], moved?: Frame) =>
    bone({
      parts: radius,
      cortexMm: 1.5,
      seed: wish.seed,
      spacingMm: 1.25,
      marrow,
      density: wish.density,
      broken,
      moved
    });
  if (!moves) layers.push(...boneOf());
  else {
    const across: Plane = { normal: [0.16, 0.28, 1], offset: breakZ };
    layers.push(...boneOf([across]));
    if (wish.break!.parts === 2) layers.push(...boneOf([beyond(across)], moves.whole));
    else {
      const along: Plane = { normal: [1, 0, 0.15], offset: -2 };
      layers.push(
        ...boneOf([beyond(across), beyond(along)], moves.whole),
        ...boneOf([beyond(across), along], moves.inner)
      );
    }
    for (const name of ['radial styloid', 'dorsal rim', 'volar rim'])
      landmarks[name] = movePoint(moves.whole, landmarks[name]);
    landmarks['ulnar corner'] = movePoint(
      wish.break!.parts === 3 ? moves.inner : moves.whole,
      landmarks['ulnar corner']
    );
  }
  const ulnaTop = on(cornerX, 0)[2] + wish.ulnarVarianceMm;
  landmarks['ulnar head'] = [-20, 0, ulnaTop];
  layers.push(...ulna(wish, ulnaTop), ...hand(wish, moves?.hand ?? null), softTissue(wish));
  return { layers, landmarks, fragment: moves?.whole ?? null };
}

function fragmentMoves({ break: broken }: WristWish): { whole: Frame; inner: Frame; hand: Frame } | null {
  if (!broken) return null;
  const whole = inTurn(
    turnedAbout([1, 0, 0], -broken.dorsalTiltDeg, [0, 0, breakZ]),
    shifted([broken.radialShiftMm, broken.dorsalTiltDeg > 0 ? 2 : 0, -broken.shorteningMm])
  );
  const hand = inTurn(
    turnedAbout([1, 0, 0], -0.3 * broken.dorsalTiltDeg, [0, 0, breakZ]),
    shifted([broken.radialShiftMm, broken.dorsalTiltDeg > 0 ? 5 : 0, -broken.shorteningMm])
  );
  return { whole, hand, inner: inTurn(whole, shifted([-0.8, 0, -(broken.stepMm ?? 0)])) };
}

function ulna({ seed, density }: WristWish, top: number): Layer[] {
  const parts = [
    ...shaft([-19, 1, -120], [-20, 0, top - 18], 6.6, 5, 5.2),
    limb([-20, 0, top - 18], 5.2, [-20, 0, top - 7.6], 7.6)
  ];
  const styloid = limb([-25, 3, top - 3], 2.3, [-26, 3.6, top + 4.2], 1.3);
  return bone({
    parts: [...parts, styloid],
    cortexMm: 1.3,
    seed: seed + 1,
    spacingMm: 1.1,
    marrow: [limb([-19, 1, -120], 2.3, [-20, 0, top - 26], 2.4)],
    density
  });
}

/** Eight carpal bones and the metacarpals. They ride on the radius: where its fragment went, they went. */
function hand({ seed, density }: WristWish, fragment: Frame | null): Layer[] {
  const tilt = (deg: number) => turnedAbout([0, 1, 0], deg);
  const carpals: Part[][] = [
    [ellipsoid([9.5, -1, 13.5], [5.8, 6, 11.5], tilt(38))],
    [ellipsoid([-3.5, 0, 8.5], [7.6, 7, 6.6], tilt(-8)), ball([-3.5, -3, 9], 5)],
    [ellipsoid([-15.5, 1, 11], [5.8, 6, 7.4], tilt(-30))],
    [ball([-16, -7, 10], 4.6)],
    [ellipsoid([18, -4, 27], [6.8, 6.6, 6.4], tilt(30))],
    [ellipsoid([9.5, 1, 28.5], [5, 6, 6])],
    [ellipsoid([0.5, 0, 24.5], [6.2, 6.6, 9.8]), ball([0, 0, 18], 5.8)],
    [ellipsoid([-10.5, 0, 23], [6.6, 6.6, 8.8], tilt(-20)), limb([-9, -4, 26], 2.4, [-8, -10, 26], 1.8)]
  ];
  const rays: [Vec3, Vec3, number][] = [
    [[24, -8, 36], [46, -16, 70], 1.1],
    [[10, 1, 40], [15, 1, 98], 1.05],
    [[1, 1, 41], [2, 1, 102], 1.05],
    [[-7, 1, 38], [-10, 1, 92], 0.9],
    [[-14, 1, 35], [-21, 0, 82], 0.9]
  ];
  const metacarpals = rays.map(([a, b, k]) => [...shaft(a, b, 6.4 * k, 3.9 * k, 6.2 * k), ball(b, 6.6 * k)]);
  const placed = (parts: Part[]) => (fragment ? movedAll(parts, fragment) : parts);
  return [
    ...carpals.flatMap((parts, i) =>
      bone({ parts: placed(parts), cortexMm: 0.8, seed: seed + 20 + i, spacingMm: 1, density })
    ),
    ...metacarpals.flatMap((parts, i) =>
      bone({
        parts: placed(parts),
        cortexMm: 1.4,
        seed: seed + 40 + i,
        spacingMm: 1,
        marrow: placed([
          limb(mixPoint(rays[i][0], rays[i][1], 0.25), 1.6, mixPoint(rays[i][0], rays[i][1], 0.75), 1.6)
        ]),
        density
      })
    )
  ];
}

const mixPoint = (a: Vec3, b: Vec3, s: number): Vec3 => [
  a[0] + (b[0] - a[0]) * s,
  a[1] + (b[1] - a[1]) * s,
  a[2] + (b[2] - a[2]) * s
];

function softTissue({ seed }: WristWish): Layer {
  const flat = stretched(1, 0.62, 1);
  return flesh(
    [
      ...tube(
        [
          [-9, 0, -130],
          [-9, 0, -60],
          [-7, 0, -10],
          [-3, 0, 30],
          [-3, 0, 110]
        ],
        [33, 31, 30, 34, 43],
        flat
      ),
      limb([20, -8, 30], 13, [52, -18, 80], 11)
    ],
    seed + 7
  );
}

/** From the back of the hand to the palm, or from the little finger's side. A steel ball lies beside it if wished. */
export function wristScene(
  wish: WristWish,
  from: 'front' | 'side',
  ballMarker?: { diameterMm: number; overDetectorMm: number }
): Scene & { ball: Vec3 | null } {
  const body = wristBody(wish);
  const thumb: Vec3 = wish.side === 'right' ? [1, 0, 0] : [-1, 0, 0];
  const toDetectorMm = 28;
  const view = xrayView({
    through: [0, 0, 0],
    along: from === 'front' ? [0, thumb[0], 0] : [thumb[0], 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1000,
    toDetectorMm,
    pitchMm: 0.139,
    width: from === 'front' ? 800 : 650,
    height: 1220
  });
  const bodies: Body[] = [body];
  let at: Vec3 | null = null;
  if (ballMarker) {
    const depth = toDetectorMm - ballMarker.overDetectorMm;
    at = from === 'front' ? [-44, thumb[0] * depth, 20] : [thumb[0] * depth, -34, 30];
    bodies.push(steelBall(at, ballMarker.diameterMm));
  }
  bodies.push(
    leadLetter(view, wish.side === 'right' ? 'R' : 'L', { x: view.width * 0.9, y: view.height * 0.84 }, 11)
  );
  return {
    bodies,
    view,
    detector: { ...flatPanel, black: 0.15, white: 3.1 },
    truth: {
      inclinationDeg: wish.inclinationDeg,
      volarTiltDeg: wish.volarTiltDeg,
      ulnarVarianceMm: wish.ulnarVarianceMm
    },
    ball: at
  };
}
