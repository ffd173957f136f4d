import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { lastStanding } from '../../core/picture/steps';
import { pictureRow, stepsOf } from './pictures';

async function append(
  tx: Tx,
  caller: Caller,
  pictureId: string,
  step: { layer: string; body: unknown; undoes: number | null; key: string }
): Promise<void> {
  const row = await pictureRow(tx, pictureId);
  await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 0))', pictureId);
  const added = await tx.one<{ seq: number }>(
    `insert into picture_step (picture_id, seq, clinic_id, layer, body, undoes, key, made_by)
     select $1, coalesce(max(seq), 0) + 1, $2, $3, $4::jsonb, $5, $6, $7 from picture_step where picture_id = $1
     on conflict (picture_id, key) do nothing returning seq`,
    pictureId,
    tx.clinicId,
    step.layer,
    step.body === null ? null : JSON.stringify(step.body),
    step.undoes,
    step.key,
    caller.userId
  );
  if (!added) return;
  await announce(tx, { topic: 'visit', id: row.visit_id });
  await writeAudit(tx, caller.name, 'picture changed', pictureId, {
    layer: step.layer.split(':')[0],
    takenBack: step.undoes !== null
  });
}

/** Keeps one step a person made. Sent twice with one key it is kept once. */
export async function addStep(
  caller: Caller,
  pictureId: string,
  step: { layer: string; body: unknown; key: string }
): Promise<void> {
  await demand(caller, 'change pictures', pictureId);
  await inClinic(caller.clinicId, (tx) => append(tx, caller, pictureId, { ...step, undoes: null }));
}

/** Takes back the last step that stands; tells which layer it was, or null when there was none. */
export async function takeBack(caller: Caller, pictureId: string, key: string): Promise<string | null> {
  await demand(caller, 'change pictures', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    await pictureRow(tx, pictureId);
    await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 0))', pictureId);
    const steps = (await stepsOf(tx, [pictureId])).get(pictureId) ?? [];
    const last = lastStanding(steps);
    if (!last) return null;
    await append(tx, caller, pictureId, { layer: last.layer, body: null, undoes: last.seq, key });
    return last.layer;
  });
}
