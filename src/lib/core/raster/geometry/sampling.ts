import type { Point } from '../orientation';
import type { Patch } from '../patch';

/**
 * The value at an image point, between the four nearest samples; the outermost samples are continued. Image points are
 * continuous: a sample's middle is at +0.5.
 */
export function valueAt({ data, width, height, left, top }: Patch, x: number, y: number): number {
  const px = Math.min(width - 1, Math.max(0, x - 0.5 - left));
  const py = Math.min(height - 1, Math.max(0, y - 0.5 - top));
  const ix = Math.min(width - 2, Math.floor(px));
  const iy = Math.min(height - 2, Math.floor(py));
  if (ix < 0 || iy < 0) return thin(data, width, height, px, py);
  const u = px - ix;
  const v = py - iy;
  const at = iy * width + ix;
  const above = data[at] + (data[at + 1] - data[at]) * u;
  const below = data[at + width] + (data[at + width + 1] - data[at + width]) * u;
  return above + (below - above) * v;
}

/** Pictures one sample wide or high. */
function thin(data: Float32Array, width: number, height: number, px: number, py: number): number {
  const [place, step] = width > 1 ? [px, 1] : [py, width];
  const count = width > 1 ? width : height;
  if (count === 1) return data[0];
  const i = Math.min(count - 2, Math.floor(place));
  return data[i * step] + (data[(i + 1) * step] - data[i * step]) * (place - i);
}

/** Values along a straight line, both ends included, at most `stepPx` apart. */
export function profile(patch: Patch, from: Point, to: Point, stepPx = 1): Float64Array {
  return profileAlong(patch, [from, to], stepPx);
}

/** Values along a path of straight pieces, evenly spaced over its whole length, both ends included. */
export function profileAlong(patch: Patch, path: readonly Point[], stepPx = 1): Float64Array {
  if (!(stepPx > 0)) throw new RangeError(`the step must be above 0 pixels, got ${stepPx}`);
  if (path.length < 2) throw new RangeError(`a path needs two points, got ${path.length}`);
  const lengths = path.slice(1).map((to, i) => Math.hypot(to.x - path[i].x, to.y - path[i].y));
  const total = lengths.reduce((a, b) => a + b, 0);
  if (!Number.isFinite(total)) throw new RangeError('a point of the path is missing');
  const count = Math.max(1, Math.ceil(total / stepPx)) + 1;
  const out = new Float64Array(count);
  let piece = 0;
  let before = 0;
  for (let i = 0; i < count; i++) {
    const along = (total * i) / (count - 1);
    while (piece < lengths.length - 1 && along > before + lengths[piece]) before += lengths[piece++];
    const share = lengths[piece] > 0 ? Math.min(1, (along - before) / lengths[piece]) : 0;
    const [a, b] = [path[piece], path[piece + 1]];
    out[i] = valueAt(patch, a.x + (b.x - a.x) * share, a.y + (b.y - a.y) * share);
  }
  return out;
}
