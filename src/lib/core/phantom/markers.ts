import { type Part, ball, limb, rod } from './solid/part';
import { type Vec3, add, times } from './space';
import { perMm } from './xray/attenuation';
import type { Body } from './xray/radiograph';
import type { XrayView } from './xray/view';
import { onRay } from './xray/view';

/** A steel ball of known size. Its place is the landmark `steel ball`. */
export function steelBall(at: Vec3, diameterMm: number, name = 'steel ball'): Body {
  if (!(diameterMm > 0)) throw new RangeError(`a ball's diameter must be above 0 mm, got ${diameterMm}`);
  return {
    layers: [{ parts: [ball(at, diameterMm / 2)], perMm: perMm.steel, sharp: true }],
    landmarks: { [name]: at }
  };
}

/** A steel bar between two points; its ends are landmarks. */
export function steelBar(a: Vec3, b: Vec3, thicknessMm: number): Body {
  return {
    layers: [{ parts: [rod(a, thicknessMm / 2, b, thicknessMm / 2)], perMm: perMm.steel, sharp: true }],
    landmarks: { 'bar end 1': a, 'bar end 2': b }
  };
}

/** A ruler with a metal line every 10 mm, from a point along a direction; lines stand across it. */
export function ruler(from: Vec3, along: Vec3, across: Vec3, lengthMm: number): Body {
  const parts: Part[] = [];
  const landmarks: Record<string, Vec3> = {};
  for (let mm = 0; mm <= lengthMm; mm += 10) {
    const at = add(from, times(along, mm));
    const reach = mm % 50 === 0 ? 9 : 5;
    parts.push(rod(at, 0.45, add(at, times(across, reach)), 0.45));
    landmarks[`ruler ${mm}`] = at;
  }
  return { layers: [{ parts, perMm: perMm.lead * 0.3, sharp: true }], landmarks };
}

/** Strokes of the two letters that say a side, on a grid of four by seven. */
const strokes: Record<'L' | 'R', [number, number][][]> = {
  L: [
    [
      [0, 0],
      [0, 7],
      [4, 7]
    ]
  ],
  R: [
    [
      [0, 7],
      [0, 0],
      [2.6, 0],
      [3.6, 0.5],
      [4, 1.7],
      [3.6, 2.9],
      [2.6, 3.5],
      [0, 3.5]
    ],
    [
      [2, 3.5],
      [4, 7]
    ]
  ]
};

/**
 * A lead letter lying on the detector with its top left at an image point, upright as the picture stands: R for the
 * patient's right. It is a little above the detector, so it is hardly magnified.
 */
export function leadLetter(
  view: XrayView,
  letter: 'L' | 'R',
  imagePoint: { x: number; y: number },
  heightMm = 18
): Body {
  const step = heightMm / 7.9;
  const origin = onRay(view, imagePoint, 0.995);
  const at = ([x, y]: [number, number]): Vec3 =>
    add(origin, add(times(view.across, (x + 0.45) * step), times(view.down, (y + 0.45) * step)));
  const parts = strokes[letter].flatMap((line) =>
    line.slice(1).map((to, i) => limb(at(line[i]), step * 0.45, at(to), step * 0.45))
  );
  return { layers: [{ parts, perMm: perMm.lead * 0.4, sharp: true }], landmarks: {} };
}
