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

/** Where a mirrored ray arrives, and how that changes with the mirror. */
export interface Arrival {
  /** Distance from the axis at the ring edge's depth, mm. */
  radiusMm: number;
  /** Per mm that the mirror moves away from the camera, its point staying on the camera's ray. */
  byZ: number;
  /** Per slope of the surface. */
  byZx: number;
  byZy: number;
}

/** As `arrivesAt` for a surface z(x, y) with these slopes, with its exact derivatives. */
export function arrival(
  cameraMm: number,
  depthMm: number,
  px: number,
  py: number,
  pz: number,
  zx: number,
  zy: number
): Arrival {
  const az = pz + cameraMm;
  const nn = zx * zx + zy * zy + 1;
  const twice = (2 * (px * zx + py * zy - az)) / nn;
  const rx = px - twice * zx;
  const ry = py - twice * zy;
  const rz = az + twice;
  if (!(rz < 0)) return { radiusMm: NaN, byZ: NaN, byZx: NaN, byZy: NaN };
  const t = (-depthMm - pz) / rz;
  const qx = px + t * rx;
  const qy = py + t * ry;
  const radiusMm = Math.sqrt(qx * qx + qy * qy);
  // A leaning mirror turns what it returns by -d(twice) n - twice dn, and the ray is cut where it passes the depth: what
  // the turn does along the ray goes into (qx, qy) by t / rz.
  const byTwiceX = (2 * (px - twice * zx)) / nn;
  const byTwiceY = (2 * (py - twice * zy)) / nn;
  const straight = (qx * rx + qy * ry) / rz;
  const leaning = qx * zx + qy * zy + straight;
  return {
    radiusMm,
    // Along its own ray the mirrored direction grows with the distance and stays what it is.
    byZ: (qx * (px / az - rx / rz) + qy * (py / az - ry / rz)) / radiusMm,
    byZx: (-t * (byTwiceX * leaning + qx * twice)) / radiusMm,
    byZy: (-t * (byTwiceY * leaning + qy * twice)) / radiusMm
  };
}
