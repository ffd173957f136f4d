import { type Part, ball, ellipsoid, limb } from '../solid/part';
import { type Vec3, stretched } from '../space';
import { leadLetter } from '../markers';
import { flatPanel } from '../xray/detector';
import type { Layer } from '../xray/layer';
import type { Body } from '../xray/radiograph';
import { xrayView } from '../xray/view';
import { type Scene, bone, flesh, shaft, tube } from '../bones/kit';

/**
 * A dog's pelvis from below, hind legs stretched and parallel. Norberg's angle (1961) lies between the line through
 * both femoral heads and the line from a head to the front rim of its socket.
 */
export interface DogHipsWish {
  seed: number;
  rightDeg: number;
  leftDeg: number;
  /** Between the middles of the heads. */
  apartMm?: number;
}

const headMm = 10.5;
const socketMm = 12.2;

export function dogHipsScene(wish: DogHipsWish): Scene {
  const apart = wish.apartMm ?? 74;
  const landmarks: Record<string, Vec3> = {};
  const layers: Layer[] = [];
  for (const side of [1, -1] as const) {
    const name = side === 1 ? 'left' : 'right';
    const angle = ((side === 1 ? wish.leftDeg : wish.rightDeg) * Math.PI) / 180;
    const head: Vec3 = [(side * apart) / 2, 0, 0];
    // The line between the heads points inwards from here; the angle opens towards the front of the dog.
    const rim: Vec3 = [head[0] - side * Math.cos(angle) * socketMm, 0, Math.sin(angle) * socketMm];
    landmarks[`${name} head`] = head;
    landmarks[`${name} rim`] = rim;
    layers.push(
      ...femur(side, head, wish.seed + (side === 1 ? 1 : 2)),
      ...hipBone(side, head, rim, wish.seed + (side === 1 ? 3 : 4))
    );
  }
  const body: Body = {
    layers: [
      ...layers,
      ...backbone(wish.seed + 9),
      flesh(
        [
          ellipsoid([0, 0, 50], [74, 60, 110]),
          ...[1, -1].flatMap((side) => [limb([side * 42, 0, 20], 44, [side * 40, 0, -150], 34)])
        ],
        wish.seed + 11,
        0.8
      )
    ],
    landmarks
  };
  const view = xrayView({
    through: [0, 0, -24],
    along: [0, 1, 0],
    up: [0, 0, 1],
    toObjectMm: 950,
    toDetectorMm: 80,
    pitchMm: 0.2,
    width: 1200,
    height: 1600
  });
  const letter = leadLetter(view, 'L', { x: view.width * 0.9, y: view.height * 0.12 }, 14);
  return {
    bodies: [body, letter],
    view,
    detector: { ...flatPanel, quanta: 8000, black: 0.5, white: 5, evening: 0.45, eveningPx: 130 },
    truth: { rightDeg: wish.rightDeg, leftDeg: wish.leftDeg, apartMm: apart }
  };
}

function femur(side: 1 | -1, head: Vec3, seed: number): Layer[] {
  const at = (x: number, z: number, y = 0): Vec3 => [head[0] + side * x, y, head[2] + z];
  const parts = [
    ball(head, headMm),
    limb(head, 6.6, at(15, -10), 8.4),
    limb(at(22, -2, 4), 6.2, at(20, -24), 9.5),
    ...shaft(at(17, -20), at(6, -150), 10, 7.8, 10),
    ...[9, -9].map((x) => ellipsoid(at(5 + x, -162), [8.4, 10, 12])),
    limb(at(14, -16, 8), 4, at(13, -26, 4), 4)
  ];
  const kneecap = [ellipsoid(at(6, -140, -12), [6, 4.5, 10])];
  const shin = shaft(at(5, -182), at(7, -300), 15, 8, 9);
  return [
    ...bone({
      parts,
      cortexMm: 2.1,
      seed,
      spacingMm: 1.2,
      marrow: [limb(at(16, -36), 4.4, at(8, -126), 4.6)]
    }),
    ...bone({ parts: kneecap, cortexMm: 0.9, seed: seed + 20 }),
    ...bone({ parts: shin, cortexMm: 2, seed: seed + 21, spacingMm: 1.3 })
  ];
}

/** Half a pelvis: wing, shaft, the socket's roof out to its rim, pubis and ischium around the hole. */
function hipBone(side: 1 | -1, head: Vec3, rim: Vec3, seed: number): Layer[] {
  const x = (v: number) => side * v;
  const roof: Part[] = [
    limb(rim, 1.6, [head[0] - x(13), 2, 9], 6.5),
    limb([rim[0], 0, rim[2] + 0.4], 1.4, [head[0] - x(3), 3, socketMm + 6.4], 4.6),
    limb([head[0] - x(14), 0, 8], 6.4, [head[0] - x(15), 0, -9], 5),
    limb([head[0] - x(13), 0, -9], 4.2, [head[0] - x(7), 2, -12.6], 3)
  ];
  const parts: Part[] = [
    ...roof,
    ...tube(
      [
        [head[0] - x(12), 3, 12],
        [x(27), 6, 40],
        [x(33), 6, 72],
        [x(36), 4, 104]
      ],
      [7.5, 6.5, 8.5, 11],
      stretched(1, 0.8, 1),
      2
    ),
    ellipsoid([x(37), 6, 88], [10, 5, 26]),
    ...tube(
      [
        [head[0] - x(16), -2, -4],
        [x(12), -8, -10],
        [x(3), -9, -16]
      ],
      [6, 4.6, 5.4],
      undefined,
      2
    ),
    ...tube(
      [
        [head[0] - x(13), 2, -10],
        [x(25), 4, -34],
        [x(21), 2, -58],
        [x(10), -4, -62],
        [x(3), -8, -44]
      ],
      [5.6, 5, 7.5, 5, 4.6],
      undefined,
      2
    ),
    limb([x(2.6), -9, -14], 4.4, [x(2.6), -8, -46], 4.4)
  ];
  const minus = [ball(head, socketMm - 0.5)];
  return bone({ parts, cortexMm: 1.5, seed, spacingMm: 1.1, density: 0.95 }).map((layer) => ({
    ...layer,
    minus
  }));
}

/** Sacrum, the last lumbar vertebrae and the first of the tail. */
function backbone(seed: number): Layer[] {
  const pieces: Part[][] = [];
  for (let i = 0; i < 4; i++) {
    const z = 128 + i * 29;
    pieces.push([
      limb([0, 22, z - 10], 9, [0, 22, z + 10], 9, stretched(1, 1, 1)),
      limb([0, 30, z], 3, [0, 44, z + 4], 2.4),
      ...[1, -1].map((side) => limb([side * 6, 22, z - 2], 3.4, [side * 28, 16, z + 14], 2))
    ]);
  }
  const sacrum: Part[] = [
    limb([0, 20, 108], 12, [0, 22, 68], 7, stretched(1.25, 0.8, 1)),
    ...[1, -1].map((side) => ellipsoid([side * 18, 18, 100], [12, 8, 13]))
  ];
  const tail = [0, 1, 2, 3].map((i) =>
    limb([0, 24, 54 - i * 17], 5 - i * 0.4, [0, 24, 42 - i * 17], 5 - i * 0.4)
  );
  return [
    ...pieces.flatMap((parts, i) => bone({ parts, cortexMm: 1.1, seed: seed + i, spacingMm: 1.2 })),
    ...bone({ parts: sacrum, cortexMm: 1.2, seed: seed + 6, spacingMm: 1.2 }),
    ...bone({ parts: tail, cortexMm: 1, seed: seed + 7 })
  ];
}
