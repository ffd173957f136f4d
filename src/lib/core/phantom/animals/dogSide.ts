import { type Part, type Plane, ball, cutBy, ellipsoid, limb } from '../solid/part';
import { type Vec3, add, inTurn, movePoint, sub, times, turnedAbout, unit } from '../space';
import { flatPanel } from '../xray/detector';
import type { Body } from '../xray/radiograph';
import { xrayView } from '../xray/view';
import { type Scene, air, bone, flesh, shaft, tube } from '../bones/kit';
import { type VertebraSize, stacked, vertebra } from '../bones/vertebra';

export interface StifleWish {
  seed: number;
  /** Between the plateau and the square to the tibia's axis (Slocum and Devine, 1983). */
  plateauDeg: number;
}

/** A dog's knee from the side with the ankle in the picture: the toes point left. */
export function dogStifleScene(wish: StifleWish): Scene {
  // y is to the back, z up; the tibia's axis runs from between its spines to the middle of the ankle.
  const eminence: Vec3 = [0, 0, 0];
  const ankle: Vec3 = [0, 34, -168];
  const axis = unit(sub(ankle, eminence));
  const level = unit([0, -axis[2], axis[1]]);
  const slope = inTurn(turnedAbout([1, 0, 0], -wish.plateauDeg));
  const plateau = movePoint(slope, level[1] > 0 ? level : times(level, -1));
  const front = add(eminence, times(plateau, -15));
  const back = add(eminence, times(plateau, 16));
  const normal = unit([0, -plateau[2], plateau[1]]);
  const facing = normal[2] > 0 ? normal : times(normal, -1);
  const cap: Plane = { normal: facing, offset: 0 };
  const tibia: Part[] = [
    ...[front, back].map((end) =>
      cutBy(limb(add(end, times(facing, -9)), 12, add(eminence, times(axis, 40)), 9), cap)
    ),
    cutBy(limb(add(eminence, times(facing, -10)), 15, add(eminence, times(axis, 42)), 9), cap),
    limb(add(front, [0, -2, -9]), 6.5, add(eminence, add(times(axis, 34), [0, -10, 0])), 5),
    ...shaft(add(eminence, times(axis, 30)), add(ankle, times(axis, -12)), 11, 7.4, 8.5),
    ball(add(ankle, times(axis, -8)), 9)
  ];
  const femurAxis = unit([0, -0.62, 0.78]);
  const condyle = add(eminence, [0, 1, 17]);
  const femur: Part[] = [
    ellipsoid(add(condyle, [4, 2, 0]), [8, 16, 15]),
    ellipsoid(add(condyle, [-4, 1, 1]), [8, 15.5, 15]),
    limb(add(condyle, [0, -10, 9]), 8, add(condyle, times(femurAxis, 46)), 8.5),
    limb(condyle, 13, add(condyle, times(femurAxis, 44)), 9),
    ...shaft(add(condyle, times(femurAxis, 40)), add(condyle, times(femurAxis, 170)), 9.5, 8.4, 10)
  ];
  const small: Part[][] = [
    [ellipsoid(add(condyle, [0, -25, 16]), [6, 5, 11], turnedAbout([1, 0, 0], -30))],
    [ball(add(condyle, [6, 17, 13]), 3.6), ball(add(condyle, [-6, 18, 11]), 3.4)],
    tube(
      [add(eminence, [9, 13, -10]), add(eminence, [9, 20, -90]), add(ankle, [8, 4, 2])],
      [4.4, 2.6, 4.6],
      undefined,
      2
    )
  ];
  const foot: Part[] = [
    ellipsoid(ankle, [9, 12, 10]),
    limb(add(ankle, [0, 8, -4]), 8, add(ankle, [0, 34, 10]), 7.4),
    ...[4, -4].flatMap((x) => shaft(add(ankle, [x, -4, -14]), add(ankle, [x, -30, -76]), 6, 4.4, 5.4)),
    ellipsoid(add(ankle, [0, -3, -14]), [9, 9, 9])
  ];
  const body: Body = {
    layers: [
      ...bone({
        parts: tibia,
        cortexMm: 2.1,
        seed: wish.seed,
        spacingMm: 1.2,
        marrow: [limb(add(eminence, times(axis, 52)), 4.4, add(ankle, times(axis, -44)), 4)]
      }),
      ...bone({ parts: femur, cortexMm: 1.8, seed: wish.seed + 1, spacingMm: 1.2 }),
      ...small.flatMap((parts, i) => bone({ parts, cortexMm: 1, seed: wish.seed + 2 + i })),
      ...bone({ parts: foot, cortexMm: 1.3, seed: wish.seed + 6 }),
      flesh(
        [
          limb(add(condyle, [0, 4, 10]), 30, add(condyle, times(femurAxis, 170)), 50),
          ...tube(
            [
              add(eminence, [0, 6, 24]),
              add(eminence, [0, 12, -40]),
              add(ankle, [0, 2, 30]),
              add(ankle, [0, 6, -20])
            ],
            [30, 26, 17, 19],
            undefined,
            2
          ),
          limb(add(ankle, [0, 0, -10]), 17, add(ankle, [0, -30, -86]), 14)
        ],
        wish.seed + 8,
        0.9
      )
    ],
    landmarks: { eminence, ankle, 'plateau front': front, 'plateau back': back }
  };
  const view = xrayView({
    through: [0, 2, -62],
    along: [-1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1000,
    toDetectorMm: 40,
    pitchMm: 0.17,
    width: 1100,
    height: 1500
  });
  return {
    bodies: [body],
    view,
    detector: { ...flatPanel, black: 0.25, white: 4 },
    truth: { plateauDeg: wish.plateauDeg }
  };
}

export interface DogChestWish {
  seed: number;
  /** The heart's length and width in lengths of vertebrae from T4 on; their sum is the score (Buchanan, 1995). */
  lengthInVertebrae: number;
  widthInVertebrae: number;
}

/** A dog's chest from the side, head to the left. */
export function dogChestScene(wish: DogChestWish): Scene {
  const count = 15;
  const size: VertebraSize = { width: 18, depth: 15, height: 17, arch: 44, wings: 14 };
  const sizes = Array.from({ length: count }, (_, i) => ({
    ...size,
    height: 15.6 + i * 0.28,
    arch: i > 5 ? 24 + (i - 5) * 3.6 : 24
  }));
  // Vertebrae stand with their z along the back, towards the head; the spinous processes point up.
  const lying = inTurn(turnedAbout([1, 0, 0], 90));
  const toHead = movePoint(lying, [0, 0, 1]);
  const flip = toHead[1] > 0 ? inTurn(turnedAbout([1, 0, 0], -90)) : lying;
  const names = Array.from({ length: count }, (_, i) => (i < 2 ? `L${2 - i}` : `T${15 - i}`));
  const gap = 3;
  const frames = stacked(
    [0, 118, 78],
    sizes,
    sizes.map(() => gap),
    sizes.map((_, i) => inTurn(flip, turnedAbout([1, 0, 0], 9 - i * 1.5)))
  );
  const vertebrae = frames.flatMap((frame, i) => vertebra(frame, sizes[i], wish.seed + 3 * i));
  const at = (name: string) => frames[names.indexOf(name)].origin;
  const unitMm = Math.hypot(...sub(at('T4'), at('T5')));
  const carina: Vec3 = add(at('T5'), [0, 4, -48]);
  const long = wish.lengthInVertebrae * unitMm;
  const wide = wish.widthInVertebrae * unitMm;
  const down = unit([0, -0.42, -1]);
  const apex = add(carina, times(down, long));
  const across = unit([0, -down[2], down[1]]);
  const waist = add(carina, times(down, long * 0.42));
  const heart = ellipsoid(add(carina, times(down, long / 2)), [wide * 0.42, wide / 2, long / 2], {
    x: [1, 0, 0],
    y: across,
    z: down,
    origin: [0, 0, 0]
  });
  const ribs = Array.from({ length: 12 }, (_, i) => {
    const from = frames[names.indexOf(`T${i + 1}`)].origin;
    const reach = 92 + 9 * Math.min(i, 8) - Math.max(0, i - 8) * 12;
    return [1, -1].flatMap((side) =>
      tube(
        [
          add(from, [side * 8, 2, 2]),
          add(from, [side * 46, 10 + i, -24]),
          add(from, [side * 58, 10 + i * 2.5, -reach * 0.6]),
          add(from, [side * 36, -4 + i * 2, -reach])
        ],
        [2.6, 3, 3, 3.4],
        undefined,
        2
      )
    );
  });
  const sternum = Array.from({ length: 8 }, (_, i) =>
    ellipsoid([0, -66 + i * 20, -82 - i * 3.4], [5, 8.6, 5])
  );
  const lung = cutBy(ellipsoid([0, -14, -8], [58, 122, 76]), { normal: [0, 0.86, -0.5], offset: 58 });
  const trachea = tube([[0, -150, 26], [0, -90, 22], [0, -30, 22], carina], [7.5, 7.5, 7, 7], undefined, 2);
  const body: Body = {
    layers: [
      ...vertebrae,
      ...bone({ parts: ribs.flat(), cortexMm: 0.8, seed: wish.seed + 60, spacingMm: 1.3, density: 0.8 }),
      ...bone({ parts: sternum, cortexMm: 0.8, seed: wish.seed + 61, spacingMm: 1.2, density: 0.8 }),
      ...bone({
        parts: [
          ...shaft([14, -84, -30], [10, -118, -96], 11, 8, 11),
          ...shaft([-14, -96, -34], [-10, -136, -90], 11, 8, 11)
        ],
        cortexMm: 1.8,
        seed: wish.seed + 62
      }),
      flesh(
        [
          ellipsoid([0, 10, 0], [74, 168, 112]),
          ellipsoid([0, 120, -6], [72, 110, 104]),
          limb([0, -90, 40], 56, [0, -190, 66], 46)
        ],
        wish.seed + 63,
        0.75
      ),
      air([lung], 0.62),
      flesh([heart], wish.seed + 64, 0.62),
      air(trachea, 0.5),
      air([ellipsoid([10, 150, -2], [20, 22, 17])], 0.5)
    ],
    landmarks: {
      carina,
      apex,
      'heart front': add(waist, times(across, -wide / 2)),
      'heart back': add(waist, times(across, wide / 2)),
      ...Object.fromEntries(names.map((name, i) => [`${name} middle`, frames[i].origin])),
      'T4 front': movePoint(frames[names.indexOf('T4')], [0, 0, sizes[0].height / 2])
    }
  };
  const view = xrayView({
    through: [0, 6, 10],
    along: [-1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1000,
    toDetectorMm: 100,
    pitchMm: 0.25,
    width: 1500,
    height: 1150
  });
  return {
    bodies: [body],
    view,
    detector: { ...flatPanel, quanta: 9000, black: 0.6, white: 5, evening: 0.5, eveningPx: 140 },
    truth: { score: wish.lengthInVertebrae + wish.widthInVertebrae, vertebraMm: unitMm }
  };
}
