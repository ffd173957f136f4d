import { type Frame, type Vec3, add, composed, lengthOf, movePoint, still, sub, times } from '../space';

/** A half-space: what lies where normal . p <= offset is kept. */
export interface Plane {
  normal: Vec3;
  offset: number;
}

/**
 * A convex piece of a body, as data. In millimetres of the body's own axes.
 * - `ellipsoid`: the unit ball through `frame`;
 * - `cone`: the hull of two balls (`flat` false) or of two discs across the line between them (`flat` true), through
 *   `frame`;
 * - `box`: the cube from -1 to 1 through `frame`.
 * `cut` takes away what lies beyond planes, in the axes of the body.
 */
export type Part = (
  | { kind: 'ellipsoid'; frame: Frame }
  | { kind: 'cone'; a: Vec3; ra: number; b: Vec3; rb: number; flat: boolean; frame: Frame }
  | { kind: 'box'; frame: Frame }
) & { cut?: Plane[] };

/** An ellipsoid with its axes along x, y, z unless turned. */
export function ellipsoid(center: Vec3, radii: Vec3, turn: Frame = still): Part {
  const scaled: Frame = {
    x: [radii[0], 0, 0],
    y: [0, radii[1], 0],
    z: [0, 0, radii[2]],
    origin: [0, 0, 0]
  };
  const turned = composed({ ...turn, origin: [0, 0, 0] }, scaled);
  return { kind: 'ellipsoid', frame: { ...turned, origin: center } };
}

export const ball = (center: Vec3, radius: number): Part => ellipsoid(center, [radius, radius, radius]);

export const limb = (a: Vec3, ra: number, b: Vec3, rb: number, frame: Frame = still): Part => ({
  kind: 'cone',
  a,
  ra,
  b,
  rb,
  flat: false,
  frame
});

export const rod = (a: Vec3, ra: number, b: Vec3, rb: number, frame: Frame = still): Part => ({
  kind: 'cone',
  a,
  ra,
  b,
  rb,
  flat: true,
  frame
});

export function box(center: Vec3, half: Vec3, turn: Frame = still): Part {
  const placed = ellipsoid(center, half, turn);
  return { kind: 'box', frame: placed.frame };
}

/** A chain of limbs through points with a radius each: a tube that tapers and bends. */
export function sweep(stations: readonly { at: Vec3; r: number }[], frame: Frame = still): Part[] {
  return stations.slice(1).map((to, i) => limb(stations[i].at, stations[i].r, to.at, to.r, frame));
}

export const cutBy = (part: Part, ...planes: Plane[]): Part => ({
  ...part,
  cut: [...(part.cut ?? []), ...planes]
});

/** The plane through a point that keeps the side its normal points away from. */
export const planeAt = (point: Vec3, normal: Vec3): Plane => ({
  normal,
  offset: point[0] * normal[0] + point[1] * normal[1] + point[2] * normal[2]
});

export function moved(part: Part, by: Frame): Part {
  const cut = part.cut?.map((plane) => movedPlane(plane, by));
  return { ...part, frame: composed(by, part.frame), ...(cut ? { cut } : {}) };
}

/** Planes are moved by rigid maps only, which all placing of bodies is. */
function movedPlane({ normal, offset }: Plane, by: Frame): Plane {
  const turned = movePoint({ ...by, origin: [0, 0, 0] }, normal);
  const on = movePoint(by, times(normal, offset / (lengthOf(normal) ** 2 || 1)));
  return planeAt(on, turned);
}

/**
 * The same piece with its surface moved inwards by some millimetres, or null where nothing is left: what a shell of
 * that thickness leaves inside. Through a stretched frame the thickness is right along the frame's mean stretch.
 */
export function inset(part: Part, mm: number): Part | null {
  const cut = part.cut?.map((plane) => ({
    ...plane,
    offset: plane.offset - mm * lengthOf(plane.normal)
  }));
  const kept = cut ? { cut } : {};
  if (part.kind !== 'cone') {
    const { x, y, z, origin } = part.frame;
    const shrink = (axis: Vec3) => times(axis, 1 - mm / lengthOf(axis));
    if ([x, y, z].some((axis) => lengthOf(axis) <= mm)) return null;
    return { ...part, frame: { x: shrink(x), y: shrink(y), z: shrink(z), origin }, ...kept };
  }
  const { x, y, z } = part.frame;
  const stretch = Math.cbrt(lengthOf(x) * lengthOf(y) * lengthOf(z));
  const by = mm / stretch;
  const ra = part.ra - by;
  const rb = part.rb - by;
  if (ra <= 0 && rb <= 0) return null;
  const axis = sub(part.b, part.a);
  const least = 1e-3;
  const ends =
    part.flat && lengthOf(axis) > 2 * by
      ? {
          a: add(part.a, times(axis, by / lengthOf(axis))),
          b: sub(part.b, times(axis, by / lengthOf(axis)))
        }
      : {};
  return { ...part, ...ends, ra: Math.max(least, ra), rb: Math.max(least, rb), ...kept };
}
