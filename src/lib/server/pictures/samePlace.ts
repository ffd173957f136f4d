import type { PictureView } from '../../core/picture/pictureView';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { picturesAtPlaces, placeKeysOf } from './queries';
import { pictureRow, viewsOf } from './views';

const mostCompared = 40;

/** Pictures of the patient's other visits that show a place this one shows, newest first: what it can be compared with. */
export async function samePlacePictures(caller: Caller, pictureId: string): Promise<PictureView[]> {
  await demand(caller, 'view charts', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await pictureRow(tx, pictureId);
    const keys = await placeKeysOf(tx, pictureId);
    const found = await picturesAtPlaces(tx, row.patient_id, keys, mostCompared, row.visit_id);
    return viewsOf(tx, found, caller.userId);
  });
}
