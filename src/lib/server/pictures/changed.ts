import type { Tx } from '../database/connection';
import { announce } from '../news/announce';
import type { PictureRow } from './queries';

/** Tells whoever follows the visits that pictures are new there, or otherwise: the pages fetch them. */
export const announceChanged = (
  tx: Tx,
  rows: readonly Pick<PictureRow, 'picture_id' | 'visit_id'>[]
): Promise<void> =>
  announce(
    tx,
    ...rows.map((row) => ({
      topic: 'picture' as const,
      visitId: row.visit_id,
      pictureId: row.picture_id,
      view: null
    }))
  );
