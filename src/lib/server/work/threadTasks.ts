// What the web process's own threads do while somebody waits for an exposure.
import fs from 'node:fs';
import { type Digest, type DigestWish, digestOf } from '../blobs/digest';
import { allLevels } from '../pictures/allLevels';
import type { LevelBytes } from '../pictures/levelBytes';
import { samplesFrom } from '../../core/raster/raster';

export const digest = (wish: DigestWish): Digest => digestOf(wish);

export interface CoarseWish {
  file: string;
  width: number;
  height: number;
  bitsStored: number;
}

/** All levels but the full one, of plain samples in a file. */
export function coarse({ file, width, height, bitsStored }: CoarseWish): Promise<LevelBytes[]> {
  const data = samplesFrom(new Uint8Array(fs.readFileSync(file)), bitsStored);
  return allLevels({ width, height, channels: 1, bitsStored, offset: 0, data }, 0, 1);
}
