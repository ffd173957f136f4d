import { halved, levelCount } from '../../core/raster/pyramid';
import type { Raster } from '../../core/raster/raster';
import { type LevelBytes, levelBytes } from './levelBytes';

/** A frame at every size, from a level on; what lies before it is not packed for nothing. */
export async function allLevels(
  raster: Raster,
  frame: number,
  from = 0,
  packed: (raster: Raster, frame: number, level: number) => LevelBytes | Promise<LevelBytes> = levelBytes
): Promise<LevelBytes[]> {
  const levels = [];
  let at = raster;
  for (let level = 0; level < levelCount(raster.width, raster.height); level++) {
    if (level > 0) at = halved(at);
    if (level >= from) levels.push(await packed(at, frame, level));
  }
  return levels;
}
