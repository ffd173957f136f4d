// What the web process's own threads do while somebody waits for an exposure.
import fs from 'node:fs';
import { type Digest, type DigestWish, digestOf } from '../blobs/digest';
import { type LevelBytes, levelBytes } from '../pictures/levelBytes';
import { halved, levelCount } from '../../core/raster/pyramid';
import { samplesFrom } from '../../core/raster/raster';

export const digest = (wish: DigestWish): Digest => digestOf(wish);

export interface CoarseWish {
  file: string;
  width: number;
  height: number;
  bitsStored: number;
}

/** All levels but the full one, of plain samples in a file. */
export async function coarse({ file, width, height, bitsStored }: CoarseWish): Promise<LevelBytes[]> {
  const data = samplesFrom(new Uint8Array(fs.readFileSync(file)), bitsStored);
  let raster = { width, height, channels: 1 as const, bitsStored, offset: 0, data };
  const levels = [];
  for (let level = 1; level < levelCount(width, height); level++) {
    raster = { ...halved(raster), channels: 1 };
    levels.push(await levelBytes(raster, 0, level));
  }
  return levels;
}
