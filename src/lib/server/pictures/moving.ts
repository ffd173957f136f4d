import { z } from 'zod';
import { wellOf } from '../../core/tray/tray';
import type { MovedPicture } from '../../core/visit/chartView';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { may } from '../people/roles';
import { Problem, notFound } from '../problem';
import { type StoredTray, addToTray, heldFirstTray, heldTrays } from '../trays/trays';
import { visitHead } from '../visits/visitHead';
import { numberPicture } from './store';
import { pictureRow } from './views';

export const moveWish = z.strictObject({
  visitId: z.uuid(),
  reason: z.string().trim().min(3).max(300)
});

/**
 * Moves a picture that was filed to a wrong patient or visit to another one's bench, with all that was made on it. Both
 * charts show it, with the reason. Links to places go with it only within one chart.
 * @returns what has left the clinic already under the old name, in words
 */
export async function movePicture(
  caller: Caller,
  pictureId: string,
  key: string,
  { visitId, reason }: z.infer<typeof moveWish>
): Promise<{ sent: number }> {
  await demand(caller, 'acquire', pictureId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await pictureRow(tx, pictureId);
      const to = await visitHead(tx, visitId);
      const { patientId } = to.patient;
      if (row.visit_id === visitId) {
        throw new Problem('same-visit', 'It lies in this visit already.', 'Choose another visit.', 409);
      }
      const [from, target] = await heldInOrder(tx, row.tray_id, visitId);
      if (from && wellOf(from.tray, pictureId)?.confirmed && !may(caller.role, 'confirm')) {
        throw new Problem(
          'confirmed-takes',
          'A clinician has confirmed this picture where it lies.',
          'Ask a clinician to move it.',
          403
        );
      }
      // Nobody's own act on either tray: it is moved back by moving it back, with a reason.
      const by = { name: caller.name, userId: null };
      if (from)
        await addToTray(tx, from, [{ kind: 'take-handed-on', takeId: pictureId, toTray: target.trayId }], by);
      await tx.sql('delete from standing where picture_id = $1', pictureId);
      await tx.sql(
        'update picture set visit_id = $2, patient_id = $3 where picture_id = $1',
        pictureId,
        visitId,
        patientId
      );
      if (patientId !== row.patient_id) await unlink(tx, pictureId);
      await numberPicture(tx, pictureId, visitId);
      await addToTray(
        tx,
        target,
        [{ kind: 'take-added', takeId: pictureId, slotId: null, exposed: false }],
        by
      );
      await noteMove(tx, caller, pictureId, row, { patientId, visitId, reason });
      await announce(
        tx,
        { topic: 'picture', visitId, pictureId, view: null },
        { topic: 'picture-left', visitId: row.visit_id, pictureId }
      );
      const sent = await leftAlready(tx, [pictureId]);
      for (const patient of new Set([row.patient_id, patientId]))
        await writeAudit(tx, caller, 'picture moved', pictureId, {
          patientId: patient,
          from: row.visit_id,
          to: visitId,
          reason
        });
      return { sent };
    })
  );
}

/** That a picture was moved is known for ever, of both charts. */
export const noteMove = (
  tx: Tx,
  caller: Caller,
  pictureId: string,
  from: { patient_id: string; visit_id: string },
  to: { patientId: string; visitId: string; reason: string }
): Promise<unknown> =>
  tx.sql(
    `insert into picture_move (clinic_id, picture_id, from_patient, from_visit, to_patient, to_visit, moved_by, reason)
     values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    tx.clinicId,
    pictureId,
    from.patient_id,
    from.visit_id,
    to.patientId,
    to.visitId,
    caller.userId,
    to.reason
  );

/** What it was linked to in another chart says nothing here. */
export async function unlink(tx: Tx, pictureId: string): Promise<void> {
  await tx.sql('delete from picture_place where picture_id = $1', pictureId);
  await tx.sql('update picture set placed = false where picture_id = $1', pictureId);
}

/** Two trays, held in one order whoever asks, so that two who move pictures against one another don't wait for ever. */
async function heldInOrder(
  tx: Tx,
  fromTray: string | null,
  toVisit: string
): Promise<[StoredTray | null, StoredTray]> {
  const to = await tx.one<{ tray_id: string }>(
    'select tray_id from tray where visit_id = $1 order by number limit 1',
    toVisit
  );
  if (!to) throw notFound('This visit');
  if (fromTray === null) return [null, await heldFirstTray(tx, toVisit)];
  const held = await heldTrays(tx, [fromTray, to.tray_id]);
  return [held.get(fromTray)!, held.get(to.tray_id)!];
}

/** How many of some pictures have left the clinic already, or are about to. */
export async function leftAlready(tx: Tx, pictureIds: readonly string[]): Promise<number> {
  const row = await tx.one<{ count: number }>(
    `select count(distinct picture_id)::int as count from delivery
     where picture_id = any($1::uuid[]) and state in ('sending', 'delivered')`,
    pictureIds
  );
  return row!.count;
}

/** Pictures that left a chart or came into it, the newest first; those of charts that lie in it now too. */
export async function movesOf(tx: Tx, patientId: string): Promise<MovedPicture[]> {
  const rows = await tx.sql<{
    picture_id: string;
    at: Date;
    by: string;
    reason: string;
    from_here: boolean;
    to_here: boolean;
    other_id: string;
    other: string;
    record_number: string;
  }>(
    `select m.picture_id, m.at, u.display_name as by, m.reason, m.from_patient = any(own.ids) as from_here,
       m.to_patient = any(own.ids) as to_here, o.patient_id as other_id,
       trim(o.given_name || ' ' || o.family_name) as other, o.record_number
     from (select array(select patient_id from patient where clinic_id = $1 and (patient_id = $2 or joined_into = $2)) as ids) own
     cross join picture_move m join user_account u on u.user_id = m.moved_by
     join patient o on o.patient_id = case when m.from_patient = any(own.ids) then m.to_patient else m.from_patient end
     where m.clinic_id = $1 and (m.from_patient = any(own.ids) or m.to_patient = any(own.ids)) order by m.at desc limit 50`,
    tx.clinicId,
    patientId
  );
  return rows.map((row) => ({
    pictureId: row.picture_id,
    at: row.at.toISOString(),
    by: row.by,
    reason: row.reason,
    what: row.from_here && row.to_here ? 'within' : row.from_here ? 'left' : 'came',
    patientId: row.other_id,
    patient: row.other,
    recordNumber: row.record_number
  }));
}
