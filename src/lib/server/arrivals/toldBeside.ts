import fs from 'node:fs';
import { layerKindOf } from '../../core/picture/layers/all';
import type { Size } from '../../core/raster/orientation';
import { type Tx, inClinic } from '../database/connection';
import { putAwayDays } from './forgetting';
import { newId } from '../ids';
import type { Caller } from '../people/caller';
import type { ActWish } from '../pictures/changes';
import { appendSteps } from '../pictures/queries';
import { toldIn } from '../pictures/readOnto';
import { noteTold } from '../pictures/told';
import { Problem } from '../problem';

/** Keeps a presentation state or a report until its picture is given. @returns false where it is here already */
export async function keepTold(
  tx: Tx,
  intakeId: string,
  { instanceUid, about }: { instanceUid: string; about: readonly string[] },
  file: string
): Promise<boolean> {
  const kept = await tx.sql(
    `insert into told_beside (clinic_id, told_id, intake_id, instance_uid, about, bytes) values ($1, $2, $3, $4, $5, $6)
     on conflict (clinic_id, instance_uid) do nothing returning told_id`,
    tx.clinicId,
    newId(),
    intakeId,
    instanceUid,
    about,
    await fs.promises.readFile(file)
  );
  return kept.length > 0;
}

/** Puts what came along with a picture onto it, now that it has a chart: how it was seen, what was drawn and measured. */
export async function takeTold(
  tx: Tx,
  caller: Caller,
  pictureId: string,
  of: Size & { instanceUid: string }
): Promise<void> {
  const rows = await tx.sql<{ told_id: string; bytes: Buffer }>(
    'select told_id, bytes from told_beside where clinic_id = $1 and $2 = any(about) order by told_id',
    tx.clinicId,
    of.instanceUid
  );
  for (const { told_id: toldId, bytes } of rows) {
    const steps = changesIn(bytes, of).map(({ kind, item, body, version }) => ({
      kind,
      item,
      body,
      version,
      act: `told ${toldId}`,
      by: caller.userId,
      undoes: null
    }));
    if (steps.length === 0) continue;
    await appendSteps(tx, pictureId, steps);
    await noteTold(tx, pictureId, steps);
  }
}

/** What it changes of a picture; nothing that only some may make, whoever gives the picture. */
function changesIn(bytes: Buffer, of: Size): ActWish['changes'] {
  try {
    return toldIn(bytes, of)
      .changes()
      .filter(({ kind }) => layerKindOf(kind).right === undefined);
  } catch (error) {
    if (error instanceof Problem) return [];
    throw error;
  }
}

/** What waited for a picture that never came goes with what was put away on the desk as long ago. */
export const forgetTold = (clinicId: string): Promise<unknown> =>
  inClinic(clinicId, async (tx) =>
    tx.sql(
      `delete from told_beside t where t.clinic_id = $1 and t.at < now() - make_interval(days => $2)
         and not exists (select 1 from arrival a where a.clinic_id = t.clinic_id and a.given_to is null
           and a.about->'origin'->>'instanceUid' = any(t.about))`,
      tx.clinicId,
      await putAwayDays(tx)
    )
  );
