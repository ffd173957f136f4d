import { moveIn } from '../blobs/keep';
import { inClinic } from '../database/connection';
import { fileByRules } from './categories';
import { makeMissingLevels } from './levels';
import { makePreviews } from './previews';
import { noteOperator } from './told';
import { pictureRow } from './views';

/**
 * What follows once a picture is stored: its levels and small pictures are made, and its original is moved from the
 * landing into the records. Killed at any instant it is done again from where it stood.
 */
export async function settlePicture(clinicId: string, pictureId: string): Promise<void> {
  await makeMissingLevels(clinicId, pictureId);
  await makePreviews(clinicId, pictureId);
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId, 'away'));
  await moveIn(clinicId, row.original_sha256);
  await inClinic(clinicId, async (tx) => {
    await noteOperator(tx, pictureId);
    await fileByRules(tx, pictureId);
  });
}
