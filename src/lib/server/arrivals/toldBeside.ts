import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import type { Tx } from '../database/connection';
import { newId } from '../ids';
import type { Caller } from '../people/caller';
import { actWish } from '../pictures/changes';
import { appendSteps } from '../pictures/queries';
import { readStateOrReport } from '../pictures/readOnto';
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
  of: { instanceUid: string; width: number; height: number; pixelAspect?: number }
): Promise<void> {
  const rows = await tx.sql<{ told_id: string; bytes: Buffer }>(
    'select told_id, bytes from told_beside where clinic_id = $1 and $2 = any(about) order by told_id',
    tx.clinicId,
    of.instanceUid
  );
  for (const { told_id: toldId, bytes } of rows) {
    const changes = layersIn(bytes, of);
    if (changes.length === 0) continue;
    const steps = changes.map((each) => ({
      ...each,
      act: `told ${toldId}-${randomUUID()}`.slice(0, 100),
      by: caller.userId,
      undoes: null
    }));
    await appendSteps(tx, pictureId, steps);
    await noteTold(tx, pictureId, steps);
  }
}

function layersIn(bytes: Buffer, of: { width: number; height: number; pixelAspect?: number }) {
  try {
    const read = actWish.safeParse({ changes: readStateOrReport(bytes, of).layers.slice(0, 200) });
    return read.success
      ? read.data.changes.map(({ kind, item, body, version }) => ({ kind, item, body, version }))
      : [];
  } catch (error) {
    if (error instanceof Problem) return [];
    throw error;
  }
}
