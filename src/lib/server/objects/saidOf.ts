import { type SaidAttribute, saidAttributes } from '../../core/dicom/said';
import { readVersioned } from '../../core/versioned';
import type { Tx } from '../database/connection';
import type { PictureRow } from '../pictures/queries';

/** Whether a picture came without attributes: those of a DICOM file are its own, and nobody writes over them. */
export const maySay = ({ media_type: type }: Pick<PictureRow, 'media_type'>): boolean =>
  type !== 'application/dicom';

/** What somebody said of a picture. */
export async function saidOf(tx: Tx, pictureId: string): Promise<SaidAttribute[]> {
  const row = await tx.one<{ version: number; body: unknown }>(
    'select version, body from said_attributes where picture_id = $1',
    pictureId
  );
  return row ? readVersioned('What was said of a picture', saidAttributes, row.version, row.body) : [];
}
