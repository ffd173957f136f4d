import { type Placed, toEye, toRoom } from './pose';
import { arrivesAt } from './reflection';
import type { SurfaceReader } from './surface';

/** A point of the surface in the eye's axes, with what the surface does about it. */
export interface OnEye {
  x: number;
  y: number;
  z: number;
  zx: number;
  zy: number;
  /** Second slopes. */
  hxx: number;
  hxy: number;
  hyy: number;
}

/** Where the camera's ray meets the surface in the eye's axes, by Newton's steps along it. */
export function meetsEye(
  reader: SurfaceReader,
  placed: Placed,
  ray: { x: number; y: number; ez: number },
  cameraMm: number
): OnEye {
  const [ox, oy, oz] = toEye(placed, 0, 0, -cameraMm, 1);
  const [dx, dy, dz] = toEye(placed, ray.x, ray.y, cameraMm, 0);
  let t = ((Number.isNaN(ray.ez) ? 0 : ray.ez) - oz) / dz;
  for (let i = 0; i < 12; i++) {
    const point = reader.at(ox + t * dx, oy + t * dy);
    const off = oz + t * dz - point.z;
    t -= off / (dz - point.zx * dx - point.zy * dy);
    if (Math.abs(off) < 1e-7) break;
  }
  const x = ox + t * dx;
  const y = oy + t * dy;
  const point = reader.at(x, y);
  const { zxx, zxy, zyy } = reader.bend();
  return { x, y, z: oz + t * dz, zx: point.zx, zy: point.zy, hxx: zxx, hxy: zxy, hyy: zyy };
}

export function missOf(
  placed: Placed,
  x: number,
  y: number,
  z: number,
  zx: number,
  zy: number,
  cameraMm: number,
  depthMm: number
): number {
  const [px, py, pz] = toRoom(placed, x, y, z, 1);
  const [nx, ny, nz] = toRoom(placed, zx, zy, -1, 0);
  return arrivesAt(cameraMm, depthMm, px, py, pz, nx, ny, nz);
}

/** The point that a slightly moved eye shows on the same ray: on the surface about the old point, bent as it is there. */
function shiftedOn(placed: Placed, on: OnEye, ray: { x: number; y: number }, cameraMm: number): OnEye {
  const { hxx, hxy, hyy } = on;
  const [ox, oy, oz] = toEye(placed, 0, 0, -cameraMm, 1);
  const [dx, dy, dz] = toEye(placed, ray.x, ray.y, cameraMm, 0);
  let t = (on.z - oz) / dz;
  for (let i = 0; i < 3; i++) {
    const u = ox + t * dx - on.x;
    const v = oy + t * dy - on.y;
    const z = on.z + on.zx * u + on.zy * v + (hxx * u * u + 2 * hxy * u * v + hyy * v * v) / 2;
    t -= (oz + t * dz - z) / (dz - (on.zx + hxx * u + hxy * v) * dx - (on.zy + hxy * u + hyy * v) * dy);
  }
  const u = ox + t * dx - on.x;
  const v = oy + t * dy - on.y;
  return {
    ...on,
    x: on.x + u,
    y: on.y + v,
    z: oz + t * dz,
    zx: on.zx + hxx * u + hxy * v,
    zy: on.zy + hxy * u + hyy * v
  };
}

export function movedMiss(
  placed: Placed,
  on: OnEye,
  ray: { x: number; y: number },
  cameraMm: number,
  depthMm: number
): number {
  const there = shiftedOn(placed, on, ray, cameraMm);
  return missOf(placed, there.x, there.y, there.z, there.zx, there.zy, cameraMm, depthMm);
}

export function axisZ(placed: Placed, on: OnEye, cameraMm: number): number {
  const there = shiftedOn(placed, on, { x: 0, y: 0 }, cameraMm);
  return toRoom(placed, there.x, there.y, there.z, 1)[2];
}
