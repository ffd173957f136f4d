import { dots } from './lettering';
import { type Part, ball, box, rod } from './solid/part';
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

/**
 * A lead letter lying on the detector at an image point, upright as the picture stands: R for the patient's right. It
 * is a little above the detector, so it is hardly magnified.
 */
export function leadLetter(
  view: XrayView,
  letter: string,
  imagePoint: { x: number; y: number },
  heightMm = 18
): Body {
  const dot = heightMm / 7;
  const across = view.across;
  const down = view.down;
  const origin = onRay(view, imagePoint, 0.995);
  const turn = { x: across, y: down, z: [0, 0, 0] as Vec3, origin: [0, 0, 0] as Vec3 };
  const normal: Vec3 = [
    across[1] * down[2] - across[2] * down[1],
    across[2] * down[0] - across[0] * down[2],
    across[0] * down[1] - across[1] * down[0]
  ];
  const parts = dots(letter).map(({ column, row }) =>
    box(
      add(origin, add(times(across, column * dot), times(down, row * dot))),
      [dot * 0.52, dot * 0.52, 0.6],
      { ...turn, z: normal }
    )
  );
  return { layers: [{ parts, perMm: perMm.lead * 0.4, sharp: true }], landmarks: {} };
}
