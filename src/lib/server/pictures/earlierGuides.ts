import type { PictureView } from '../../core/picture/pictureView';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { visitHead } from '../visits/visitHead';
import { picturesWithGuides } from './queries';
import { viewsOf } from './views';

const mostCompared = 60;

/** Pictures of the patient's other visits on which a guide was done, newest first: what its results are compared with. */
export async function earlierWithGuides(caller: Caller, visitId: string): Promise<PictureView[]> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const { patient } = await visitHead(tx, visitId);
    return viewsOf(tx, await picturesWithGuides(tx, patient.patientId, visitId, mostCompared), caller.userId);
  });
}
