import { type Part, ball, ellipsoid, limb, rod } from '../solid/part';
import { type Vec3, add, stretched, times, unit } from '../space';
import { flatPanel } from '../xray/detector';
import { xrayView } from '../xray/view';
import { type Scene, bone, flesh, shaft, tube } from '../bones/kit';

export interface FetlockWish {
  seed: number;
  /** Between the cannon bone and the long pastern, at the back. */
  jointDeg: number;
  /** A chip off the front of the long pastern's upper rim. */
  chip?: boolean;
}

/** A pony's fetlock from the side: cannon bone, pasterns, sesamoids, coffin bone; the toe points left. */
export function fetlockScene(wish: FetlockWish): Scene {
  const joint: Vec3 = [0, 0, 0];
  const bend = ((180 - wish.jointDeg) * Math.PI) / 180;
  const down = unit([0, -Math.sin(bend), -Math.cos(bend)]);
  const at = (mm: number, aside = 0): Vec3 =>
    add(add(joint, times(down, mm)), times([0, down[2], -down[1]], aside));
  const flat = stretched(1.15, 1, 1);
  const cannon: Part[] = [
    ...shaft([0, 0, 190], [0, 0, 22], 17, 13.5, 16, flat),
    ...[9, -9].map((x) => ellipsoid([x, 0, 2], [11, 17, 17])),
    ellipsoid([0, 0, 1], [4, 19, 19])
  ];
  const longPastern: Part[] = [
    ...[9, -9].map((x) => limb(add(at(26, 0), [x, 0, 0]), 15.5, at(52), 11)),
    ...shaft(at(40), at(92), 13, 10.5, 13, flat),
    ball(at(94), 13)
  ];
  const shortPastern = [limb(at(112), 14.5, at(134), 13.5, flat)];
  const coffin = [
    limb(at(152), 15, add(at(170), [0, -22, -6]), 7, stretched(1.4, 1, 1)),
    limb(at(150), 14, at(166, -8), 10)
  ];
  const sesamoids = [10, -10].map((x) => ellipsoid(add(joint, [x, 25, 2]), [7.5, 8.5, 13.5]));
  const splints = [13, -13].map((x) => limb([x, 13, 190], 4, [x, 16, 70], 2.2));
  const shoe = [rod(add(at(192), [0, -40, -14]), 4, add(at(184), [0, 30, -18]), 4)];
  const layers = [
    ...bone({
      parts: cannon,
      cortexMm: 5,
      seed: wish.seed,
      spacingMm: 1.4,
      marrow: [limb([0, 0, 180], 6.5, [0, 0, 44], 6)]
    }),
    ...bone({
      parts: longPastern,
      cortexMm: 3.4,
      seed: wish.seed + 1,
      spacingMm: 1.3,
      marrow: [limb(at(48), 5, at(84), 4.4)]
    }),
    ...bone({ parts: shortPastern, cortexMm: 2.4, seed: wish.seed + 2, spacingMm: 1.3 }),
    ...bone({ parts: coffin, cortexMm: 2, seed: wish.seed + 3, spacingMm: 1.4, density: 0.9 }),
    ...bone({ parts: sesamoids, cortexMm: 1.8, seed: wish.seed + 4, spacingMm: 1.2 }),
    ...bone({ parts: splints, cortexMm: 1.3, seed: wish.seed + 5 }),
    ...(wish.chip
      ? bone({
          parts: [ellipsoid(add(at(12), [4, -19, 4]), [3, 2.4, 3.6])],
          cortexMm: 0.8,
          seed: wish.seed + 6
        })
      : []),
    { parts: shoe, perMm: 0.5, sharp: true },
    flesh(
      [
        ...tube(
          [[0, 4, 240], [0, 6, 60], [0, 8, 0], at(60, -2), at(120), at(190)],
          [30, 29, 37, 30, 35, 54],
          stretched(0.8, 1, 1),
          2
        )
      ],
      wish.seed + 8,
      0.95
    )
  ];
  const view = xrayView({
    through: [0, -52, -58],
    along: [-1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 800,
    toDetectorMm: 45,
    pitchMm: 0.17,
    width: 1000,
    height: 1500
  });
  return {
    bodies: [
      {
        layers,
        landmarks: { 'cannon far': [0, 0, 150], 'fetlock middle': joint, 'pastern joint': at(103) }
      }
    ],
    view,
    detector: { ...flatPanel, black: 0.3, white: 4.6 },
    truth: { jointDeg: wish.jointDeg }
  };
}
