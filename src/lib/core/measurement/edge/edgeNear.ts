import { gaussian } from '../../raster/filters/gaussian';
import { valueAt } from '../../raster/geometry/sampling';
import type { Point } from '../../raster/orientation';
import { type Patch, madeFor } from '../../raster/patch';
import { medianOf } from '../fit/linear';
import { nearby } from './nearby';
import { steepness } from './steepness';

const smoothPx = 1.3;
/** A slope has to stand out of those around it by so much. */
const standsOut = 4;

/**
 * The nearest place at which a picture changes sharply, where somebody pressed beside an edge: the strongest slope around
 * the press, those further away counting less, at the top of the slope to a fraction of a pixel.
 * @param reach how far it may be moved, in pixels
 * @returns null where nothing around stands out
 */
export function edgeNear(patch: Patch, press: Point, reach: number): Point | null {
  if (!(reach >= 2)) throw new RangeError(`an edge is looked for within 2 pixels and more, got ${reach}`);
  const around = nearby(patch, press, 2 * reach + 4, 2 * reach + 4);
  if (!around) return null;
  const smooth = gaussian(around.patch, smoothPx);
  const { width, height } = smooth;
  const at = around.within(press);
  const { dx, dy, slope } = steepness(smooth);
  let best = 0;
  let where = -1;
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const away = Math.hypot(x + 0.5 - at.x, y + 0.5 - at.y);
      if (away > reach) continue;
      const i = y * width + x;
      const weighed = slope[i] * Math.exp(-2 * (away / reach) ** 2);
      if (weighed > best) [best, where] = [weighed, i];
    }
  if (where < 0 || slope[where] < standsOut * medianOf(Array.from(slope))) return null;
  // Up the slope to its top, along its own direction.
  const [c, s] = [dx[where] / slope[where], dy[where] / slope[where]];
  const [x0, y0] = [(where % width) + 0.5, Math.floor(where / width) + 0.5];
  const slopes = madeFor(smooth, smooth, slope);
  const value = (k: number) => valueAt(slopes, x0 + c * k, y0 + s * k);
  const steps = Array.from({ length: 9 }, (_, k) => (k - 4) * 0.5);
  const top = steps.reduce((one, other) => (value(other) > value(one) ? other : one));
  const found = around.back({ x: x0 + c * top, y: y0 + s * top });
  return Math.hypot(found.x - press.x, found.y - press.y) <= reach ? found : null;
}
