import { type Frame, type Vec3, inverted, movePoint } from '../space';
import type { Weave } from './layer';

/** A repeatable number from -1 to 1 for a lattice point (an integer hash after Thomas Wang, 1997). */
function lattice(x: number, y: number, z: number, seed: number): number {
  let h = (Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(z, 2147483647) ^ seed) | 0;
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  h ^= h >>> 16;
  return (h & 0xffff) / 32767.5 - 1;
}

/** Smooth noise in space from -1 to 1, with features about one unit across. */
export function noiseAt(x: number, y: number, z: number, seed: number): number {
  const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const ease = (f: number) => f * f * (3 - 2 * f);
  const [fx, fy, fz] = [ease(x - ix), ease(y - iy), ease(z - iz)];
  let sum = 0;
  for (let dz = 0; dz < 2; dz++) {
    const wz = dz ? fz : 1 - fz;
    for (let dy = 0; dy < 2; dy++) {
      const wy = (dy ? fy : 1 - fy) * wz;
      sum +=
        wy * (lattice(ix, iy + dy, iz + dz, seed) * (1 - fx) + lattice(ix + 1, iy + dy, iz + dz, seed) * fx);
    }
  }
  return sum;
}

export interface Trabeculae {
  seed: number;
  /** Distance between struts, in mm. */
  spacingMm: number;
  /** How many times longer than wide the meshes are, along the way that loads take. */
  stretch?: number;
  /** Share by which attenuation varies. */
  depth: number;
  /** Own axes of the bone in the room; loads run along its z unless `load` bends them. */
  frame?: Frame;
  /** A point of the bone's own axes, moved so that load lines become parallel to z. */
  load?: (own: Vec3) => Vec3;
}

/**
 * Spongy bone: struts are where smooth noise passes through zero, in two sizes, longer along the way of the loads
 * (Wolff, 1892). A factor around 1.
 */
export function trabeculae({ seed, spacingMm, stretch = 2, depth, frame, load }: Trabeculae): Weave {
  const back = frame ? inverted(frame) : null;
  return (point) => {
    let own = back ? movePoint(back, point) : point;
    if (load) own = load(own);
    const [x, y, z] = [own[0] / spacingMm, own[1] / spacingMm, own[2] / (spacingMm * stretch)];
    const struts = 1 - 3.2 * Math.abs(noiseAt(x, y, z, seed));
    const meshes = 1 - 3.2 * Math.abs(noiseAt(y * 0.55 + 7, z * 0.75 + 3, x * 0.55, seed + 17));
    const cloud = noiseAt(x * 0.16, y * 0.16, z * 0.3, seed + 31);
    return 1 + depth * (0.62 * struts + 0.5 * meshes + 0.4 * cloud);
  };
}

/** Soft, cloudy variation: muscle, fat, lung, gut. */
export function clouds(seed: number, sizeMm: number, depth: number): Weave {
  return ([x, y, z]) =>
    1 +
    depth *
      (noiseAt(x / sizeMm, y / sizeMm, z / sizeMm, seed) +
        0.5 * noiseAt(x / sizeMm / 0.4, y / sizeMm / 0.4, z / sizeMm / 0.4, seed + 5));
}
