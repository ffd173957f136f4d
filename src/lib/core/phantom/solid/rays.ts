import { type Frame, type Vec3, add, inverted, lengthOf, movePoint, sub, times, unit, dot } from '../space';
import type { Part } from './part';

/** Where a ray is inside a convex part: source + t * direction for t from `from` to `to`. */
export interface Stretch {
  from: number;
  to: number;
}

/** Tests rays from one source. True and `into` filled when the ray meets the part, else false. */
export type RayTest = (dx: number, dy: number, dz: number, into: Stretch) => boolean;

/** A ball that encloses the part (as if it were not cut). */
export function enclosing(part: Part): { center: Vec3; radius: number } {
  const { frame } = part;
  const grow = Math.max(lengthOf(frame.x), lengthOf(frame.y), lengthOf(frame.z));
  if (part.kind === 'ellipsoid') return { center: frame.origin, radius: grow };
  if (part.kind === 'box') {
    return {
      center: frame.origin,
      radius: Math.hypot(lengthOf(frame.x), lengthOf(frame.y), lengthOf(frame.z))
    };
  }
  const [a, b] = [movePoint(frame, part.a), movePoint(frame, part.b)];
  const reach = lengthOf(sub(b, a)) / 2;
  return { center: times(add(a, b), 0.5), radius: reach + Math.max(part.ra, part.rb) * grow };
}

/** The smallest extent of a part, in mm: nothing finer than this has to be looked for in it. */
export function finest(part: Part): number {
  const { x, y, z } = part.frame;
  const least = Math.min(lengthOf(x), lengthOf(y), lengthOf(z));
  return part.kind === 'cone' ? 2 * Math.max(part.ra, part.rb) * least : 2 * least;
}

/**
 * The ray test of a part for rays from one source, in closed form: a quadratic for balls and cones, slabs for boxes and
 * cuts. Stretches are cut off at t = 0: nothing behind the source counts.
 */
export function raysFrom(source: Vec3, part: Part): RayTest {
  const back = inverted(part.frame);
  const localSource = movePoint(back, source);
  const inside =
    part.kind === 'ellipsoid'
      ? unitBall(localSource)
      : part.kind === 'box'
        ? unitCube(localSource)
        : part.flat
          ? flatCone(localSource, part)
          : roundCone(localSource, part);
  const test = isStill(part.frame) ? inside : turned(back, inside);
  return part.cut && part.cut.length > 0 ? cutOff(source, test, part.cut) : test;
}

const isStill = ({ x, y, z }: Frame) =>
  x[0] === 1 &&
  x[1] === 0 &&
  x[2] === 0 &&
  y[1] === 1 &&
  y[0] === 0 &&
  y[2] === 0 &&
  z[2] === 1 &&
  z[0] === 0 &&
  z[1] === 0;

function turned(back: Frame, test: RayTest): RayTest {
  const [a, b, c] = [back.x, back.y, back.z];
  const [ax, ay, az, bx, by, bz, cx, cy, cz] = [...a, ...b, ...c];
  return (dx, dy, dz, into) =>
    test(ax * dx + bx * dy + cx * dz, ay * dx + by * dy + cy * dz, az * dx + bz * dy + cz * dz, into);
}

function cutOff(source: Vec3, test: RayTest, planes: { normal: Vec3; offset: number }[]): RayTest {
  const flat = planes.map(({ normal, offset }) => [...normal, offset - dot(normal, source)]);
  return (dx, dy, dz, into) => {
    if (!test(dx, dy, dz, into)) return false;
    for (const [nx, ny, nz, room] of flat) {
      const along = nx * dx + ny * dy + nz * dz;
      if (along > 0) into.to = Math.min(into.to, room / along);
      else if (along < 0) into.from = Math.max(into.from, room / along);
      else if (room < 0) return false;
      if (into.to <= into.from) return false;
    }
    return true;
  };
}

function unitBall([ox, oy, oz]: Vec3): RayTest {
  const c = ox * ox + oy * oy + oz * oz - 1;
  return (dx, dy, dz, into) => {
    const a = dx * dx + dy * dy + dz * dz;
    const b = ox * dx + oy * dy + oz * dz;
    const room = b * b - a * c;
    if (room <= 0) return false;
    const root = Math.sqrt(room);
    into.from = Math.max(0, (-b - root) / a);
    into.to = (-b + root) / a;
    return into.to > into.from;
  };
}

function unitCube(localSource: Vec3): RayTest {
  return (dx, dy, dz, into) => {
    let from = 0;
    let to = Infinity;
    for (let axis = 0; axis < 3; axis++) {
      const d = axis === 0 ? dx : axis === 1 ? dy : dz;
      const o = localSource[axis];
      if (d === 0) {
        if (o < -1 || o > 1) return false;
        continue;
      }
      const one = (-1 - o) / d;
      const other = (1 - o) / d;
      from = Math.max(from, Math.min(one, other));
      to = Math.min(to, Math.max(one, other));
      if (to <= from) return false;
    }
    into.from = from;
    into.to = to;
    return true;
  };
}

type Cone = Extract<Part, { kind: 'cone' }>;

/**
 * Along the axis at height h (0 at a, L at b) the cone's radius is r0 + k h, between heights `low` and `high`.
 * Inside: |p - axis|^2 <= (r0 + k h)^2. Where k^2 outgrows the ray's slant the inside is two pieces, of which one lies
 * between the heights, because the radius does not change its sign there.
 */
function coneBetween(
  localSource: Vec3,
  a: Vec3,
  axis: Vec3,
  r0: number,
  k: number,
  low: number,
  high: number
): RayTest {
  const [wx, wy, wz] = axis;
  const rel = sub(localSource, a);
  const oh = dot(rel, axis);
  const [px, py, pz] = [rel[0] - oh * wx, rel[1] - oh * wy, rel[2] - oh * wz];
  const ro = r0 + k * oh;
  const c = px * px + py * py + pz * pz - ro * ro;
  return (dx, dy, dz, into) => {
    const dh = dx * wx + dy * wy + dz * wz;
    let from = 0;
    let to = Infinity;
    if (dh === 0) {
      if (oh < low || oh > high) return false;
    } else {
      const one = (low - oh) / dh;
      const other = (high - oh) / dh;
      from = Math.max(0, Math.min(one, other));
      to = Math.max(one, other);
      if (to <= from) return false;
    }
    const qx = dx - dh * wx;
    const qy = dy - dh * wy;
    const qz = dz - dh * wz;
    const kd = k * dh;
    const a2 = qx * qx + qy * qy + qz * qz - kd * kd;
    const b = px * qx + py * qy + pz * qz - ro * kd;
    const room = b * b - a2 * c;
    if (a2 > 0) {
      if (room <= 0) return false;
      const root = Math.sqrt(room);
      from = Math.max(from, (-b - root) / a2);
      to = Math.min(to, (-b + root) / a2);
    } else if (a2 < 0) {
      if (room > 0) {
        const root = Math.sqrt(room);
        const near = (-b + root) / a2;
        const far = (-b - root) / a2;
        const before = Math.min(near, to);
        const after = Math.max(far, from);
        if (before - from > to - after) to = before;
        else from = after;
      }
    } else if (b !== 0) {
      const only = -c / (2 * b);
      if (b > 0) to = Math.min(to, only);
      else from = Math.max(from, only);
    } else if (c > 0) return false;
    if (to <= from) return false;
    into.from = from;
    into.to = to;
    return true;
  };
}

function flatCone(localSource: Vec3, { a, ra, b, rb }: Cone): RayTest {
  const along = sub(b, a);
  const length = lengthOf(along);
  return coneBetween(localSource, a, unit(along), ra, (rb - ra) / length, 0, length);
}

/** The hull of two balls is both balls and the cone that touches them: one stretch, since a hull is convex. */
function roundCone(localSource: Vec3, { a, ra, b, rb }: Cone): RayTest {
  const along = sub(b, a);
  const length = lengthOf(along);
  const ballTest = (center: Vec3, r: number) => scaled(r, unitBall(times(sub(localSource, center), 1 / r)));
  if (length <= Math.abs(ra - rb)) return ra >= rb ? ballTest(a, ra) : ballTest(b, rb);
  const axis = times(along, 1 / length);
  const sine = (ra - rb) / length;
  const cosine = Math.sqrt(1 - sine * sine);
  const [low, high] = [ra * sine, length + rb * sine];
  const k = (rb - ra) / length / cosine;
  const side = coneBetween(localSource, a, axis, ra / cosine, k, low, high);
  const [first, second] = [ballTest(a, ra), ballTest(b, rb)];
  return (dx, dy, dz, into) => {
    let from = Infinity;
    let to = -Infinity;
    if (side(dx, dy, dz, into)) {
      from = into.from;
      to = into.to;
    }
    if (first(dx, dy, dz, into)) {
      from = Math.min(from, into.from);
      to = Math.max(to, into.to);
    }
    if (second(dx, dy, dz, into)) {
      from = Math.min(from, into.from);
      to = Math.max(to, into.to);
    }
    if (to <= from) return false;
    into.from = from;
    into.to = to;
    return true;
  };
}

/** A unit test for something r times as large: both point and direction are divided by r, t stays. */
function scaled(r: number, test: RayTest): RayTest {
  const by = 1 / r;
  return (dx, dy, dz, into) => test(dx * by, dy * by, dz * by, into);
}
