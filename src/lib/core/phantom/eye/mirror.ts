import type { Point } from '../../raster/orientation';
import { type Vec3, dot, sub, times, unit } from '../space';
import type { Cornea } from './cornea';
import type { RingTarget } from '../../cornea/target';

/** How the eye stands before the instrument: turned about its own centre, and where its apex came to lie. */
export interface EyePose {
  /** Gaze away from straight ahead, degrees: to the picture's right, and up. */
  gazeRightDeg: number;
  gazeUpDeg: number;
  /** Apex of the straight-ahead eye from its nominal place: right, down, towards the camera, in mm. */
  shiftMm: Vec3;
  /** The centre the eye turns about lies this far behind the apex. */
  turningMm: number;
}

export const straightAhead: EyePose = { gazeRightDeg: 0, gazeUpDeg: 0, shiftMm: [0, 0, 0], turningMm: 13.5 };

/**
 * Room axes: x right and y down in the picture, z from the camera into the eye; the nominal apex is the origin, so
 * the camera stands at z = -cameraMm and the target's edges at z = -depthMm.
 */
export interface PosedCornea {
  /** Room to the cornea's own axes, and back. */
  toEye: (p: Vec3) => Vec3;
  turnToRoom: (v: Vec3) => Vec3;
  toRoom: (p: Vec3) => Vec3;
  cornea: Cornea;
}

export function posed(cornea: Cornea, pose: EyePose): PosedCornea {
  const a = (pose.gazeRightDeg * Math.PI) / 180;
  const b = (pose.gazeUpDeg * Math.PI) / 180;
  // The eye's own z (into the eye) after turning right about the vertical, then up about the horizontal.
  const z: Vec3 = [-Math.sin(a) * Math.cos(b), Math.sin(b), Math.cos(a) * Math.cos(b)];
  const x: Vec3 = unit([Math.cos(a), 0, Math.sin(a)]);
  const y: Vec3 = [z[1] * x[2] - z[2] * x[1], z[2] * x[0] - z[0] * x[2], z[0] * x[1] - z[1] * x[0]];
  const center: Vec3 = [pose.shiftMm[0], pose.shiftMm[1], pose.turningMm - pose.shiftMm[2]];
  const apex = sub(center, times(z, pose.turningMm));
  const turnToRoom = (v: Vec3): Vec3 => [
    x[0] * v[0] + y[0] * v[1] + z[0] * v[2],
    x[1] * v[0] + y[1] * v[1] + z[1] * v[2],
    x[2] * v[0] + y[2] * v[1] + z[2] * v[2]
  ];
  return {
    cornea,
    turnToRoom,
    toRoom: (p) => {
      const turned = turnToRoom(p);
      return [turned[0] + apex[0], turned[1] + apex[1], turned[2] + apex[2]];
    },
    toEye: (p) => {
      const rel = sub(p, apex);
      return [dot(rel, x), dot(rel, y), dot(rel, z)];
    }
  };
}

/**
 * Where the ray from the camera through an image point meets the cornea, in the cornea's own axes; null where it misses.
 * By Newton's steps along the ray, which starts from where the last one met: neighbours meet close by.
 */
export function cameraRays(eye: PosedCornea, target: RingTarget): (image: Point) => Vec3 | null {
  const from = eye.toEye([0, 0, -target.cameraMm]);
  const origin = sub(eye.toEye([0, 0, 0]), from);
  const right = sub(sub(eye.toEye([1, 0, 0]), from), origin);
  const down = sub(sub(eye.toEye([0, 1, 0]), from), origin);
  let last = -1;
  return (image) => {
    const x = (image.x - target.width / 2) / target.pxPerMm;
    const y = (image.y - target.height / 2) / target.pxPerMm;
    const wx = origin[0] + x * right[0] + y * down[0];
    const wy = origin[1] + x * right[1] + y * down[1];
    const wz = origin[2] + x * right[2] + y * down[2];
    let t = last < 0 ? -from[2] / wz : last;
    for (let i = 0; i < 30; i++) {
      const px = from[0] + wx * t;
      const py = from[1] + wy * t;
      if (px * px + py * py > 55) {
        last = -1;
        return null;
      }
      const { z, zx, zy } = eye.cornea.at(px, py);
      const step = (from[2] + wz * t - z) / (wz - zx * wx - zy * wy);
      t -= step;
      if (Math.abs(step) < 1e-11) break;
    }
    last = t;
    return [from[0] + wx * t, from[1] + wy * t, from[2] + wz * t];
  };
}

export const meetCornea = (eye: PosedCornea, target: RingTarget, image: Point): Vec3 | null =>
  cameraRays(eye, target)(image);

/**
 * The ray from the camera, mirrored at a point of the cornea (the law of reflection in three dimensions, skew rays
 * included): where it goes from there, in the room.
 */
export function mirrored(eye: PosedCornea, target: RingTarget, point: Vec3): { from: Vec3; way: Vec3 } {
  const from = eye.toRoom(point);
  const camera: Vec3 = [0, 0, -target.cameraMm];
  const arriving = unit(sub(from, camera));
  const { zx, zy } = eye.cornea.at(point[0], point[1]);
  const normal = eye.turnToRoom(unit([zx, zy, -1]));
  const way = sub(arriving, times(normal, 2 * dot(arriving, normal)));
  return { from, way };
}

/**
 * How many ring edges lie inside the place where a ray meets the target, with the fraction to the next one; null when
 * it misses the target. Between two edges the target is a cone.
 * @param near what a neighbouring ray found, where to look first
 */
export function edgesAt(target: RingTarget, from: Vec3, way: Vec3, near = NaN): number | null {
  if (way[2] >= 0 || passesOutside(target, from, way)) return null;
  const { edges } = target;
  if (!Number.isNaN(near)) {
    const guess = Math.floor(near) - 1;
    const found =
      between(edges, guess, from, way) ??
      between(edges, guess + 1, from, way) ??
      between(edges, guess - 1, from, way);
    if (found !== null) return found;
  }
  for (let i = -1; i < edges.length - 1; i++) {
    const found = between(edges, i, from, way);
    if (found !== null) return found;
  }
  return null;
}

/** Whether a ray that goes outwards is further out than any edge before it has come as deep as the first. */
function passesOutside({ edges }: RingTarget, from: Vec3, way: Vec3): boolean {
  let [depthMm, radiusMm] = [Infinity, 0];
  for (let i = 0; i < edges.length; i++) {
    depthMm = Math.min(depthMm, edges[i].depthMm);
    radiusMm = Math.max(radiusMm, edges[i].radiusMm);
  }
  const t = (-depthMm - from[2]) / way[2];
  const [x, y] = [from[0] + t * way[0], from[1] + t * way[1]];
  return t > 0 && x * x + y * y > radiusMm * radiusMm && x * way[0] + y * way[1] > 0;
}

function between(edges: RingTarget['edges'], i: number, from: Vec3, way: Vec3): number | null {
  if (i < -1 || i >= edges.length - 1) return null;
  const share =
    i < 0
      ? meetCone(from, way, 0, edges[0].depthMm, edges[0])
      : meetCone(from, way, edges[i].radiusMm, edges[i].depthMm, edges[i + 1]);
  return share === null ? null : i + 1 + share;
}

/** The share of the way from the inner to the outer edge at which a ray passes a cone between them. */
function meetCone(
  from: Vec3,
  way: Vec3,
  r0: number,
  innerDepthMm: number,
  outer: { radiusMm: number; depthMm: number }
): number | null {
  // radius(s) = r0 + s dr, z(s) = z0 + s dz with z = -depth; the ray has z and radius of t.
  const z0 = -innerDepthMm;
  const dz = innerDepthMm - outer.depthMm;
  const dr = outer.radiusMm - r0;
  if (Math.abs(dz) < 1e-12) {
    const t = (z0 - from[2]) / way[2];
    const s = (Math.hypot(from[0] + t * way[0], from[1] + t * way[1]) - r0) / dr;
    return t > 0 && s >= 0 && s < 1 ? s : null;
  }
  // s(t) = (from_z + t way_z - z0) / dz; |xy(t)|^2 = (r0 + s dr)^2.
  const k = dr / dz;
  const c0 = r0 + k * (from[2] - z0);
  const c1 = k * way[2];
  const a = way[0] ** 2 + way[1] ** 2 - c1 * c1;
  const b = from[0] * way[0] + from[1] * way[1] - c0 * c1;
  const c = from[0] ** 2 + from[1] ** 2 - c0 * c0;
  const room = b * b - a * c;
  if (room < 0) return null;
  const root = Math.sqrt(room);
  for (let sign = -1; sign <= 1; sign += 2) {
    const t = (-b + sign * root) / a;
    const s = (from[2] + t * way[2] - z0) / dz;
    if (t > 0 && s >= 0 && s < 1 && r0 + s * dr >= 0) return s;
  }
  return null;
}
