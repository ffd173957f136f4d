import { z } from 'zod';
import type { NearVisit } from '../../core/arrivals/arrivalView';
import type { ListedVisit } from '../../core/visit/chartView';
import type { Trade } from '../../core/tray/pattern';
import { dayOf, dayRange } from '../../core/time/clinicTime';
import { noteLook } from '../audit/looks';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';

interface Row {
  visit_id: string;
  opened_at: Date;
  name: string;
  trade: Trade;
  reason: string | null;
  count: number;
}

/** A patient's visits, the newest first. */
export async function visitsOf(tx: Tx, patientId: string): Promise<ListedVisit[]> {
  const rows = await tx.sql<Row>(
    `select v.visit_id, v.opened_at, r.name, r.trade,
       coalesce(
         (select s.body #>> '{}' from visit_story s where s.visit_id = v.visit_id and s.part = 'reason' order by s.seq desc limit 1),
         (select a.reason from appointment a where a.visit_id = v.visit_id limit 1)) as reason,
       (select count(*)::int from picture p where p.visit_id = v.visit_id and p.away is null) as count
     from visit v join room r using (room_id) where v.clinic_id = $1 and v.patient_id = $2 order by v.opened_at desc`,
    tx.clinicId,
    patientId
  );
  return rows.map((row) => ({
    visitId: row.visit_id,
    openedAt: row.opened_at.toISOString(),
    room: row.name,
    trade: row.trade,
    reason: row.reason ?? '',
    pictureCount: row.count
  }));
}

export async function visitsSeen(caller: Caller, patientId: string): Promise<ListedVisit[]> {
  await demand(caller, 'view charts', patientId);
  return inClinic(caller.clinicId, async (tx) => {
    const known =
      z.uuid().safeParse(patientId).success &&
      (await tx.one('select 1 from patient where patient_id = $1', patientId));
    if (!known) throw notFound('This patient');
    noteLook(caller, 'chart viewed', patientId, { patientId });
    return visitsOf(tx, patientId);
  });
}

/** The visits of a room on the day of a moment, the one opened last before it first. */
export async function visitsAround(tx: Tx, roomId: string, at: Date, timeZone: string): Promise<NearVisit[]> {
  const { start, end } = dayRange(dayOf(at, timeZone), timeZone);
  const rows = await tx.sql<{
    visit_id: string;
    opened_at: Date;
    patient_id: string;
    patient: string;
    record_number: string;
  }>(
    `select v.visit_id, v.opened_at, p.patient_id, p.record_number,
       trim(case when p.kind = 'animal' then p.given_name else p.given_name || ' ' || p.family_name end) as patient
     from visit v join patient p using (patient_id)
     where v.clinic_id = $1 and v.room_id = $2 and v.opened_at >= $3 and v.opened_at < $4
     order by v.opened_at > $5, abs(extract(epoch from v.opened_at - $5)) limit 6`,
    tx.clinicId,
    roomId,
    start,
    end,
    at
  );
  return rows.map((row) => ({
    visitId: row.visit_id,
    openedAt: row.opened_at.toISOString(),
    patientId: row.patient_id,
    patient: row.patient,
    recordNumber: row.record_number
  }));
}
