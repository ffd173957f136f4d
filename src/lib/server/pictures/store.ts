import type { FramesShape, PictureKind } from '../../core/picture/pictureView';
import type { Look } from '../../core/raster/look/look';
import type { Tx } from '../database/connection';
import { newId, newUid } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import type { Origin } from './origin';

export interface NewPicture extends FramesShape {
  patientId: string;
  visitId: string;
  /** SHA-256 of the original, whose bytes are in the landing or in the records. */
  digest: Buffer;
  mediaType: string;
  fileName: string;
  source: 'device' | 'file';
  kind: PictureKind;
  frameMs: number | null;
  firstLook: Look;
  origin: Origin;
  takenAt: Date;
  /** Who brought it in; nothing where a device did. */
  byName?: string;
}

/**
 * Stores what is known of a picture, the key it came with, and the job that settles it. Its original is there already.
 * It has no number in its visit yet.
 */
export async function storePicture(tx: Tx, key: string, picture: NewPicture): Promise<string> {
  const pictureId = newId();
  await insertPicture(tx, pictureId, picture);
  await tx.sql(
    'insert into arrival_key (clinic_id, key, picture_id) values ($1, $2, $3)',
    tx.clinicId,
    key,
    pictureId
  );
  return pictureId;
}

/** The same for one whose key and number were kept when it arrived. */
export async function insertPicture(tx: Tx, pictureId: string, picture: NewPicture): Promise<void> {
  await tx.sql(
    `insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
       width, height, channels, bits_stored, sample_offset, frames, frame_ms, facts, first_look, taken_at, instance_uid, number, by_name)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17::jsonb, $18::jsonb, $19, $20, 0, $21)`,
    pictureId,
    tx.clinicId,
    picture.patientId,
    picture.visitId,
    picture.digest,
    picture.mediaType,
    picture.fileName,
    picture.source,
    picture.kind,
    picture.width,
    picture.height,
    picture.channels,
    picture.bitsStored,
    picture.offset,
    picture.frames,
    picture.frameMs,
    JSON.stringify(picture.origin),
    JSON.stringify(picture.firstLook),
    picture.takenAt,
    newUid(),
    picture.byName ?? ''
  );
  await enqueue(tx, queues.settle, { clinicId: tx.clinicId, pictureId });
}

/** Gives a new picture the next number of its visit. Its tray is held, so that nobody else takes the same one. */
export const numberPicture = (tx: Tx, pictureId: string, visitId: string): Promise<unknown> =>
  tx.sql(
    `update picture set number = (select coalesce(max(number), 0) + 1 from picture where visit_id = $2)
     where picture_id = $1`,
    pictureId,
    visitId
  );
