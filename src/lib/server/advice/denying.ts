import { z } from 'zod';
import { adviceKinds } from '../../core/raster/advice/adviceKind';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { pictureRow } from '../pictures/views';

export const denyWish = z.strictObject({
  kind: z.enum(adviceKinds),
  /** False takes the denial back. */
  denied: z.boolean()
});

/** A person says that what the computer saw is not so, or takes that back. Counted, and shown under their name. */
export async function denyAdvice(
  caller: Caller,
  pictureId: string,
  key: string,
  { kind, denied }: z.infer<typeof denyWish>
): Promise<object> {
  await demand(caller, 'acquire', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await pictureRow(tx, pictureId);
    return once(tx, caller.userId, key, async () => {
      await tx.sql(
        denied
          ? `insert into advice_denied (clinic_id, picture_id, kind, user_id) values ($1, $2, $3, $4)
             on conflict (clinic_id, picture_id, kind) do nothing`
          : 'delete from advice_denied where clinic_id = $1 and picture_id = $2 and kind = $3 and $4::uuid is not null',
        tx.clinicId,
        pictureId,
        kind,
        caller.userId
      );
      await announce(tx, { topic: 'picture', visitId: row.visit_id, pictureId, view: null });
      await writeAudit(tx, caller, 'advice answered', pictureId, { patientId: row.patient_id, kind, denied });
      return {};
    });
  });
}
