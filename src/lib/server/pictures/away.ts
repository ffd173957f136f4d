import { z } from 'zod';
import { wellOf } from '../../core/tray/tray';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { newId } from '../ids';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { may } from '../people/roles';
import { Problem } from '../problem';
import { type StoredTray, addToTray, heldFirstTray, heldTrays } from '../trays/trays';
import { awayOf, insertAway, markBack } from './awayQueries';
import { backToDesk } from './backToDesk';
import { announceChanged } from './changed';
import { leftAlready } from './moving';
import type { PictureRow } from './queries';
import { pictureRow } from './views';

const pictureIds = z.array(z.uuid()).min(1).max(500);
export const awayWish = z.strictObject({ pictureIds, reason: z.string().trim().min(3).max(300) });
export const returnWish = z.strictObject({ pictureIds });

/** Whom nobody could take back by pressing undo: what was taken away is brought back from where it is. */
const nobody = (caller: Caller) => ({ name: caller.name, userId: null });

/**
 * Takes pictures out of their chart, all or none, once for the key: into the chart's bin, or back to the sorting desk.
 * All that was made on them stays with them.
 * @returns how many of them have left the clinic already, under the name they had
 */
export async function takeAway(
  caller: Caller,
  key: string,
  to: 'bin' | 'arrivals',
  wish: z.infer<typeof awayWish>
): Promise<{ sent: number }> {
  const ids = [...new Set(wish.pictureIds)];
  await demand(caller, to === 'bin' ? 'delete pictures' : 'acquire', ids[0]);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const before = await rowsOf(tx, ids);
      const trays = await heldTrays(
        tx,
        before.flatMap(({ tray_id }) => tray_id ?? [])
      );
      const rows = await heldRowsOf(tx, ids);
      if (rows.some(({ tray_id }) => tray_id !== null && !trays.has(tray_id))) throw movedMeanwhile();
      for (const row of rows) demandUnconfirmed(caller, row, trays);
      for (const [trayId, tray] of trays) {
        const events = rows
          .filter(({ tray_id }) => tray_id === trayId)
          .map(({ picture_id }) => ({ kind: 'take-removed' as const, takeId: picture_id }));
        await addToTray(tx, tray, events, nobody(caller));
      }
      await tx.sql('delete from standing where picture_id = any($1::uuid[])', ids);
      await tx.sql('update picture set away = $2 where picture_id = any($1::uuid[])', ids, to);
      await stopSending(tx, ids);
      const bundleId = newId();
      for (const row of rows) {
        const awayId = newId();
        await insertAway(tx, awayId, row, to, caller.userId, wish.reason);
        if (to === 'arrivals') await backToDesk(tx, caller, awayId, bundleId, row, wish.reason);
      }
      await announce(
        tx,
        ...rows.map((row) => ({
          topic: 'picture-left' as const,
          visitId: row.visit_id,
          pictureId: row.picture_id
        }))
      );
      if (to === 'arrivals') await announce(tx, { topic: 'arrivals' });
      const sent = await leftAlready(tx, ids);
      for (const row of rows)
        await writeAudit(
          tx,
          caller,
          to === 'bin' ? 'picture deleted' : 'picture taken back to Arrivals',
          row.picture_id,
          { patientId: row.patient_id, visit: row.visit_id, reason: wish.reason }
        );
      return { sent };
    })
  );
}

/** Brings pictures back from the bin to where they lay, once for the key: into their slot if it is still there. */
export async function bringBackPictures(
  caller: Caller,
  key: string,
  wish: z.infer<typeof returnWish>
): Promise<object> {
  const ids = [...new Set(wish.pictureIds)];
  await demand(caller, 'delete pictures', ids[0]);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const rows: PictureRow[] = [];
      for (const id of ids) rows.push(await pictureRow(tx, id, 'away'));
      if (rows.some(({ away }) => away !== 'bin')) throw notInBin();
      await returnTo(tx, caller, rows);
      for (const row of rows)
        await writeAudit(tx, caller, 'picture brought back', row.picture_id, {
          patientId: row.patient_id,
          visit: row.visit_id
        });
      return {};
    })
  );
}

/**
 * Lays pictures that wait on the sorting desk back into the chart that they were taken out of, each written down.
 * @returns in which visit each lies
 */
export async function backToChart(
  tx: Tx,
  caller: Caller,
  pictureIds: readonly string[]
): Promise<Map<string, string>> {
  const rows: PictureRow[] = [];
  for (const id of pictureIds) rows.push(await pictureRow(tx, id, 'away'));
  await returnTo(tx, caller, rows);
  for (const row of rows)
    await writeAudit(tx, caller, 'picture brought back', row.picture_id, {
      patientId: row.patient_id,
      visit: row.visit_id,
      from: 'Arrivals'
    });
  return new Map(rows.map((row) => [row.picture_id, row.visit_id]));
}

/** Lays pictures where they lay before they were taken away, and says so to whoever follows their visits. */
async function returnTo(tx: Tx, caller: Caller, rows: readonly PictureRow[]): Promise<void> {
  const last = await awayOf(
    tx,
    rows.map((row) => row.picture_id)
  );
  const byTray = new Map<string | null, typeof last>();
  for (const each of last) byTray.set(each.tray_id, [...(byTray.get(each.tray_id) ?? []), each]);
  const trays = await heldTrays(
    tx,
    last.flatMap(({ tray_id }) => tray_id ?? [])
  );
  await tx.sql(
    'update picture set away = null where picture_id = any($1::uuid[])',
    rows.map((row) => row.picture_id)
  );
  for (const [trayId, list] of byTray) {
    const tray = trayId ? trays.get(trayId)! : await heldFirstTray(tx, list[0].visit_id);
    await addToTray(
      tx,
      tray,
      list.map((each) => ({
        kind: 'take-returned' as const,
        takeId: each.picture_id,
        slotId: trayId ? each.slot_id : null
      })),
      nobody(caller)
    );
  }
  await markBack(
    tx,
    last.map(({ away_id }) => away_id),
    caller.userId
  );
  await announceChanged(tx, rows);
}

async function rowsOf(tx: Tx, ids: readonly string[]): Promise<PictureRow[]> {
  const rows: PictureRow[] = [];
  for (const id of ids) rows.push(await pictureRow(tx, id));
  return rows;
}

/** The same as they are once nobody else can take them away, or has: two who delete one picture wait for one another. */
async function heldRowsOf(tx: Tx, ids: readonly string[]): Promise<PictureRow[]> {
  await tx.sql(
    'select 1 from picture where picture_id = any($1::uuid[]) order by picture_id for update',
    ids
  );
  return rowsOf(tx, ids);
}

const movedMeanwhile = () =>
  new Problem(
    'moved-meanwhile',
    'Somebody has moved one of these pictures in the meantime.',
    'Look at the chart again, and do it once more.',
    409
  );

function demandUnconfirmed(caller: Caller, row: PictureRow, trays: ReadonlyMap<string, StoredTray>): void {
  const tray = row.tray_id && trays.get(row.tray_id)?.tray;
  if (tray && wellOf(tray, row.picture_id)?.confirmed && !may(caller.role, 'confirm'))
    throw new Problem(
      'confirmed-takes',
      'A clinician has confirmed one of these pictures where it lies.',
      'Ask a clinician to take it away.',
      403
    );
}

const notInBin = () =>
  new Problem(
    'not-in-the-bin',
    'It is not in the bin any more.',
    'Somebody has brought it back, or its time was over. Load the chart again.',
    409
  );

/** What has not left yet does not leave any more. */
const stopSending = (tx: Tx, ids: readonly string[]): Promise<unknown> =>
  tx.sql(
    `update delivery set state = 'failed', next_try_at = null, reason = 'It was taken out of its chart before it left.'
     where picture_id = any($1::uuid[]) and state = 'waiting'`,
    ids
  );
