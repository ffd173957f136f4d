import type { Tx } from '../database/connection';
import type { LevelBytes } from './levelBytes';

export const levelRow = (
  tx: Tx,
  pictureId: string,
  frame: number,
  level: number
): Promise<Pick<LevelBytes, 'encoding' | 'bytes'> | undefined> =>
  tx.one(
    'select encoding, bytes from picture_level where picture_id = $1 and frame = $2 and level = $3',
    pictureId,
    frame,
    level
  );

/** Which levels are kept of each frame, without their bytes. */
export const keptLevels = (tx: Tx, pictureId: string): Promise<{ frame: number; level: number }[]> =>
  tx.sql('select frame, level from picture_level where picture_id = $1', pictureId);

/** Keeps levels, ready to be sent. A cache: they can be thrown away and are made anew. */
export async function putLevels(tx: Tx, pictureId: string, levels: readonly LevelBytes[]): Promise<void> {
  for (const { frame, level, width, height, encoding, bytes } of levels)
    await tx.sql(
      `insert into picture_level (clinic_id, picture_id, frame, level, width, height, encoding, bytes)
       values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict do nothing`,
      tx.clinicId,
      pictureId,
      frame,
      level,
      width,
      height,
      encoding,
      Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    );
}

export const previewRow = (tx: Tx, pictureId: string, key: string): Promise<{ webp: Buffer } | undefined> =>
  tx.one(
    'select webp from picture_preview where clinic_id = $1 and picture_id = $2 and key = $3',
    tx.clinicId,
    pictureId,
    key
  );

export const putPreview = (tx: Tx, pictureId: string, key: string, webp: Uint8Array): Promise<unknown> =>
  tx.sql(
    'insert into picture_preview (clinic_id, picture_id, key, webp) values ($1, $2, $3, $4) on conflict do nothing',
    tx.clinicId,
    pictureId,
    key,
    Buffer.from(webp.buffer, webp.byteOffset, webp.byteLength)
  );
