// What the web process's own threads do while somebody waits: small pieces, in which nothing is unpacked or decoded.
import fs from 'node:fs';
import { type Digest, type DigestWish, digestOf } from '../blobs/digest';
import { allLevels } from '../pictures/allLevels';
import { type LevelBytes, plainLevel } from '../pictures/levelBytes';
import { headSays, headSaysOf } from '../pictures/decode/headSays';
import { type Surveyed, surveyOf } from '../../core/arrivals/survey';
import { samplesFrom } from '../../core/raster/raster';
import { cleanTexts } from '../../core/text';

export const digest = (wish: DigestWish): Digest => digestOf(wish);

export interface CoarseWish {
  /** A file that is open for reading: threads share what their process has open. */
  descriptor: number;
  width: number;
  height: number;
  bitsStored: number;
}

/** All levels but the full one, of plain samples in a file. */
export function coarse({ descriptor, width, height, bitsStored }: CoarseWish): Promise<LevelBytes[]> {
  const bytes = new Uint8Array(width * height * (bitsStored > 8 ? 2 : 1));
  for (let at = 0; at < bytes.length;) {
    const read = fs.readSync(descriptor, bytes, at, bytes.length - at, at);
    if (read === 0) throw new Error('the file is shorter than its picture');
    at += read;
  }
  const data = samplesFrom(bytes, bitsStored);
  return allLevels({ width, height, channels: 1, bitsStored, offset: 0, data }, 0, 1, plainLevel);
}

/** Files whose beginnings are looked at, and beginnings that are here already. */
export interface SurveyWish {
  files: string[];
  heads: Uint8Array[];
}

/** What the beginnings of files tell of whose they are. What can't be told so is told by what it turns out to be. */
export function survey({ files, heads }: SurveyWish): Surveyed[] {
  const told = [...files.map(headSaysOf), ...heads.map((head) => headSays(head, false))];
  return surveyOf(told.flatMap((says) => (says === null || says === 'longer' ? [] : cleanTexts(says))));
}
