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

export type EventRow = StoredTrayEvent & { tray_id: string; seq: number };

export const eventsOf = (tx: Tx, trayIds: readonly string[]): Promise<EventRow[]> =>
  tx.sql(
    'select tray_id, seq, kind, version, body from tray_event where tray_id = any($1::uuid[]) order by tray_id, seq',
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
  by: { name: string; userId: string | null }
): Promise<void> {
  await tx.sql(
    `insert into tray_event (clinic_id, tray_id, seq, kind, version, body, caused_by, user_id)
     select $1, $2, $3 + n - 1, each->>'kind', (each->>'version')::int, each->'body', $5, $6
     from jsonb_array_elements($4::jsonb) with ordinality as of (each, n)`,
    tx.clinicId,
    trayId,
    from,
    JSON.stringify(events.map(storedTrayEvent)),
    by.name,
    by.userId
  );
}

/** Notes where takes lie now, up to an event of their tray. */
export async function putStanding(
  tx: Tx,
  tray: { trayId: string; visitId: string; seq: number },
  all: readonly Standing[]
): Promise<void> {
  await tx.sql(
    `insert into standing (clinic_id, picture_id, visit_id, tray_id, slot_id, pattern_id, pattern_version, keeper, confirmed, place_keys)
     select $1, (s->>'takeId')::uuid, $2, $3, s->>'slotId', (s->'pattern'->>'id')::uuid, (s->'pattern'->>'version')::int,
       (s->>'keeper')::boolean, (s->>'confirmed')::boolean, array(select jsonb_array_elements_text(s->'placeKeys'))
     from jsonb_array_elements($4::jsonb) s
     on conflict (clinic_id, picture_id) do update set tray_id = excluded.tray_id, slot_id = excluded.slot_id,
       pattern_id = excluded.pattern_id, pattern_version = excluded.pattern_version,
       keeper = excluded.keeper, confirmed = excluded.confirmed, place_keys = excluded.place_keys`,
    tx.clinicId,
    tray.visitId,
    tray.trayId,
    JSON.stringify(all)
  );
  await tx.sql('update tray set standing_seq = $2 where tray_id = $1', tray.trayId, tray.seq);
}

/** Trays whose takes were noted before their newest event: after a change of what is noted, or from before it was. */
export const traysBehind = (tx: Tx): Promise<TrayRow[]> =>
  tx.sql(
    `select ${columns} from tray t where standing_seq < (select coalesce(max(seq), 0) from tray_event e where e.tray_id = t.tray_id)`
  );
