import { type Part, ball, cutBy, ellipsoid, limb } from '../solid/part';
import { type Frame, type Vec3, inTurn, movePoint, stretched, turnedAbout } from '../space';
import { flatPanel } from '../xray/detector';
import type { Layer } from '../xray/layer';
import type { Body } from '../xray/radiograph';
import { xrayView } from '../xray/view';
import { type Scene, air, bone, flesh, movedAll, tube } from './kit';
import { type VertebraSize, corners, stacked, vertebra } from './vertebra';

/** From the fifth lumbar up to the first thoracic. */
export const trunkNames = [
  ...[5, 4, 3, 2, 1].map((n) => `L${n}`),
  ...[12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1].map((n) => `T${n}`)
];

function trunkSizes(): VertebraSize[] {
  return trunkNames.map((name, i) => {
    const lumbar = name.startsWith('L');
    const share = i / (trunkNames.length - 1);
    return {
      width: 50 - 21 * share,
      depth: 35 - 16 * share,
      height: 28 - 11 * share,
      arch: lumbar ? 50 - 6 * share : 44 - 6 * share,
      wings: lumbar ? 42 : 30 - 6 * share
    };
  });
}

export interface CurveWish {
  seed: number;
  /** Curves from the front: between which two vertebrae, how large, convex to which side. */
  curves: { upper: string; lower: string; cobbDeg: number; convex: 'right' | 'left' }[];
}

/**
 * The tilt of each vertebra from the front, in degrees, positive when its left side is higher. Between its end
 * vertebrae a curve goes smoothly from half its angle one way to half the other way; beyond the last it dies out.
 */
export function tiltsOf({ curves }: CurveWish): number[] {
  const tilts = new Array<number>(trunkNames.length).fill(NaN);
  // The largest curve is shared out evenly; one that shares an end vertebra with it starts from that one's tilt.
  for (const { upper, lower, cobbDeg, convex } of [...curves].sort((a, b) => b.cobbDeg - a.cobbDeg)) {
    const [from, to] = [trunkNames.indexOf(lower), trunkNames.indexOf(upper)];
    // Convex to the left: going up, the column first leans left, then right.
    const turn = convex === 'left' ? -cobbDeg : cobbDeg;
    const [below, above] = [tilts[from], tilts[to]];
    const start = !Number.isNaN(below) ? below : !Number.isNaN(above) ? above + turn : turn / 2;
    for (let i = from; i <= to; i++)
      tilts[i] = start - (turn / 2) * (1 - Math.cos((Math.PI * (i - from)) / (to - from)));
  }
  const known = tilts.flatMap((tilt, i) => (Number.isNaN(tilt) ? [] : [i]));
  return tilts.map((tilt, i) => {
    if (!Number.isNaN(tilt)) return tilt;
    const nearest = known.reduce((a, b) => (Math.abs(b - i) < Math.abs(a - i) ? b : a), known[0] ?? i);
    return known.length === 0 ? 0 : tilts[nearest] * Math.max(0, 1 - Math.abs(i - nearest) / 4);
  });
}

/** The trunk from the front, standing, with spinal curves as set. */
export function spineFrontScene(wish: CurveWish): Scene {
  const sizes = trunkSizes();
  const discs = sizes.map((size, i) => (i < 5 ? 10 - i * 0.6 : 5.5 - size.height * 0.03));
  const tilts = tiltsOf(wish).map((deg, i): Frame => {
    // The side view's gentle bends go on underneath.
    const sway = i < 5 ? -10 + 4 * i : -14 + 3.2 * (i - 4);
    return inTurn(turnedAbout([1, 0, 0], -sway * 0.6), turnedAbout([0, 1, 0], -deg));
  });
  const frames = stacked([0, 0, 0], sizes, discs, tilts);
  const column = frames.flatMap((frame, i) => vertebra(frame, sizes[i], wish.seed + 3 * i));
  const landmarks = Object.assign({}, ...frames.map((frame, i) => corners(frame, sizes[i], trunkNames[i])));
  const ribs = frames.flatMap((frame, i) => (i >= 5 ? ribPair(frame, sizes[i], i - 5, wish.seed) : []));
  const body: Body = {
    layers: [...column, ...ribs, ...pelvisTop(wish.seed), ...trunk(wish.seed)],
    landmarks
  };
  const truth = Object.fromEntries(
    wish.curves.map(({ upper, lower, cobbDeg }) => [`cobb ${upper} ${lower} Deg`, cobbDeg])
  );
  const view = xrayView({
    through: [0, 0, 225],
    along: [0, 1, 0],
    up: [0, 0, 1],
    toObjectMm: 1500,
    toDetectorMm: 180,
    pitchMm: 0.28,
    width: 1230,
    height: 2000
  });
  return {
    bodies: [body],
    view,
    detector: { ...flatPanel, quanta: 12_000, black: 0.9, white: 5.6, evening: 0.5, eveningPx: 160 },
    truth
  };
}

/** Two ribs from a thoracic vertebra, round the chest and down to the front. */
function ribPair(frame: Frame, { width }: VertebraSize, fromBelow: number, seed: number): Layer[] {
  const number = 12 - fromBelow;
  const reach = number > 10 ? 0.55 : 1;
  const wide = 62 + 8.5 * Math.min(8, number) - (number > 9 ? 4 * (number - 9) : 0);
  const drop = 46 + 5 * Math.min(9, number);
  const arc = (side: number): Vec3[] =>
    [0, 0.12, 0.3, 0.5, 0.72, 1]
      .filter((s) => s <= reach)
      .map((s): Vec3 => {
        const angle = s * Math.PI * 0.86;
        return [
          side * (width * 0.5 + wide * Math.sin(angle)),
          26 + 62 * (Math.cos(angle) - 0.6),
          -drop * s ** 1.15
        ];
      });
  const parts = [1, -1].flatMap((side) => {
    const points = arc(side);
    return tube(
      points,
      points.map((_, i) => (i === 0 ? 3.6 : 4.2)),
      stretched(1, 1, 1),
      3
    );
  });
  return bone({
    parts: movedAll(parts, { ...frame, x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }),
    cortexMm: 1,
    seed: seed + 100 + fromBelow,
    spacingMm: 1.5,
    density: 0.8
  });
}

/** The wings of the pelvis and the sacrum under the column. */
function pelvisTop(seed: number): Layer[] {
  const wings = [1, -1].flatMap((side): Part[] => {
    const turn = inTurn(turnedAbout([0, 1, 0], side * 24), turnedAbout([0, 0, 1], side * 34));
    return [
      cutBy(ellipsoid([side * 78, 6, -28], [10, 52, 62], turn), { normal: [0, 0, -1], offset: 110 }),
      limb([side * 62, 30, -48], 13, [side * 66, 2, -92], 15)
    ];
  });
  const sacrum = [
    limb([0, 22, -8], 22, [0, 52, -92], 9, stretched(1.5, 0.75, 1)),
    ellipsoid([30, 30, -22], [24, 16, 20]),
    ellipsoid([-30, 30, -22], [24, 16, 20])
  ];
  return [
    ...bone({ parts: wings, cortexMm: 2, seed: seed + 200, spacingMm: 1.7 }),
    ...bone({ parts: sacrum, cortexMm: 1.6, seed: seed + 201, spacingMm: 1.6, density: 0.8 })
  ];
}

/** Flesh, lungs, heart, the domes of the diaphragm, gas in the gut. */
function trunk(seed: number): Layer[] {
  const lungs = [
    cutBy(ellipsoid([68, -10, 330], [56, 74, 150]), { normal: [0.25, 0, -1], offset: -215 }),
    cutBy(ellipsoid([-68, -10, 330], [58, 76, 150]), { normal: [-0.25, 0, -1], offset: -228 })
  ];
  return [
    flesh(
      [
        ellipsoid([0, -20, 330], [158, 104, 215]),
        ellipsoid([0, -22, 90], [142, 100, 190]),
        limb([0, 0, 470], 60, [0, 10, 560], 52)
      ],
      seed + 9,
      0.62
    ),
    air(lungs, 0.55),
    flesh([ellipsoid([26, -48, 262], [52, 40, 56], turnedAbout([0, 1, 0], -28))], seed + 10, 0.5),
    air(
      [
        ellipsoid([58, -40, 168], [22, 18, 13]),
        ball([-48, -50, 70], 15),
        ellipsoid([62, -50, 30], [13, 14, 26])
      ],
      0.35
    )
  ];
}

export interface SideWish {
  seed: number;
  incidenceDeg: number;
  tiltDeg: number;
  lordosisDeg: number;
  kyphosisDeg: number;
}

/**
 * Pelvis and trunk from the side, facing left in the picture. Slope of the sacrum = incidence - tilt (Legaye and
 * Duval-Beaupere, 1998): the angle at the middle of its endplate between its normal and the line to the hip axis.
 */
export function spineSideScene(wish: SideWish): Scene {
  const slopeDeg = wish.incidenceDeg - wish.tiltDeg;
  const sizes = trunkSizes();
  const discs = sizes.map((_, i) => (i < 5 ? 11 - i * 0.8 : 5));
  const slopes = trunkNames.map((_, i) => {
    // Endplate slope from the horizontal, front edge down: from the sacrum's through lordosis into kyphosis.
    if (i < 5) return slopeDeg - (wish.lordosisDeg * (i + 1)) / 5;
    const turn = slopeDeg - wish.lordosisDeg;
    return turn + (wish.kyphosisDeg * (i - 4)) / 12;
  });
  const tilts = slopes.map((deg) => turnedAbout([1, 0, 0], deg));
  const middle: Vec3 = [0, 0, 0];
  const plate = turnedAbout([1, 0, 0], slopeDeg);
  const up = plate.z;
  const base: Vec3 = [0, up[1] * 5, up[2] * 5];
  const frames = stacked(base, sizes, discs, tilts);
  const column = frames.flatMap((frame, i) => vertebra(frame, sizes[i], wish.seed + 3 * i));
  // The hip axis: from the plate's middle along its normal downwards, turned by the incidence.
  const hipWay = movePoint(inTurn(plate, turnedAbout([1, 0, 0], -wish.incidenceDeg)), [0, 0, -1]);
  const hips: Vec3 = [0, hipWay[1] * 105, hipWay[2] * 105];
  const heads = [1, -1].map((side): Vec3 => [side * 88, hips[1], hips[2]]);
  const endplate = { front: movePoint(plate, [0, -25, 0]), back: movePoint(plate, [0, 25, 0]) };
  const sacrumBody = movedAll(
    [
      cutBy(limb([0, 2, -14], 25, [0, 30, -88], 9, stretched(1.7, 1, 1)), { normal: [0, 0, 1], offset: 0 }),
      limb([0, 26, -10], 10, [0, 44, -70], 6)
    ],
    plate
  );
  const femurs = heads.flatMap((head): Part[] => [
    ball(head, 24),
    limb(head, 15, [head[0] * 1.25, head[1] + 4, head[2] - 40], 17),
    limb([head[0] * 1.25, head[1] + 4, head[2] - 40], 17, [head[0] * 1.2, head[1] - 6, head[2] - 190], 14)
  ]);
  const iliums = [1, -1].flatMap((side): Part[] => [
    ellipsoid([side * 80, hips[1] * 0.3 + 6, hips[2] * 0.25 + 16], [9, 60, 60]),
    limb([side * 78, hips[1] * 0.4 + 6, hips[2] * 0.4], 18, [side * 88, hips[1], hips[2]], 29)
  ]);
  const body: Body = {
    layers: [
      ...column,
      ...bone({ parts: sacrumBody, cortexMm: 1.6, seed: wish.seed + 60, spacingMm: 1.6 }),
      ...bone({ parts: iliums, cortexMm: 1.6, seed: wish.seed + 61, spacingMm: 1.7, density: 0.7 }),
      ...bone({ parts: femurs, cortexMm: 2.2, seed: wish.seed + 62, spacingMm: 1.5 }),
      ...frames.flatMap((frame, i) => (i >= 5 ? ribPair(frame, sizes[i], i - 5, wish.seed) : [])),
      flesh(
        [
          ellipsoid([0, -18, 310], [140, 122, 250]),
          ellipsoid([0, -14, 130], [140, 104, 200]),
          ellipsoid([0, -8, 0], [150, 112, 190])
        ],
        wish.seed + 9,
        0.62
      ),
      air([ellipsoid([0, -22, 330], [120, 84, 150])], 0.4)
    ],
    landmarks: {
      ...(Object.assign({}, ...frames.map((frame, i) => corners(frame, sizes[i], trunkNames[i]))) as Record<
        string,
        Vec3
      >),
      'S1 front': endplate.front,
      'S1 back': endplate.back,
      'S1 middle': middle,
      'hip left': heads[0],
      'hip right': heads[1],
      'hip axis': hips
    }
  };
  const view = xrayView({
    through: [0, -10, 200],
    along: [-1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1600,
    toDetectorMm: 200,
    pitchMm: 0.3,
    width: 1300,
    height: 2100
  });
  return {
    bodies: [body],
    view,
    detector: { ...flatPanel, quanta: 26_000, black: 1.6, white: 8.2, evening: 0.6, eveningPx: 150 },
    truth: {
      incidenceDeg: wish.incidenceDeg,
      tiltDeg: wish.tiltDeg,
      slopeDeg,
      lordosisDeg: wish.lordosisDeg,
      kyphosisDeg: wish.kyphosisDeg
    }
  };
}
