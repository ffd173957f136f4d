import { type Part, type Plane, ball, cutBy, ellipsoid, limb } from '../solid/part';
import {
  type Frame,
  type Vec3,
  add,
  inTurn,
  lengthOf,
  mix,
  movePoint,
  shifted,
  stretched,
  sub,
  times,
  turnedAbout,
  unit
} from '../space';
import { flatPanel } from '../xray/detector';
import type { Layer } from '../xray/layer';
import type { Body } from '../xray/radiograph';
import { xrayView } from '../xray/view';
import { type Scene, beyond, bone, flesh, movedAll, shaft, tube } from './kit';

/** One leg's numbers, from the front, as the literature names them (Paley, 2002). */
export interface LegNumbers {
  femurMm: number;
  tibiaMm: number;
  /** Mechanical lateral distal femoral angle, and medial proximal tibial angle. */
  mLdfaDeg: number;
  mPtaDeg: number;
  /** Joint line convergence: opening to the outside, positive. */
  jlcaDeg?: number;
}

export interface LegsWish {
  seed: number;
  right: LegNumbers;
  left: LegNumbers;
}

interface Leg {
  hip: Vec3;
  knee: Vec3;
  ankle: Vec3;
  layers: Layer[];
  landmarks: Record<string, Vec3>;
}

const deg = Math.PI / 180;
const hipApartMm = 176;

/**
 * A leg from its hip down, built from its angles: the knee's joint lines stand at the set angles to the mechanical
 * axes. `out` is 1 for the left leg and -1 for the right.
 */
function leg(wish: LegNumbers, out: 1 | -1, seed: number, hip: Vec3, name: string): Leg {
  const knee: Vec3 = add(hip, [-out * 22, 0, -wish.femurMm]);
  const femurAxis = unit(sub(knee, hip));
  // The line across the condyles: mLDFA is between it and the axis, on the outer side.
  const turn = (v: Vec3, angle: number): Vec3 => [
    v[0] * Math.cos(angle) - v[2] * Math.sin(angle),
    v[1],
    v[0] * Math.sin(angle) + v[2] * Math.cos(angle)
  ];
  const upwards = times(femurAxis, -1);
  const condyleLine = turn(upwards, -out * wish.mLdfaDeg * deg);
  const jlca = (wish.jlcaDeg ?? 0) * deg;
  const plateauLine = turn(condyleLine, -out * jlca);
  // MPTA is on the inner side, between the plateau and the tibia's axis.
  const tibiaAxis = turn(times(plateauLine, -1), out * wish.mPtaDeg * deg);
  const top = add(knee, times(tibiaAxis, 7));
  const ankle = add(top, times(tibiaAxis, wish.tibiaMm));
  const halfKnee = 36;
  const condyles = [22, -22].map((x) => add(knee, times(condyleLine, x)));
  const radius = 20;
  const centers = condyles.map((point) => sub(point, times(turn(condyleLine, (-out * Math.PI) / 2), radius)));
  const flatten = (v: Vec3): Vec3 => v;
  const shaftTop = add(hip, [out * 46, 4, -72]);
  const femur: Part[] = [
    ball(hip, 24),
    limb(hip, 17, add(hip, [out * 36, 4, -34]), 18),
    limb(add(hip, [out * 50, 4, -12]), 13, shaftTop, 19),
    ...shaft(shaftTop, add(knee, times(upwards, 62)), 18, 14, 19),
    ...centers.map((center) => limb(add(knee, times(upwards, 66)), 17, flatten(center), radius)),
    ...centers.map((center) => ball(center, radius))
  ];
  const plate: Plane = {
    normal: times(turn(plateauLine, (-out * Math.PI) / 2), -1),
    offset: 0
  };
  const facing = plate.normal[2] > 0 ? plate.normal : times(plate.normal, -1);
  const cap: Plane = { normal: facing, offset: facing[0] * top[0] + facing[1] * top[1] + facing[2] * top[2] };
  const tibia: Part[] = [
    ...[20, -20].map((x) =>
      limb(add(add(top, times(plateauLine, x)), times(facing, -12)), 19, add(top, times(tibiaAxis, 62)), 15)
    ),
    ...[20, -20].map((x) =>
      limb(add(top, times(plateauLine, x)), 19, add(add(top, times(plateauLine, x)), times(facing, -16)), 19)
    )
  ].map((part) => cutBy(part, cap));
  tibia.push(
    ...shaft(add(top, times(tibiaAxis, 56)), add(ankle, times(tibiaAxis, -26)), 16, 12, 13),
    cutBy(limb(add(ankle, times(tibiaAxis, -30)), 13, add(ankle, times(tibiaAxis, -8)), 23), {
      normal: tibiaAxis,
      offset: tibiaAxis[0] * ankle[0] + tibiaAxis[1] * ankle[1] + tibiaAxis[2] * ankle[2]
    }),
    limb(add(ankle, [-out * 22, 0, 2]), 8, add(ankle, [-out * 24, 0, -12]), 5),
    // The spines between the plateaus.
    limb(add(top, times(plateauLine, 5)), 3.5, add(add(top, times(plateauLine, 5)), times(facing, 8)), 1.6),
    limb(add(top, times(plateauLine, -5)), 3.5, add(add(top, times(plateauLine, -5)), times(facing, 7)), 1.6)
  );
  const fibula = [
    ...tube(
      [
        add(top, [out * 36, 12, -24]),
        add(mix(top, ankle, 0.5), [out * 34, 8, 0]),
        add(ankle, [out * 28, 6, -18])
      ],
      [8, 5, 8.5]
    )
  ];
  const talus = [
    ellipsoid(add(ankle, [0, 6, -18]), [20, 26, 16]),
    ellipsoid(add(ankle, [out * 3, 14, -50]), [18, 34, 20])
  ];
  const middle = add(hip, [out * 20, 0, -60]);
  const muscles = tube(
    [
      add(middle, [0, 0, 120]),
      add(middle, [0, 0, -40]),
      mix(middle, knee, 0.6),
      knee,
      mix(knee, ankle, 0.35),
      add(ankle, [0, 6, 30]),
      add(ankle, [0, 6, -70])
    ],
    [84, 82, 70, 56, 56, 38, 40]
  );
  const marrowOf = (a: Vec3, b: Vec3, r: number) => [
    limb(mix(a, b, 0.16), r * 0.7, mix(a, b, 0.5), r),
    limb(mix(a, b, 0.5), r, mix(a, b, 0.84), r * 0.8)
  ];
  const layers = [
    ...bone({ parts: femur, cortexMm: 3.4, seed, spacingMm: 1.8, marrow: marrowOf(shaftTop, knee, 8) }),
    ...bone({ parts: tibia, cortexMm: 3, seed: seed + 1, spacingMm: 1.8, marrow: marrowOf(top, ankle, 7) }),
    ...bone({ parts: fibula, cortexMm: 1.8, seed: seed + 2, spacingMm: 1.6 }),
    ...bone({
      parts: [ellipsoid(add(knee, [0, -34, 14]), [22, 10, 23])],
      cortexMm: 1.4,
      seed: seed + 3,
      density: 0.8
    }),
    ...bone({ parts: talus, cortexMm: 1.5, seed: seed + 4 }),
    flesh(muscles, seed + 5, 0.8)
  ];
  return {
    hip,
    knee,
    ankle,
    layers,
    landmarks: {
      [`${name} hip`]: hip,
      [`${name} knee`]: knee,
      [`${name} ankle`]: ankle,
      [`${name} condyle outer`]: add(knee, times(condyleLine, halfKnee - 14)),
      [`${name} condyle inner`]: add(knee, times(condyleLine, -(halfKnee - 14))),
      [`${name} plateau outer`]: add(top, times(plateauLine, 32)),
      [`${name} plateau inner`]: add(top, times(plateauLine, -32)),
      [`${name} plateau middle`]: top
    }
  };
}

/** Wings, sacrum and the ring in front, seen from the front, around the hips. */
function pelvis(seed: number, lift: number): Layer[] {
  const ring = [1, -1].flatMap((side): Part[] => [
    ...tube(
      [
        [side * 70, -8, -14],
        [side * 40, -34, -34],
        [side * 7, -44, -44]
      ],
      [14, 9, 12]
    ),
    ...tube(
      [
        [side * 74, 16, -22],
        [side * 66, 12, -62],
        [side * 42, -20, -78],
        [side * 9, -42, -62]
      ],
      [15, 12, 9, 9]
    ),
    limb([side * 78, 4, 22], 22, [side * 84, 0, 2], 31),
    limb([side * 60, 30, 56], 15, [side * 74, 8, 24], 22)
  ]);
  const wings = [1, -1].map((side) =>
    ellipsoid(
      [side * 92, 10, 84],
      [12, 60, 62],
      inTurn(turnedAbout([0, 1, 0], side * 26), turnedAbout([0, 0, 1], side * 38))
    )
  );
  const sacrum = [
    limb([0, 36, 84], 24, [0, 62, 4], 8, stretched(1.5, 0.8, 1)),
    ellipsoid([34, 36, 66], [24, 16, 24]),
    ellipsoid([-34, 36, 66], [24, 16, 24])
  ];
  const up = (parts: Part[]) => movedAll(parts, shifted([0, 0, lift]));
  const sockets = [1, -1].map((side) => ball([side * (hipApartMm / 2), 0, lift], 25.5));
  return [
    ...bone({ parts: up(ring), cortexMm: 1.8, seed, spacingMm: 1.7, density: 0.9 }).map((layer) => ({
      ...layer,
      minus: sockets
    })),
    ...bone({ parts: up(wings), cortexMm: 1.8, seed: seed + 1, spacingMm: 1.8, density: 0.8 }),
    ...bone({ parts: up(sacrum), cortexMm: 1.4, seed: seed + 2, spacingMm: 1.7, density: 0.8 }),
    flesh([ellipsoid([0, 10, lift + 60], [172, 104, 150])], seed + 3, 0.75)
  ];
}

const ordinary: LegNumbers = { femurMm: 420, tibiaMm: 350, mLdfaDeg: 87.5, mPtaDeg: 87.5 };

/** One leg of ordinary angles with its foot, its hip at the origin; with the pelvis or without. */
export function legAlone(
  seed: number,
  side: 'right' | 'left',
  withPelvis: boolean
): { layers: Layer[]; hip: Vec3; knee: Vec3; ankle: Vec3 } {
  const out = side === 'left' ? 1 : -1;
  const hip: Vec3 = [(out * hipApartMm) / 2, 0, 0];
  const { layers, knee, ankle } = leg(ordinary, out, seed, hip, side);
  return {
    layers: [...layers, ...footLayers(ankle, out, seed + 40), ...(withPelvis ? pelvis(seed + 30, 0) : [])],
    hip,
    knee,
    ankle
  };
}

/** Midfoot, metatarsals and toes before an ankle: forward is -y. */
function footLayers(ankle: Vec3, out: 1 | -1, seed: number): Layer[] {
  const rays = [-2, -1, 0, 1, 2].flatMap((i): Part[] => {
    const x = out * (8 + i * 13);
    const long = i === -2 ? 1.3 : 1;
    const from = add(ankle, [x * 0.8, -44, -48]);
    const knuckle = add(ankle, [x, -108 + Math.abs(i) * 3, -62]);
    return [
      ...shaft(from, knuckle, 8 * long, 5.4 * long, 8 * long),
      limb(add(knuckle, [0, -7, -1]), 6.6 * long, add(knuckle, [out * i, -34, -2]), 5 * long),
      limb(add(knuckle, [out * i, -40, -2]), 4.6 * long, add(knuckle, [out * i, -54, -3]), 3.6 * long)
    ];
  });
  const middle = [-16, 0, 16].map((x) => ellipsoid(add(ankle, [out * (x + 4), -30, -42]), [10, 17, 14]));
  const heel = [limb(add(ankle, [0, 18, -44]), 20, add(ankle, [0, 56, -52]), 21)];
  return [
    ...bone({ parts: [...rays, ...middle], cortexMm: 1.5, seed, spacingMm: 1.3 }),
    ...bone({ parts: heel, cortexMm: 1.4, seed: seed + 1, spacingMm: 1.3 }),
    flesh(
      [
        limb(add(ankle, [out * 4, 40, -44]), 34, add(ankle, [out * 6, -120, -58]), 30),
        limb(add(ankle, [0, 4, 10]), 36, add(ankle, [0, 20, -40]), 36)
      ],
      seed + 2,
      0.8
    )
  ];
}

/** Both legs standing, from the pelvis to the feet. Angles at the knee and lengths are as set. */
export function legsScene(wish: LegsWish): Scene {
  const right = leg(wish.right, -1, wish.seed, [-hipApartMm / 2, 0, 0], 'right');
  const left = leg(wish.left, 1, wish.seed + 10, [hipApartMm / 2, 0, 0], 'left');
  const body: Body = {
    layers: [...right.layers, ...left.layers, ...pelvis(wish.seed + 30, 0)],
    landmarks: { ...right.landmarks, ...left.landmarks }
  };
  const axis = ({ hip, knee, ankle }: Leg) => {
    const [thigh, shank] = [sub(knee, hip), sub(ankle, knee)];
    const angle = (v: Vec3) => Math.atan2(v[0], -v[2]);
    return (angle(shank) - angle(thigh)) / deg;
  };
  const view = xrayView({
    through: [0, 0, -390],
    along: [0, 1, 0],
    up: [0, 0, 1],
    toObjectMm: 2500,
    toDetectorMm: 150,
    pitchMm: 0.42,
    width: 960,
    height: 2460
  });
  const length = (of: Leg) => lengthOf(sub(of.hip, of.knee)) + lengthOf(sub(of.knee, of.ankle));
  return {
    bodies: [body],
    view,
    detector: { ...flatPanel, quanta: 12_000, black: 0.4, white: 5.2, evening: 0.55, eveningPx: 110 },
    truth: {
      lengthDifferenceMm: length(left) - length(right),
      rightHkaDeg: 180 - axis(right),
      leftHkaDeg: 180 + axis(left),
      rightMLdfaDeg: wish.right.mLdfaDeg,
      leftMLdfaDeg: wish.left.mLdfaDeg,
      rightMPtaDeg: wish.right.mPtaDeg,
      leftMPtaDeg: wish.left.mPtaDeg
    }
  };
}

export interface ShaftWish {
  seed: number;
  bone: 'forearm' | 'tibia' | 'femur';
  /** How the far fragment was moved from where it belongs: about the break, and along. */
  angleFrontDeg: number;
  angleSideDeg: number;
  shiftMm: Vec3;
}

const shafts = {
  femur: { length: 400, r: 14, end: 24, cortex: 5, flesh: 72, partner: null },
  tibia: { length: 340, r: 12, end: 20, cortex: 4, flesh: 52, partner: { x: 32, r: 5.5 } },
  forearm: { length: 230, r: 7, end: 11, cortex: 2.6, flesh: 34, partner: { x: 19, r: 6 } }
} as const;

/** A broken shaft, from the front or the side. The far fragment's turn and shift are the truth. */
export function brokenShaftScene(wish: ShaftWish, from: 'front' | 'side'): Scene & { fragment: Frame } {
  const { length, r, end, cortex, flesh: around, partner } = shafts[wish.bone];
  const half = length / 2;
  const fragment = inTurn(
    turnedAbout([0, 1, 0], wish.angleFrontDeg),
    turnedAbout([1, 0, 0], wish.angleSideDeg),
    shifted(wish.shiftMm)
  );
  const across: Plane = { normal: [0.5, -0.3, 1], offset: 0 };
  const main = {
    parts: shaft([0, 0, half], [0, 0, -half], end, r, end),
    marrow: [limb([0, 0, half * 0.7], r - cortex, [0, 0, -half * 0.7], r - cortex)],
    cortexMm: cortex,
    seed: wish.seed,
    spacingMm: 1.6
  };
  const layers: Layer[] = [
    ...bone({ ...main, broken: [beyond(across)] }),
    ...bone({ ...main, broken: [across], moved: fragment })
  ];
  if (partner) {
    const other = {
      parts: shaft([partner.x, 8, half], [partner.x, 8, -half], partner.r * 1.6, partner.r, partner.r * 1.7),
      cortexMm: cortex * 0.7,
      seed: wish.seed + 1
    };
    const higher: Plane = { normal: [-0.4, 0.2, 1], offset: 18 };
    layers.push(
      ...bone({ ...other, broken: [beyond(higher)] }),
      ...bone({ ...other, broken: [higher], moved: fragment })
    );
  }
  layers.push(
    flesh(
      [
        limb([partner ? 12 : 0, 0, half + 60], around * 1.05, [partner ? 12 : 0, 0, -half - 40], around * 0.9)
      ],
      wish.seed + 4,
      0.9
    )
  );
  const at = (z: number): Vec3 => [0, 0, z];
  const view = xrayView({
    through: [partner ? 10 : 0, 0, 0],
    along: from === 'front' ? [0, 1, 0] : [-1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1050,
    toDetectorMm: 60,
    pitchMm: 0.2,
    width: 900,
    height: Math.min(2100, Math.round((length * 1.1) / 0.2)),
    shiftMm: { x: 0, y: 0 }
  });
  return {
    bodies: [
      {
        layers,
        landmarks: {
          'near axis 1': at(half * 0.8),
          'near axis 2': at(half * 0.2),
          'far axis 1': movePoint(fragment, at(-half * 0.2)),
          'far axis 2': movePoint(fragment, at(-half * 0.8))
        }
      }
    ],
    view,
    detector: { ...flatPanel, black: 0.3, white: 4.2 },
    truth: { angleFrontDeg: wish.angleFrontDeg, angleSideDeg: wish.angleSideDeg },
    fragment
  };
}
