import type { Point } from '../../raster/orientation';
import { type Patch, madeFor } from '../../raster/patch';
import { halved } from '../../raster/reduced';

/** A part of a picture about a place, as a small picture of its own, and the way back. */
export interface Nearby {
  patch: Patch;
  /** Pixels of the whole picture a pixel of this one. */
  factor: number;
  within(point: Point): Point;
  back(point: Point): Point;
}

/**
 * What lies about a point, made smaller by halves until `half` is no longer than `mostPx`.
 * @param half how far to either side, in pixels of the patch
 * @returns null where nothing of it lies in the picture
 */
export function nearby(patch: Patch, at: Point, half: number, mostPx: number): Nearby | null {
  const left = Math.max(0, Math.floor(at.x - half));
  const top = Math.max(0, Math.floor(at.y - half));
  const right = Math.min(patch.width, Math.ceil(at.x + half));
  const bottom = Math.min(patch.height, Math.ceil(at.y + half));
  const [width, height] = [right - left, bottom - top];
  if (width < least || height < least) return null;
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const from = (top + y) * patch.width + left;
    data.set(patch.data.subarray(from, from + width), y * width);
  }
  const size = { width, height };
  let small = madeFor({ ...patch, picture: size }, { left: 0, top: 0, ...size }, data);
  let factor = 1;
  while (half / factor > mostPx) {
    small = halved(small);
    factor *= 2;
  }
  return {
    patch: small,
    factor,
    within: ({ x, y }) => ({ x: (x - left) / factor, y: (y - top) / factor }),
    back: ({ x, y }) => ({ x: left + x * factor, y: top + y * factor })
  };
}
const least = 8;
