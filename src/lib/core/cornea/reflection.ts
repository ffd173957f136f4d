import type { Point } from '../raster/orientation';
import type { RingTarget } from './target';

/**
 * Room axes: x right and y down in the picture, z from the camera into the eye, millimetres; the nominal apex is the
 * origin and the camera stands at z = -cameraMm. An image point is the ray through it.
 */
export interface CameraRay {
  /** Where the ray passes the plane z = 0. */
  x: number;
  y: number;
}

export const rayThrough = (target: RingTarget, image: Point): CameraRay => ({
  x: (image.x - target.width / 2) / target.pxPerMm,
  y: (image.y - target.height / 2) / target.pxPerMm
});

/**
 * How far from the axis, at the depth of a ring edge, the ray arrives that was mirrored at (px, py, pz) by a surface
 * with this normal: the law of reflection in three dimensions, r = a - 2 (a.n) n, skew rays included. NaN when it does
 * not come back.
 */
export function arrivesAt(
  cameraMm: number,
  depthMm: number,
  px: number,
  py: number,
  pz: number,
  nx: number,
  ny: number,
  nz: number
): number {
  const ax = px;
  const ay = py;
  const az = pz + cameraMm;
  const along = (2 * (ax * nx + ay * ny + az * nz)) / (nx * nx + ny * ny + nz * nz);
  const rx = ax - along * nx;
  const ry = ay - along * ny;
  const rz = az - along * nz;
  if (!(rz < 0)) return NaN;
  const t = (-depthMm - pz) / rz;
  return Math.sqrt((px + t * rx) ** 2 + (py + t * ry) ** 2);
}
