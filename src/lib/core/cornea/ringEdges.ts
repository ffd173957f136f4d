import { valueAt } from '../raster/geometry/sampling';
import type { Point } from '../raster/orientation';
import type { Patch } from '../raster/patch';
import type { Raster } from '../raster/raster';

/** Rings are looked at along so many directions from their centre. */
export const meridians = 256;

const stepPx = 0.5;
/** Least step across an edge against the picture's own noise. */
const leastStep = 9;
/** From here on a grey may have been cut off at the range's end. */
const cutOffGrey = 251;

/** In greys of 0 to 255, whatever the picture's depth: what limits are told in. */
export function inGreys({ width, height, bitsStored, data }: Raster): Patch {
  const greys = new Float32Array(data.length);
  const by = 2 ** (8 - bitsStored);
  for (let i = 0; i < data.length; i++) greys[i] = data[i] * by;
  return { left: 0, top: 0, width, height, picture: { width, height }, data: greys };
}

/** NaN beyond the outermost samples: nothing is made up there. */
function sampleAt(greys: Patch, x: number, y: number): number {
  const inside = x >= 0.5 && y >= 0.5 && x < greys.width - 0.5 && y < greys.height - 0.5;
  return inside ? valueAt(greys, x, y) : NaN;
}

export interface Edge {
  r: number;
  rising: boolean;
  step: number;
  width: number;
}

/**
 * Every edge along a meridian from a to b: where the slope peaks, at half height between the plateaus on both sides. On
 * the white of the eye the bright one may be cut off at the end of the range: then the last whole step tells its height.
 */
export function edgesAlong(greys: Patch, center: Point, angle: number, from: number, to: number): Edge[] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const count = Math.ceil((to - from) / stepPx) + 1;
  const line = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const r = from + i * stepPx;
    line[i] = sampleAt(greys, center.x + r * c, center.y + r * s);
  }
  // A rising edge is higher than a falling one where the ground brightens, so each goes by its own kind.
  const wholeStep = { rising: 0, falling: 0 };
  const out: Edge[] = [];
  for (let i = 2; i < count - 2; i++) {
    const slope = line[i + 1] - line[i - 1];
    const size = Math.abs(slope);
    if (!(size > 2)) continue;
    if (size < Math.abs(line[i + 2] - line[i]) || size <= Math.abs(line[i] - line[i - 2])) continue;
    const sign = Math.sign(slope);
    let low = i;
    while (low > 0 && low > i - 8 && sign * (line[low] - line[low - 1]) > 0) low--;
    let high = i;
    while (high < count - 1 && high < i + 8 && sign * (line[high + 1] - line[high]) > 0) high++;
    let step = sign * (line[high] - line[low]);
    if (!(step > leastStep)) continue;
    const [dark, bright] = [Math.min(line[low], line[high]), Math.max(line[low], line[high])];
    const kind = sign > 0 ? 'rising' : 'falling';
    if (bright < cutOffGrey) wholeStep[kind] = step;
    else step = Math.min(1.8 * step, Math.max(step, wholeStep[kind]));
    const level = dark + step / 2;
    let k = low;
    while (k < high && sign * (line[k + 1] - level) < 0) k++;
    const r = from + (k + (level - line[k]) / (line[k + 1] - line[k])) * stepPx;
    out.push({ r, rising: sign > 0, step, width: (step / size) * 2 * stepPx });
  }
  return out;
}
