import { type Part, cutBy, ellipsoid, inset, limb } from '../solid/part';
import { type Vec3, movePoint, stretched, turnedAbout } from '../space';
import { perMm } from '../xray/attenuation';
import { flatPanel } from '../xray/detector';
import type { Body } from '../xray/radiograph';
import { xrayView } from '../xray/view';
import { type Scene, air, bone, flesh, tube } from './kit';
import { type VertebraSize, corners, stacked, vertebra } from './vertebra';

export const neckNames = ['C7', 'C6', 'C5', 'C4', 'C3', 'C2'];

export interface NeckWish {
  seed: number;
  position: 'neutral' | 'bent' | 'stretched';
  /**
   * Angle between the backs of each vertebra and the one below, C6 on C7 first, C2 on C3 last, in degrees; positive
   * is lordosis, as posterior tangents give it (Harrison, 1996).
   */
  segmentsDeg: readonly [number, number, number, number, number];
  /** Forward slope of C7's endplate. */
  baseDeg?: number;
}

/** What a bending neck adds to each segment, in degrees: an ordinary range, most of it in the middle. */
export const bending: Record<NeckWish['position'], readonly number[]> = {
  neutral: [0, 0, 0, 0, 0],
  bent: [-7, -9, -10, -8, -7],
  stretched: [6, 7, 8, 7, 5]
};

/** A neck from the side, facing left in the picture, with the base of the skull and the jaw. */
export function neckScene(wish: NeckWish): Scene {
  const sizes: VertebraSize[] = neckNames.map((_, i) => ({
    width: 27 - i * 1.2,
    depth: 18.5 - i * 0.5,
    height: i === 5 ? 21 : 15.8 - i * 0.3,
    arch: 36 - i * 2.6 + (i === 5 ? 8 : 0),
    wings: 22
  }));
  const discs = [4.4, 4.3, 4.2, 4.1, 4, 3.2];
  const base = wish.baseDeg ?? { neutral: 22, bent: 32, stretched: 16 }[wish.position];
  let slope = base;
  const slopes = neckNames.map((_, i) => {
    if (i > 0) slope -= wish.segmentsDeg[i - 1] + bending[wish.position][i - 1];
    return slope;
  });
  const frames = stacked(
    [0, 0, -60],
    sizes,
    discs,
    slopes.map((deg) => turnedAbout([1, 0, 0], deg))
  );
  const column = frames.flatMap((frame, i) => vertebra(frame, sizes[i], wish.seed + 3 * i, 0.95));
  const top = frames[5];
  const on = (x: number, y: number, z: number): Vec3 => movePoint(top, [x, y, z]);
  const skullTurn = { ...top, origin: [0, 0, 0] as Vec3 };
  const vault = ellipsoid(on(0, -16, 102), [70, 92, 68], skullTurn);
  const base_ = { normal: movePoint(skullTurn, [0, 0.25, -1]), offset: 0 };
  const floor = on(0, 0, 34);
  base_.offset = base_.normal[0] * floor[0] + base_.normal[1] * floor[1] + base_.normal[2] * floor[2];
  const skull = cutBy(vault, base_);
  const hollow = inset(skull, 5.5)!;
  const jaw: Part[] = [1, -1].flatMap((side) =>
    tube(
      [on(side * 46, -12, 42), on(side * 46, -18, 6), on(side * 36, -46, -14), on(side * 12, -84, -22)],
      [8, 9, 8, 9]
    )
  );
  const atlas = [
    limb(on(20, -4, 18), 6, on(-20, -4, 18), 6, stretched(1, 1, 1)),
    limb(on(0, -12, 20), 5, on(0, -12, 15), 5),
    limb(on(0, 24, 19), 5, on(0, 30, 17), 6),
    limb(on(0, -2, 8), 5.5, on(0, -2, 24), 4)
  ];
  const lastBody = frames[0];
  const airway = tube(
    [
      on(0, -26, 30),
      on(0, -25, -6),
      movePoint(frames[3], [0, -24, 0]),
      movePoint(frames[1], [0, -27, 0]),
      movePoint(lastBody, [0, -30, -30])
    ],
    [9, 7, 7, 8, 8.5],
    undefined,
    2
  );
  const body: Body = {
    layers: [
      ...column,
      ...bone({ parts: atlas, cortexMm: 1.2, seed: wish.seed + 30 }),
      ...bone({ parts: jaw, cortexMm: 1.8, seed: wish.seed + 31 }),
      { parts: [skull], minus: [hollow], perMm: perMm.cortical * 0.8 },
      flesh([hollow], wish.seed + 32, 0.9),
      ...bone({
        parts: [limb(on(32, 4, 46), 14, on(-32, 4, 46), 14), limb(on(24, -88, 22), 7, on(-24, -88, 22), 7)],
        cortexMm: 2.2,
        seed: wish.seed + 33,
        density: 0.5
      }),
      flesh(
        [
          ...tube(
            [
              movePoint(lastBody, [0, 6, -90]),
              movePoint(lastBody, [0, 2, -20]),
              movePoint(frames[3], [0, 0, 0]),
              on(0, 2, 20)
            ],
            [74, 62, 56, 58],
            undefined,
            2
          ),
          limb(on(0, -40, 10), 44, on(0, -78, 30), 34)
        ],
        wish.seed + 34,
        0.62
      ),
      air(airway, 0.8)
    ],
    landmarks: Object.assign(
      {},
      ...frames.map((frame, i) => corners(frame, sizes[i], neckNames[i]))
    ) as Record<string, Vec3>
  };
  const total =
    wish.segmentsDeg.reduce((a, b) => a + b, 0) + bending[wish.position].reduce((a, b) => a + b, 0);
  const view = xrayView({
    through: [0, -14, 4],
    along: [-1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1500,
    toDetectorMm: 260,
    pitchMm: 0.2,
    width: 1200,
    height: 1400
  });
  const segments = Object.fromEntries(
    wish.segmentsDeg.map((deg, i) => [
      `${neckNames[i + 1]} on ${neckNames[i]} Deg`,
      deg + bending[wish.position][i]
    ])
  );
  return {
    bodies: [body],
    view,
    detector: { ...flatPanel, quanta: 9_000, black: 0.3, white: 4.4, evening: 0.5, eveningPx: 120 },
    truth: { 'C2 to C7 Deg': total, ...segments }
  };
}
