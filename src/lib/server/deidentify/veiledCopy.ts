import { Readable } from 'node:stream';
import { masksSomething } from '../../core/picture/layers/veils/veils';
import { placesOf } from '../../core/picture/pictureView';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { may } from '../people/roles';
import { bringIn } from '../pictures/bringIn';
import { linkToPlaces } from '../pictures/links';
import { pictureRow, viewsOf } from '../pictures/views';
import { Problem } from '../problem';
import { veiledOutside } from '../work/processes';
import { lookFirst, lookedAt, veilsOf } from './lettering';

/**
 * Keeps a picture, or a series, once more with what is veiled masked for good: in the same visit, on its bench, at the
 * same places. The one it was made of stays as it is until somebody deletes it. Asked twice with one key it is one.
 */
export async function keepVeiledCopy(
  caller: Caller,
  pictureId: string,
  key: string
): Promise<{ pictureId: string }> {
  await demand(caller, 'bring in files', pictureId);
  const { row, view } = await inClinic(caller.clinicId, async (tx) => {
    const found = await pictureRow(tx, pictureId);
    const veils = (await veilsOf(tx, [pictureId])).get(pictureId);
    if (!veils || !masksSomething(veils))
      throw new Problem(
        'no-veil',
        'Nothing is veiled in this picture.',
        'Lay a veil over what is to go first.',
        409
      );
    if (!(await lookedAt(tx, [pictureId])).has(pictureId)) throw lookFirst(1);
    return { row: found, view: (await viewsOf(tx, [found], caller.userId))[0] };
  });
  const bytes = await veiledOutside({ clinicId: caller.clinicId, pictureId });
  const name = row.file_name.replace(/\.\w{1,5}$/, '') || (view.slot?.name ?? 'Picture');
  const brought = await bringIn(caller, {
    visitId: row.visit_id,
    trayId: null,
    slotId: null,
    fileName: `${name}, veiled.dcm`,
    body: Readable.from([bytes]),
    key
  });
  const places = placesOf(view);
  if (places.length > 0 && may(caller.role, 'link'))
    await linkToPlaces(caller, `${key}-places`, { links: [{ pictureId: brought.pictureId, places }] });
  await inClinic(caller.clinicId, (tx) =>
    writeAudit(tx, caller, 'veils laid', brought.pictureId, { patientId: row.patient_id, copyOf: pictureId })
  );
  return { pictureId: brought.pictureId };
}
