import { gzip as gzipWithCallback } from 'node:zlib';
import { promisify } from 'node:util';
import type { Tx } from '../database/connection';
import { newId, newUid, sha256 } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { bytesOf, type Raster } from '../../core/raster/raster';
import type { PictureFactsStored } from './facts';
import { remember } from './rasters';

const gzip = promisify(gzipWithCallback);
/** The fastest level: radiographs hardly shrink more with a higher one. */
export const zipLevel = 1;
/** The page that waits for a picture goes first. */
const levelsAfterSeconds = 2;

export interface NewPicture {
  patientId: string;
  visitId: string;
  original: Uint8Array;
  /** SHA-256 of the original, where it is known already. */
  digest?: Buffer;
  mediaType: string;
  fileName: string;
  source: 'device' | 'file';
  raster: Raster;
  facts: PictureFactsStored;
  takenAt: Date;
}

/** The picture that came with this key before, if any. One key, one picture, however often it is offered. */
export async function pictureOfKey(tx: Tx, key: string): Promise<string | null> {
  const row = await tx.one<{ picture_id: string }>('select picture_id from arrival_key where key = $1', key);
  return row?.picture_id ?? null;
}

/** Stores a picture's original byte for byte, its facts, its key, and the job that prepares it for looking at. */
export async function storePicture(tx: Tx, key: string, picture: NewPicture): Promise<string> {
  const pictureId = newId();
  const digest = picture.digest ?? sha256(picture.original);
  await tx.sql(
    'insert into blob (clinic_id, sha256, bytes) values ($1, $2, $3) on conflict do nothing',
    tx.clinicId,
    digest,
    Buffer.from(picture.original.buffer, picture.original.byteOffset, picture.original.byteLength)
  );
  const { raster } = picture;
  await tx.sql(
    `insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source,
       width, height, channels, bits_stored, sample_offset, facts, taken_at, instance_uid, number)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14::jsonb, $15, $16,
       (select coalesce(max(number), 0) + 1 from picture where visit_id = $4))`,
    pictureId,
    tx.clinicId,
    picture.patientId,
    picture.visitId,
    digest,
    picture.mediaType,
    picture.fileName,
    picture.source,
    raster.width,
    raster.height,
    raster.channels,
    raster.bitsStored,
    raster.offset,
    JSON.stringify(picture.facts),
    picture.takenAt,
    newUid()
  );
  await tx.sql(
    'insert into arrival_key (clinic_id, key, picture_id) values ($1, $2, $3)',
    tx.clinicId,
    key,
    pictureId
  );
  await enqueue(
    tx,
    queues.levels,
    { clinicId: tx.clinicId, pictureId },
    { startAfterSeconds: levelsAfterSeconds }
  );
  remember(pictureId, raster);
  return pictureId;
}

export const zipped = (raster: Raster): Promise<Buffer> => gzip(bytesOf(raster), { level: zipLevel });

/** Keeps one level of the pyramid, ready to be sent. A cache: it can be thrown away and is made anew. */
export async function storeLevel(tx: Tx, pictureId: string, level: number, raster: Raster): Promise<void> {
  await tx.sql(
    `insert into picture_level (picture_id, level, clinic_id, width, height, zipped) values ($1, $2, $3, $4, $5, $6)
     on conflict do nothing`,
    pictureId,
    level,
    tx.clinicId,
    raster.width,
    raster.height,
    await zipped(raster)
  );
}
