import { type StoredTrayEvent, type TrayEvent, storedTrayEvent } from '../../core/tray/events/all';
import type { Standing } from '../../core/tray/standing';
import type { Tx } from '../database/connection';

export interface TrayRow {
  tray_id: string;
  visit_id: string;
  number: number;
  standing_seq: number;
}

const columns = 'tray_id, visit_id, number, standing_seq';

export const traysOf = (tx: Tx, visitIds: readonly string[]): Promise<TrayRow[]> =>
  tx.sql(`select ${columns} from tray where visit_id = any($1::uuid[]) order by visit_id, number`, visitIds);

/** `hold` keeps others from adding events until the transaction ends. */
export const trayRow = (tx: Tx, trayId: string, hold: boolean): Promise<TrayRow | undefined> =>
  tx.one(`select ${columns} from tray where tray_id = $1 ${hold ? 'for update' : ''}`, trayId);

export type EventRow = StoredTrayEvent & {
  tray_id: string;
  seq: number;
  user_id?: string | null;
  /** What somebody did in one go has one mark, on every tray that it touched. */
  act?: string | null;
};

export const eventsOf = (tx: Tx, trayIds: readonly string[]): Promise<EventRow[]> =>
  tx.sql(
    'select tray_id, seq, kind, version, body, user_id, act from tray_event where tray_id = any($1::uuid[]) order by tray_id, seq',
    trayIds
  );

/** @returns the tray's number in its visit */
export async function insertTray(tx: Tx, trayId: string, visitId: string): Promise<number> {
  await tx.sql('select 1 from visit where visit_id = $1 for update', visitId);
  const row = await tx.one<{ number: number }>(
    `insert into tray (tray_id, clinic_id, visit_id, number)
     select $1, $2, $3, coalesce(max(number), 0) + 1 from tray where visit_id = $3 returning number`,
    trayId,
    tx.clinicId,
    visitId
  );
  return row!.number;
}

/** @param from the number of the first of them */
export async function insertEvents(
  tx: Tx,
  trayId: string,
  from: number,
  events: readonly TrayEvent[],
  by: { name: string; userId: string | null },
  act: string | null = null
): Promise<void> {
  await tx.sql(
    `insert into tray_event (clinic_id, tray_id, seq, kind, version, body, caused_by, user_id, act)
     select $1, $2, $3 + n - 1, each->>'kind', (each->>'version')::int, each->'body', $5, $6, $7
     from jsonb_array_elements($4::jsonb) with ordinality as of (each, n)`,
    tx.clinicId,
    trayId,
    from,
    JSON.stringify(events.map(storedTrayEvent)),
    by.name,
    by.userId,
    act
  );
}

/** Notes where takes lie now, up to an event of their tray. */
export async function putStanding(
  tx: Tx,
  tray: { trayId: string; visitId: string; seq: number },
  all: readonly Standing[]
): Promise<void> {
  await tx.sql(
    'select put_standing($1::uuid, $2::uuid, $3::int, $4::jsonb)',
    tray.visitId,
    tray.trayId,
    tray.seq,
    JSON.stringify(all)
  );
}

/** Trays whose takes were noted before their newest event: after a change of what is noted, or from before it was. */
export const traysBehind = (tx: Tx): Promise<TrayRow[]> =>
  tx.sql(
    `select ${columns} from tray t where standing_seq < (select coalesce(max(seq), 0) from tray_event e where e.tray_id = t.tray_id)`
  );

/** The trays on which one act did something. */
export async function actOnTrays(tx: Tx, act: string): Promise<string[]> {
  const rows = await tx.sql<{ tray_id: string }>(
    'select distinct tray_id from tray_event where clinic_id = $1 and act = $2',
    tx.clinicId,
    act
  );
  return rows.map((row) => row.tray_id);
}
