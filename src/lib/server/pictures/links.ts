import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { isTooth } from '../../core/anatomy/teeth';
import { pictureRow } from './pictures';

export const linkWish = z.object({
  pictureIds: z.array(z.uuid()).min(1).max(500),
  teeth: z.array(z.number().int().refine(isTooth, 'no permanent tooth in FDI notation')).max(32)
});

/** Links pictures to exactly these teeth. Taking a link off leaves the picture where it is. */
export async function linkToTeeth(caller: Caller, wish: z.infer<typeof linkWish>): Promise<void> {
  const [first] = wish.pictureIds;
  await demand(caller, 'link', first);
  await inClinic(caller.clinicId, async (tx) => {
    for (const pictureId of wish.pictureIds) {
      const row = await pictureRow(tx, pictureId);
      await tx.sql('delete from picture_link where picture_id = $1', pictureId);
      for (const tooth of new Set(wish.teeth)) {
        await tx.sql(
          'insert into picture_link (picture_id, tooth, clinic_id, linked_by) values ($1, $2, $3, $4)',
          pictureId,
          tooth,
          tx.clinicId,
          caller.userId
        );
      }
      await announce(tx, { topic: 'visit', id: row.visit_id });
    }
    await writeAudit(tx, caller.name, 'linked to teeth', first, {
      pictures: wish.pictureIds.length,
      teeth: wish.teeth
    });
  });
}
