import { type Frame, type Vec3, inverted, movePoint } from '../space';
import type { Weave } from './layer';

/** A repeatable number from -1 to 1 for a lattice point (an integer hash after Thomas Wang, 1997). */
export function latticeNoise(x: number, y: number, z: number, seed: number): number {
  let h = (Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(z, 2147483647) ^ seed) | 0;
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) & 0xffff) / 32767.5 - 1;
}

/** A shuffled 0..255, twice over, and the twelve edge directions of a cube by shuffled number (Perlin, 2002). */
const shuffled = new Uint8Array(512);
const [edgeX, edgeY, edgeZ] = [new Float64Array(512), new Float64Array(512), new Float64Array(512)];
for (let i = 0; i < 256; i++) shuffled[i] = i;
for (let i = 255; i > 0; i--) {
  const j = Math.floor((latticeNoise(i, 7, 3, 2002) * 0.4999 + 0.5) * (i + 1));
  [shuffled[i], shuffled[j]] = [shuffled[j], shuffled[i]];
}
for (let i = 0; i < 512; i++) {
  shuffled[i] = shuffled[i & 255];
  const h = shuffled[i] & 15;
  const edge: [number, number, number] = [0, 0, 0];
  edge[h < 8 ? 0 : 1] += h & 1 ? -1 : 1;
  edge[h < 4 ? 1 : h === 12 || h === 14 ? 0 : 2] += h & 2 ? -1 : 1;
  [edgeX[i], edgeY[i], edgeZ[i]] = edge;
}

/** Smooth gradient noise in space, about -1 to 1, with features about one unit across; repeats after 256 (Perlin, 2002). */
export function noiseAt(x: number, y: number, z: number, seed: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const iz = Math.floor(z);
  const fx = x - ix;
  const fy = y - iy;
  const fz = z - iz;
  const ex = fx * fx * fx * (fx * (fx * 6 - 15) + 10);
  const ey = fy * fy * fy * (fy * (fy * 6 - 15) + 10);
  const ez = fz * fz * fz * (fz * (fz * 6 - 15) + 10);
  const p = shuffled;
  const px = (ix + Math.imul(seed, 57)) & 255;
  const py = (iy + Math.imul(seed, 131)) & 255;
  const pz = (iz + Math.imul(seed, 211)) & 255;
  const left = p[px] + py;
  const right = p[px + 1] + py;
  const lt = p[left] + pz;
  const lb = p[left + 1] + pz;
  const rt = p[right] + pz;
  const rb = p[right + 1] + pz;
  const gx = fx - 1;
  const gy = fy - 1;
  const gz = fz - 1;
  const a = edgeX[lt] * fx + edgeY[lt] * fy + edgeZ[lt] * fz;
  const b = edgeX[rt] * gx + edgeY[rt] * fy + edgeZ[rt] * fz;
  const c = edgeX[lb] * fx + edgeY[lb] * gy + edgeZ[lb] * fz;
  const d = edgeX[rb] * gx + edgeY[rb] * gy + edgeZ[rb] * fz;
  const e = edgeX[lt + 1] * fx + edgeY[lt + 1] * fy + edgeZ[lt + 1] * gz;
  const f = edgeX[rt + 1] * gx + edgeY[rt + 1] * fy + edgeZ[rt + 1] * gz;
  const g = edgeX[lb + 1] * fx + edgeY[lb + 1] * gy + edgeZ[lb + 1] * gz;
  const h = edgeX[rb + 1] * gx + edgeY[rb + 1] * gy + edgeZ[rb + 1] * gz;
  const near = (a + (b - a) * ex) * (1 - ey) + (c + (d - c) * ex) * ey;
  const far = (e + (f - e) * ex) * (1 - ey) + (g + (h - g) * ex) * ey;
  return near + (far - near) * ez;
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
  load?: (local: Vec3) => Vec3;
}

/**
 * Spongy bone: struts are where smooth noise passes through zero, in two sizes, longer along the way of the loads
 * (Wolff, 1892). A factor around 1.
 */
export function trabeculae({ seed, spacingMm, stretch = 2, depth, frame, load }: Trabeculae): Weave {
  const back = frame ? inverted(frame) : null;
  const factor = (point: Vec3): number => {
    let local = back ? movePoint(back, point) : point;
    if (load) local = load(local);
    const x = local[0] / spacingMm;
    const y = local[1] / spacingMm;
    const z = local[2] / (spacingMm * stretch);
    // The lattice is turned against the bone and bent a little, so that it never shows.
    const bend = noiseAt(x * 0.31, y * 0.31, z * 0.31, seed + 3);
    const p = 0.8 * x - 0.6 * y + 0.9 * bend;
    const q = 0.6 * x + 0.8 * y - 0.7 * bend;
    const struts = 1 - 4.4 * Math.abs(noiseAt(p, q, z + 0.35 * p, seed));
    const meshes = 1 - 4.4 * Math.abs(noiseAt(0.6 * q + 7, 0.6 * p, 0.7 * z - 0.3 * q, seed + 17));
    const cloud = noiseAt(p * 0.17, q * 0.17, z * 0.3, seed + 31);
    return 1 + depth * (0.6 * struts + 0.45 * meshes + 0.5 * cloud);
  };
  return { factor, grainMm: spacingMm };
}

/** Soft, cloudy variation: muscle, fat, lung, gut. */
export function clouds(seed: number, sizeMm: number, depth: number): Weave {
  const large = 1 / sizeMm;
  const small = 2.5 / sizeMm;
  return {
    factor: ([x, y, z]) =>
      1 +
      depth *
        (noiseAt(x * large, y * large, z * large, seed) +
          0.5 * noiseAt(x * small, y * small, z * small, seed + 5)),
    grainMm: sizeMm * 0.4
  };
}
