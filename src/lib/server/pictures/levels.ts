import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { randomUUID } from 'node:crypto';
import { levelCount, sizeOfLevel } from '../../core/raster/pyramid';
import { type Raster, samplesFrom } from '../../core/raster/raster';
import { type Stretch, blobParts, wholeBlob } from '../blobs/keep';
import { landedFile } from '../blobs/landing';
import { inClinic } from '../database/connection';
import { notFound } from '../problem';
import { openOutsideFile, openOutsideFrame } from '../work/processes';
import { allLevels } from './allLevels';
import { freshLevel } from './fresh';
import { type LevelBytes, unpackedLevel } from './levelBytes';
import { keptLevels, levelRow, putLevels } from './levelQueries';
import { samplesMediaType } from './origin';
import { type PictureRow, shapeOf } from './queries';
import { pictureRow } from './views';

export const isPlainSamples = (row: PictureRow): boolean => row.media_type === samplesMediaType;

/**
 * One frame at one size, ready to be sent: just come in, kept, or made now and kept. Whether somebody may see it is asked
 * by whoever sends it.
 */
export async function levelOf(
  clinicId: string,
  pictureId: string,
  frame: number,
  level: number
): Promise<Pick<LevelBytes, 'encoding' | 'bytes'>> {
  const fresh = frame === 0 ? await freshLevel(pictureId, level) : null;
  if (fresh) return fresh;
  const kept = await inClinic(clinicId, async (tx) => ({
    row: await pictureRow(tx, pictureId, 'away'),
    bytes: await levelRow(tx, pictureId, frame, level)
  }));
  if (kept.bytes) return kept.bytes;
  const { row } = kept;
  if (frame >= row.frames || level >= levelCount(row.width, row.height)) throw notFound('This size');
  const made = await makeLevels(clinicId, row, frame);
  return made.find((each) => each.level === level)!;
}

/** Makes what is lacking of a frame's levels and keeps it. Plain samples have no full level: that is the original. */
export async function makeLevels(clinicId: string, row: PictureRow, frame: number): Promise<LevelBytes[]> {
  const levels = isPlainSamples(row)
    ? await allLevels(await plainFrame(clinicId, row, frame), frame, 1)
    : await withFile(clinicId, row.original_sha256, async (file) =>
        frame === 0 && row.frames === 1 ? (await openOutsideFile(file)).levels : openOutsideFrame(file, frame)
      );
  await inClinic(clinicId, (tx) => putLevels(tx, row.picture_id, levels));
  return levels;
}

/** All frames that lack a level, one after the other, each kept on its own, so that a stop in between costs nothing. */
export async function makeMissingLevels(clinicId: string, pictureId: string): Promise<void> {
  const { row, kept } = await inClinic(clinicId, async (tx) => ({
    row: await pictureRow(tx, pictureId, 'away'),
    kept: await keptLevels(tx, pictureId)
  }));
  const count = levelCount(row.width, row.height) - (isPlainSamples(row) ? 1 : 0);
  if (count === 0) return;
  for (let frame = 0; frame < row.frames; frame++)
    if (kept.filter((each) => each.frame === frame).length < count) await makeLevels(clinicId, row, frame);
}

/** Where one frame of plain samples lies in its original. */
export function stretchOfFrame(row: PictureRow, frame: number): Stretch {
  const bytes = row.original_size / row.frames;
  return { from: frame * bytes, to: (frame + 1) * bytes };
}

async function plainFrame(clinicId: string, row: PictureRow, frame: number): Promise<Raster> {
  const frameBytes = await wholeBlob(clinicId, row.original_sha256, stretchOfFrame(row, frame));
  const bytes = new Uint8Array(frameBytes.buffer, frameBytes.byteOffset, frameBytes.byteLength);
  return { ...shapeOf(row), data: samplesFrom(bytes, row.bits_stored) };
}

/** One frame at one size as samples. */
export async function rasterOf(
  clinicId: string,
  row: PictureRow,
  frame: number,
  level: number
): Promise<Raster> {
  if (level === 0 && isPlainSamples(row)) return plainFrame(clinicId, row, frame);
  const bytes = await unpackedLevel(await levelOf(clinicId, row.picture_id, frame, level));
  return {
    ...shapeOf(row),
    ...sizeOfLevel(row, level),
    data: samplesFrom(new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength), row.bits_stored)
  };
}

/** All frames' samples in full, one after the other, as they are written into an object. */
export async function wholeSamples(clinicId: string, row: PictureRow): Promise<Uint8Array> {
  if (isPlainSamples(row)) return wholeBlob(clinicId, row.original_sha256);
  const frames = [];
  for (let frame = 0; frame < row.frames; frame++)
    frames.push(await unpackedLevel(await levelOf(clinicId, row.picture_id, frame, 0)));
  return frames.length === 1 ? frames[0] : Buffer.concat(frames);
}

/** An original as a file, for those who can only open one: the landed one, or a copy that is removed afterwards. */
async function withFile<T>(clinicId: string, digest: Buffer, work: (file: string) => Promise<T>): Promise<T> {
  const landed = landedFile(clinicId, digest);
  if (landed && fs.existsSync(landed)) return work(landed);
  const copy = path.join(os.tmpdir(), `yonder-${randomUUID()}`);
  const handle = await fs.promises.open(copy, 'wx', 0o600);
  try {
    for await (const part of blobParts(clinicId, digest)) await handle.write(part);
    await handle.close();
    return await work(copy);
  } finally {
    await handle.close().catch(() => {});
    await fs.promises.rm(copy, { force: true });
  }
}
