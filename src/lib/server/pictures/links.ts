import { z } from 'zod';
import { type Place, placeKey, placeSchema } from '../../core/anatomy/place';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { announceChanged } from './changed';
import { PictureLink } from './linkModel';
import type { PictureRow } from './queries';
import { pictureRow } from './views';

const places = z.array(placeSchema).max(64);

/** Pictures, each with the places it is to be linked to from now on. */
export const linkWish = z.strictObject({
  links: z
    .array(z.strictObject({ pictureId: z.uuid(), places }))
    .min(1)
    .max(500)
});

const eachOnce = (all: readonly Place[]): Place[] => [
  ...new Map(all.map((place) => [placeKey(place), place])).values()
];

/** Links pictures to exactly these places, in one act. Taking a link off leaves the picture where it is. */
export async function linkToPlaces(
  caller: Caller,
  key: string,
  wish: z.infer<typeof linkWish>
): Promise<object> {
  await demand(caller, 'link', wish.links[0].pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    const rows: PictureRow[] = [];
    for (const { pictureId } of wish.links) rows.push(await pictureRow(tx, pictureId));
    return once(tx, caller.userId, key, async () => {
      for (const { pictureId, places: wanted } of wish.links) {
        await tx.sql('update picture set placed = true where picture_id = $1', pictureId);
        await PictureLink.destroy({ where: { pictureId }, ...within(tx) });
        await PictureLink.bulkCreate(
          eachOnce(wanted).map((place) => ({
            clinicId: tx.clinicId,
            pictureId,
            placeKey: placeKey(place),
            place,
            linkedBy: caller.userId
          })),
          within(tx)
        );
      }
      await announceChanged(tx, rows);
      await writeAudit(tx, caller, 'linked to places', wish.links[0].pictureId, {
        patientId: rows[0]?.patient_id ?? null,
        pictures: wish.links.length,
        places: eachOnce(wish.links.flatMap((each) => each.places))
          .map(placeKey)
          .join(', ')
          .slice(0, 200)
      });
      return {};
    });
  });
}
