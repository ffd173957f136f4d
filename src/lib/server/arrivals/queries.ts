import type { ArrivalSource } from '../../core/arrivals/arrivalView';
import type { Tx } from '../database/connection';

export interface ArrivalRow {
  arrival_id: string;
  source: ArrivalSource;
  from_name: string;
  room_id: string | null;
  room: string | null;
  user_id: string | null;
  original_sha256: Buffer;
  file_name: string;
  title: string;
  remark: string;
  about: unknown;
  reason: string;
  taken_at: Date;
  arrived_at: Date;
  given_to: string | null;
  put_away_at: Date | null;
}

const columns = `a.arrival_id, a.source, a.from_name, a.room_id, r.name as room, a.user_id, a.original_sha256, a.file_name, a.title,
  a.remark, a.about, a.reason, a.taken_at, a.arrived_at, a.given_to, a.put_away_at
  from arrival a left join room r using (room_id)`;

export const waitingRows = (tx: Tx, limit: number): Promise<ArrivalRow[]> =>
  tx.sql(
    `select ${columns} where a.clinic_id = $1 and a.given_to is null order by a.put_away_at is not null, a.arrived_at desc
     limit $2`,
    tx.clinicId,
    limit
  );

export const arrivalRow = (tx: Tx, arrivalId: string, hold = false): Promise<ArrivalRow | undefined> =>
  tx.one(`select ${columns} where a.arrival_id = $1 ${hold ? 'for update of a' : ''}`, arrivalId);

export async function waitingCount(tx: Tx): Promise<number> {
  const row = await tx.one<{ count: number }>(
    'select count(*)::int as count from arrival where clinic_id = $1 and given_to is null and put_away_at is null',
    tx.clinicId
  );
  return row!.count;
}

export async function insertArrival(
  tx: Tx,
  row: Omit<ArrivalRow, 'room' | 'arrived_at' | 'given_to' | 'put_away_at'> & { key: string }
): Promise<void> {
  await tx.sql(
    `insert into arrival (clinic_id, arrival_id, source, from_name, room_id, user_id, original_sha256, file_name, title, remark,
       about, reason, taken_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11::jsonb, $12, $13)`,
    tx.clinicId,
    row.arrival_id,
    row.source,
    row.from_name,
    row.room_id,
    row.user_id,
    row.original_sha256,
    row.file_name,
    row.title,
    row.remark,
    JSON.stringify(row.about),
    row.reason,
    row.taken_at
  );
  await tx.sql(
    'insert into arrival_key (clinic_id, key, picture_id) values ($1, $2, $3)',
    tx.clinicId,
    row.key,
    row.arrival_id
  );
}

export const shownOf = (tx: Tx, arrivalId: string): Promise<{ shown: Buffer | null } | undefined> =>
  tx.one('select shown from arrival where arrival_id = $1', arrivalId);

export const putShown = (tx: Tx, arrivalId: string, webp: Uint8Array): Promise<unknown> =>
  tx.sql('update arrival set shown = $2 where arrival_id = $1', arrivalId, Buffer.from(webp));

export const markGiven = (tx: Tx, arrivalId: string, visitId: string): Promise<unknown> =>
  tx.sql('update arrival set given_to = $2, put_away_at = null where arrival_id = $1', arrivalId, visitId);

export const markPutAway = (tx: Tx, arrivalId: string, away: boolean): Promise<unknown> =>
  tx.sql(
    'update arrival set put_away_at = case when $2::boolean then now() end where arrival_id = $1',
    arrivalId,
    away
  );
