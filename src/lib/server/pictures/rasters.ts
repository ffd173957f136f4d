import { gunzip as gunzipWithCallback } from 'node:zlib';
import { promisify } from 'node:util';
import type { Tx } from '../database/connection';
import { level as levelOf, levelCount } from '../../core/raster/pyramid';
import { type Raster, assertRaster, samplesFrom } from '../../core/raster/raster';
import { decodeFile } from './decode/pool';
import { samplesMediaType } from './facts';
import { type PictureRow, pictureRow } from './pictures';
import { storeLevel, zipped } from './store';

const gunzip = promisify(gunzipWithCallback);
/** Only a shortcut: what falls out is read from the records again. */
const remembered = new Map<string, Raster>();
const rememberedCount = 6;

export function remember(pictureId: string, raster: Raster): void {
  remembered.delete(pictureId);
  remembered.set(pictureId, raster);
  if (remembered.size > rememberedCount) remembered.delete(remembered.keys().next().value!);
}

export async function originalOf(tx: Tx, row: PictureRow): Promise<Buffer> {
  const blob = await tx.one<{ bytes: Buffer }>(
    'select bytes from blob where sha256 = $1',
    row.original_sha256
  );
  if (!blob) throw new Error(`the original of picture ${row.picture_id} is missing`);
  return blob.bytes;
}

/** A picture's samples in full, from memory, from the kept level, or from the original. */
export async function rasterOf(tx: Tx, row: PictureRow): Promise<Raster> {
  const known = remembered.get(row.picture_id);
  if (known) return known;
  const shape = {
    width: row.width,
    height: row.height,
    channels: row.channels,
    bitsStored: row.bits_stored,
    offset: row.sample_offset
  };
  let raster: Raster;
  if (row.media_type === samplesMediaType) {
    raster = { ...shape, data: samplesFrom(await originalOf(tx, row), row.bits_stored) };
  } else {
    const kept = await tx.one<{ zipped: Buffer }>(
      'select zipped from picture_level where picture_id = $1 and level = 0',
      row.picture_id
    );
    raster = kept
      ? { ...shape, data: samplesFrom(await gunzip(kept.zipped), row.bits_stored) }
      : (await decodeFile(await originalOf(tx, row))).raster;
  }
  remember(row.picture_id, assertRaster(raster));
  return raster;
}

/**
 * One level, compressed for the wire. One that is not kept yet is made at once for whoever waits; keeping it is the
 * business of the job that makes them all.
 */
export async function zippedLevel(tx: Tx, pictureId: string, level: number): Promise<Buffer> {
  const kept = await tx.one<{ zipped: Buffer }>(
    'select zipped from picture_level where picture_id = $1 and level = $2',
    pictureId,
    level
  );
  if (kept) return kept.zipped;
  const row = await pictureRow(tx, pictureId);
  return zipped(levelOf(await rasterOf(tx, row), level));
}

/** All levels of a picture, each kept on its own, so that a stop in between costs nothing. */
export async function prepareLevels(tx: Tx, pictureId: string): Promise<void> {
  const row = await pictureRow(tx, pictureId);
  const kept = await tx.sql<{ level: number }>(
    'select level from picture_level where picture_id = $1',
    pictureId
  );
  const have = new Set(kept.map((each) => each.level));
  const count = levelCount(row.width, row.height);
  if (have.size >= count) return;
  let at = await rasterOf(tx, row);
  for (let i = 0; i < count; i++) {
    if (i > 0) at = levelOf(at, 1);
    if (!have.has(i)) await storeLevel(tx, pictureId, i, at);
  }
}
