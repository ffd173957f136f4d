/**
 * Points and directions in millimetres. A body stands in patient axes as DICOM has them (PS3.3 C.7.6.2.1.1):
 * x to the patient's left, y to the back, z to the head.
 */
export type Vec3 = readonly [number, number, number];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0]
];
export const lengthOf = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);
export const mix = (a: Vec3, b: Vec3, share: number): Vec3 => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
  a[2] + (b[2] - a[2]) * share
];

/** @throws RangeError for a vector without a direction */
export function unit(a: Vec3): Vec3 {
  const length = lengthOf(a);
  if (!(length > 0)) throw new RangeError('a direction must not be zero');
  return times(a, 1 / length);
}

/** An affine map: columns of a 3x3 matrix, then where the origin goes. */
export interface Frame {
  x: Vec3;
  y: Vec3;
  z: Vec3;
  origin: Vec3;
}

export const still: Frame = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1], origin: [0, 0, 0] };

export const turnVector = (f: Frame, v: Vec3): Vec3 => [
  f.x[0] * v[0] + f.y[0] * v[1] + f.z[0] * v[2],
  f.x[1] * v[0] + f.y[1] * v[1] + f.z[1] * v[2],
  f.x[2] * v[0] + f.y[2] * v[1] + f.z[2] * v[2]
];
export const movePoint = (f: Frame, p: Vec3): Vec3 => add(turnVector(f, p), f.origin);

/** First `inner`, then `outer`. */
export function composed(outer: Frame, inner: Frame): Frame {
  return {
    x: turnVector(outer, inner.x),
    y: turnVector(outer, inner.y),
    z: turnVector(outer, inner.z),
    origin: movePoint(outer, inner.origin)
  };
}

/** @throws RangeError for a map that flattens space */
export function inverted(f: Frame): Frame {
  const volume = dot(f.x, cross(f.y, f.z));
  if (!(Math.abs(volume) > 1e-12)) throw new RangeError('this map flattens space and has no way back');
  const rows = [cross(f.y, f.z), cross(f.z, f.x), cross(f.x, f.y)].map((row) => times(row, 1 / volume));
  const linear: Frame = {
    x: [rows[0][0], rows[1][0], rows[2][0]],
    y: [rows[0][1], rows[1][1], rows[2][1]],
    z: [rows[0][2], rows[1][2], rows[2][2]],
    origin: [0, 0, 0]
  };
  return { ...linear, origin: times(turnVector(linear, f.origin), -1) };
}

export const shifted = (by: Vec3): Frame => ({ ...still, origin: by });

export const stretched = (x: number, y: number, z: number): Frame => ({
  x: [x, 0, 0],
  y: [0, y, 0],
  z: [0, 0, z],
  origin: [0, 0, 0]
});

/** A turn about an axis through the origin, counter-clockwise seen against the axis (Rodrigues, 1840). */
export function turnedAbout(axis: Vec3, angleDeg: number, about: Vec3 = [0, 0, 0]): Frame {
  const [x, y, z] = unit(axis);
  const angle = (angleDeg * Math.PI) / 180;
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  const k = 1 - c;
  const linear: Frame = {
    x: [c + x * x * k, y * x * k + z * s, z * x * k - y * s],
    y: [x * y * k - z * s, c + y * y * k, z * y * k + x * s],
    z: [x * z * k + y * s, y * z * k - x * s, c + z * z * k],
    origin: [0, 0, 0]
  };
  return { ...linear, origin: sub(about, turnVector(linear, about)) };
}

/** Several maps one after the other, the first one first. */
export const inTurn = (...frames: Frame[]): Frame =>
  frames.reduce((done, next) => composed(next, done), still);
