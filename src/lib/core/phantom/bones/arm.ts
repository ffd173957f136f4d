import { type Part, ball, ellipsoid, limb } from '../solid/part';
import { type Vec3, add } from '../space';
import type { Layer } from '../xray/layer';
import { bone, flesh, shaft, tube } from './kit';

/** From the shoulder down the side, hanging: x away from the body, y to the back, z up. The elbow is the origin. */
export const armPlaces = {
  shoulder: [4, 0, 300] as Vec3,
  elbow: [0, 0, 0] as Vec3,
  wrist: [10, -6, -240] as Vec3
};

/** An arm with its shoulder blade and collar bone, of ordinary sizes. `size` shrinks it, for an animal's. */
export function armLayers(seed: number, size = 1): Layer[] {
  const { shoulder, wrist } = armPlaces;
  const s = ([x, y, z]: Vec3): Vec3 => [x * size, y * size, z * size];
  const r = (mm: number) => mm * size;
  const humerus: Part[] = [
    ball(s(add(shoulder, [-6, 0, 0])), r(22)),
    limb(s(add(shoulder, [8, 0, -4])), r(13), s(add(shoulder, [2, 0, -40])), r(14)),
    ...shaft(s(add(shoulder, [0, 0, -30])), s([0, 0, 40]), r(14), r(10.5), r(13)),
    limb(s([0, 0, 44]), r(12), s([-14, 0, 10]), r(13)),
    limb(s([0, 0, 44]), r(12), s([15, 0, 9]), r(11)),
    limb(s([-20, 0, 6]), r(10), s([20, -1, 6]), r(10)),
    ellipsoid(s([-28, 4, 14]), [r(7), r(7), r(10)])
  ];
  const ulna: Part[] = [
    limb(s([-8, 16, 18]), r(9), s([-8, 8, -18]), r(11)),
    limb(s([-8, -12, -10]), r(6), s([-8, 2, -22]), r(10)),
    ...shaft(s([-8, 4, -22]), s(add(wrist, [-26, 4, 12])), r(9.5), r(6), r(6.5))
  ];
  const radius: Part[] = [
    limb(s([15, -2, -10]), r(10.5), s([15, -2, -17]), r(10.5)),
    ...shaft(s([14, -2, -24]), s(add(wrist, [-2, 0, 8])), r(7), r(6.4), r(11))
  ];
  const blade: Part[] = [
    ellipsoid(s(add(shoulder, [-30, 4, -6])), [r(7), r(11), r(19)]),
    limb(s(add(shoulder, [-34, 8, -14])), r(9), s(add(shoulder, [-92, 30, -96])), r(5)),
    limb(s(add(shoulder, [-40, 20, 18])), r(6), s(add(shoulder, [6, 10, 34])), r(8)),
    limb(s(add(shoulder, [-44, -14, 14])), r(6), s(add(shoulder, [-20, -24, 10])), r(5.5))
  ];
  const collar = tube(
    [s(add(shoulder, [4, 0, 38])), s(add(shoulder, [-60, -14, 44])), s(add(shoulder, [-140, -40, 36]))],
    [r(6.5), r(6), r(9)]
  );
  const bones = [humerus, ulna, radius, blade, collar].flatMap((parts, i) =>
    bone({ parts, cortexMm: 2.4 * size, seed: seed + i, spacingMm: 1.5 * size })
  );
  const muscles = tube(
    [
      add(shoulder, [-40, 0, 60]),
      add(shoulder, [-6, 0, -10]),
      [0, 0, 150],
      [0, 0, 0],
      [4, 0, -100],
      wrist
    ].map((at) => s(at as Vec3)),
    [76, 62, 46, 40, 42, 30].map(r)
  );
  return [...bones, flesh(muscles, seed + 9, 0.8)];
}
