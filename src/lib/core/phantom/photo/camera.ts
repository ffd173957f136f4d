import type { Raster } from '../../raster/raster';
import { raysFrom } from '../solid/rays';
import type { Part } from '../solid/part';
import { type Vec3, add, cross, dot, sub, times, unit } from '../space';
import { coveredBy } from '../xray/covered';
import { type XrayView, onRay, xrayView } from '../xray/view';
import type { SeededRandom } from '../../random';

/** Something in front of the camera, in one colour unless its skin says otherwise. Red, green, blue from 0 to 1. */
export interface Thing {
  parts: Part[];
  colour: Vec3;
  /** A factor on the colour at a place. */
  skin?: (point: Vec3) => number;
  shine?: number;
}

/** A pinhole camera: the same geometry as a point source, with the picture plane behind what is seen. */
export function camera(wish: {
  at: Vec3;
  towards: Vec3;
  up: Vec3;
  pxPerMmThere: number;
  width: number;
  height: number;
}): XrayView {
  const along = sub(wish.towards, wish.at);
  return xrayView({
    through: wish.towards,
    along,
    up: wish.up,
    toObjectMm: Math.hypot(...along),
    toDetectorMm: 0,
    pitchMm: 1 / wish.pxPerMmThere,
    width: wish.width,
    height: wish.height
  });
}

/** Where each pixel's ray first meets a thing: how far (in lengths of the way to the picture plane), and which. */
function firstMet(view: XrayView, things: readonly Thing[]): { depth: Float32Array; which: Int16Array } {
  const { width, height } = view;
  const depth = new Float32Array(width * height).fill(Infinity);
  const which = new Int16Array(width * height).fill(-1);
  const into = { from: 0, to: 0 };
  for (const [index, thing] of things.entries()) {
    for (const part of thing.parts) {
      const test = raysFrom(view.source, part);
      const covered = coveredBy(view, part);
      const left = Math.max(0, Math.floor(covered.left));
      const right = Math.min(width, Math.ceil(covered.right));
      const top = Math.max(0, Math.floor(covered.top));
      const bottom = Math.min(height, Math.ceil(covered.bottom));
      for (let y = top; y < bottom; y++) {
        for (let x = left; x < right; x++) {
          const way = sub(onRay(view, { x: x + 0.5, y: y + 0.5 }, 1), view.source);
          if (!test(way[0], way[1], way[2], into)) continue;
          const i = y * width + x;
          if (into.from < depth[i]) {
            depth[i] = into.from;
            which[i] = index;
          }
        }
      }
    }
  }
  return { depth, which };
}

/** Plain shading: one lamp beside the camera, a little light from everywhere, and a shine where a surface is smooth. */
export function photograph(
  view: XrayView,
  things: readonly Thing[],
  background: (x: number, y: number) => Vec3,
  random: SeededRandom
): Raster {
  const { width, height } = view;
  const { depth, which } = firstMet(view, things);
  const data = new Uint8Array(width * height * 3);
  const lamp = add(view.source, add(times(view.across, -700), times(view.down, -900)));
  const place = (x: number, y: number): Vec3 | null => {
    const i = y * width + x;
    return which[i] < 0 ? null : onRay(view, { x: x + 0.5, y: y + 0.5 }, depth[i]);
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      let colour = background(x, y);
      const at = place(x, y);
      if (at) {
        const thing = things[which[i]];
        const normal = normalAt(place, which, width, height, x, y, at, view);
        const toLamp = unit(sub(lamp, at));
        const lit = Math.max(0, dot(normal, toLamp));
        const half = unit(add(toLamp, unit(sub(view.source, at))));
        const shine = (thing.shine ?? 0) * Math.max(0, dot(normal, half)) ** 40;
        const tone = (0.32 + 0.72 * lit) * (thing.skin?.(at) ?? 1);
        colour = [
          thing.colour[0] * tone + shine,
          thing.colour[1] * tone + shine,
          thing.colour[2] * tone + shine
        ];
      }
      for (let c = 0; c < 3; c++) {
        const value = 255 * Math.min(1, Math.max(0, colour[c])) ** 0.8 + 2.2 * random.normal();
        data[3 * i + c] = Math.max(0, Math.min(255, value));
      }
    }
  }
  return { width, height, channels: 3, bitsStored: 8, offset: 0, data };
}

function normalAt(
  place: (x: number, y: number) => Vec3 | null,
  which: Int16Array,
  width: number,
  height: number,
  x: number,
  y: number,
  at: Vec3,
  view: XrayView
): Vec3 {
  const hit = which[y * width + x];
  const beside = (dx: number, dy: number): Vec3 | null => {
    const [nx, ny] = [x + dx, y + dy];
    if (nx < 0 || ny < 0 || nx >= width || ny >= height || which[ny * width + nx] !== hit) return null;
    const there = place(nx, ny)!;
    return dx + dy > 0 ? sub(there, at) : sub(at, there);
  };
  const u = beside(1, 0) ?? beside(-1, 0) ?? view.across;
  const v = beside(0, 1) ?? beside(0, -1) ?? view.down;
  const n = cross(u, v);
  const toCamera = sub(view.source, at);
  const length = Math.hypot(...n);
  if (!(length > 0)) return unit(toCamera);
  const normal = times(n, 1 / length);
  return dot(normal, toCamera) < 0 ? times(normal, -1) : normal;
}
