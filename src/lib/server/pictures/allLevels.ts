import { halved, levelCount } from '../../core/raster/pyramid';
import type { Raster } from '../../core/raster/raster';
import { type LevelBytes, levelBytes } from './levelBytes';

/** A frame at every size, from a level on; what lies before it is not compressed for nothing. */
export async function allLevels(raster: Raster, frame: number, from = 0): Promise<LevelBytes[]> {
  const levels = [];
  let at = raster;
  for (let level = 0; level < levelCount(raster.width, raster.height); level++) {
    if (level > 0) at = halved(at);
    if (level >= from) levels.push(await levelBytes(at, frame, level));
  }
  return levels;
}
