import type { SeededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import { type Patch, patchOf } from '../../raster/patch';

export const side = 220;
/** How much of a thing whose rim lies `inwards` pixels further out is seen through a soft edge. */
const soft = (inwards: number) => 1 / (1 + Math.exp(-inwards / 0.6));
/** How much of a place lies in a disc. */
export const disc = (at: Point, middle: Point, radius: number) =>
  soft(radius - Math.hypot(at.x - middle.x, at.y - middle.y));
/** The same of a bar about a middle, at an angle. */
export function bar(at: Point, middle: Point, angle: number, length: number, wide: number): number {
  const [dx, dy] = [at.x - middle.x, at.y - middle.y];
  const along = Math.abs(dx * Math.cos(angle) + dy * Math.sin(angle));
  const across = Math.abs(dy * Math.cos(angle) - dx * Math.sin(angle));
  return Math.min(soft(length / 2 - along), soft(wide / 2 - across));
}

/** Metal on a ground that is brighter on one side, by a share of the metal's step, with noise. */
export function picture(metal: (at: Point) => number, random: SeededRandom, risesBy = 0.3): Patch {
  const data = new Float32Array(side * side);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const ground = 300 + 1000 * risesBy * soft((x - side / 2) / 8);
      data[y * side + x] = ground + 1000 * metal({ x: x + 0.5, y: y + 0.5 }) + 12 * random.normal();
    }
  return patchOf(data, { width: side, height: side });
}
