import type { Tx } from '../database/connection';
import type { PictureRow } from './queries';

export interface AwayRow {
  away_id: string;
  picture_id: string;
  went_to: 'bin' | 'arrivals';
  patient_id: string;
  visit_id: string;
  tray_id: string | null;
  slot_id: string | null;
  at: Date;
  by: string;
  reason: string;
  back_at: Date | null;
  back_by: string | null;
  removed_at: Date | null;
  /** When it is removed for good. */
  until: Date;
}

const columns = `a.away_id, a.picture_id, a.went_to, a.patient_id, a.visit_id, a.tray_id, a.slot_id, a.at, u.display_name as by,
  a.reason, a.back_at, w.display_name as back_by, a.removed_at, a.at + make_interval(days => c.bin_days) as until
  from picture_away a join user_account u on u.user_id = a.taken_by left join user_account w on w.user_id = a.back_by
  join clinic c on c.clinic_id = a.clinic_id`;

/** Where pictures that are away now were before. */
export const awayOf = (tx: Tx, pictureIds: readonly string[]): Promise<AwayRow[]> =>
  tx.sql(
    `select ${columns} where a.clinic_id = $1 and a.picture_id = any($2::uuid[]) and a.back_at is null and a.removed_at is null
     order by a.picture_id`,
    tx.clinicId,
    pictureIds
  );

/** What lies in the bin of a patient's chart, what was deleted last first. */
export const binRows = (tx: Tx, patientId: string, limit: number): Promise<AwayRow[]> =>
  tx.sql(
    `select ${columns} join picture p on p.clinic_id = a.clinic_id and p.picture_id = a.picture_id
     where a.clinic_id = $1 and p.patient_id = $2 and p.away = 'bin' and a.back_at is null and a.removed_at is null
     order by a.at desc, a.away_id desc limit $3`,
    tx.clinicId,
    patientId,
    limit
  );

/** How many pictures lie in a patient's bin, and for how many days they are kept there. */
export async function binCount(tx: Tx, patientId: string): Promise<{ count: number; days: number }> {
  const row = await tx.one<{ count: number; days: number }>(
    `select count(p.picture_id)::int as count, c.bin_days as days from clinic c left join picture p
       on p.clinic_id = c.clinic_id and p.patient_id = $2 and p.away = 'bin' where c.clinic_id = $1 group by c.bin_days`,
    tx.clinicId,
    patientId
  );
  return row!;
}

/** What was taken out of a chart to the sorting desk, the newest first: also from charts that lie in it now. */
export const sentToDesk = (tx: Tx, patientId: string, limit: number): Promise<AwayRow[]> =>
  tx.sql(
    `select ${columns} where a.clinic_id = $1 and a.went_to = 'arrivals' and a.patient_id in (
       select patient_id from patient where clinic_id = $1 and (patient_id = $2 or joined_into = $2))
     order by a.at desc limit $3`,
    tx.clinicId,
    patientId,
    limit
  );

export const insertAway = (
  tx: Tx,
  awayId: string,
  row: PictureRow,
  to: 'bin' | 'arrivals',
  userId: string,
  reason: string
): Promise<unknown> =>
  tx.sql(
    `insert into picture_away (clinic_id, away_id, picture_id, went_to, patient_id, visit_id, tray_id, slot_id, taken_by, reason)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    tx.clinicId,
    awayId,
    row.picture_id,
    to,
    row.patient_id,
    row.visit_id,
    row.tray_id,
    row.slot_id,
    userId,
    reason
  );

export const markBack = (tx: Tx, awayIds: readonly string[], userId: string): Promise<unknown> =>
  tx.sql(
    'update picture_away set back_at = now(), back_by = $2 where away_id = any($1::uuid[])',
    awayIds,
    userId
  );
