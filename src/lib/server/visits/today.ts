import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { fold } from '../../core/tray/reduce';
import type { TrayEvent } from '../../core/tray/events';
import { type PatientRow, bandOf, patientColumns } from './patients';
import type { PatientBand } from '../../core/visit/visitView';

export interface TodayAppointment {
  appointmentId: string;
  roomId: string;
  startsAt: string;
  minutes: number;
  reason: string;
  visitId: string | null;
  patient: PatientBand;
  empty: number;
  toConfirm: number;
  taken: number;
}

export interface Today {
  rooms: { roomId: string; name: string; trade: string }[];
  appointments: TodayAppointment[];
  recent: PatientBand[];
  trouble: { visitId: string; patient: string; state: string; reason: string; count: number }[];
}

/** The day that holds `now`, by room; what waits for a clinician; what is in trouble on its way out. */
export async function today(caller: Caller, now = new Date()): Promise<Today> {
  await demand(caller, 'view charts', 'today');
  return inClinic(caller.clinicId, async (tx) => {
    const rooms = await tx.sql<{ room_id: string; name: string; trade: string }>(
      'select room_id, name, trade from room order by place'
    );
    const rows = await tx.sql<
      PatientRow & {
        appointment_id: string;
        room_id: string;
        starts_at: Date;
        minutes: number;
        reason: string;
        visit_id: string | null;
      }
    >(
      `select a.appointment_id, a.room_id, a.starts_at, a.minutes, a.reason, a.visit_id, ${patientColumns}
       from appointment a join patient p using (patient_id)
       where a.starts_at >= date_trunc('day', $1::timestamptz) and a.starts_at < date_trunc('day', $1::timestamptz) + interval '1 day'
       order by a.starts_at`,
      now
    );
    const events = await tx.sql<{ visit_id: string; body: TrayEvent }>(
      `select t.visit_id, e.body from tray_event e join tray t using (tray_id)
       where t.visit_id = any($1::uuid[]) order by e.tray_id, e.seq`,
      rows.map((row) => row.visit_id).filter(Boolean)
    );
    const recent = await tx.sql<PatientRow>(
      `select ${patientColumns} from recent r join patient p using (patient_id) where r.user_id = $1
       order by r.opened_at desc limit 5`,
      caller.userId
    );
    const trouble = await tx.sql<{
      visit_id: string;
      patient: string;
      state: string;
      reason: string;
      count: string;
    }>(
      `select k.visit_id, p.given_name || ' ' || p.family_name as patient, max(d.state) as state,
              max(d.reason) as reason, count(*) as count
       from delivery d join parcel k using (parcel_id) join visit v on v.visit_id = k.visit_id join patient p using (patient_id)
       where d.state = 'failed' or (d.state = 'waiting' and d.attempts > 0)
       group by k.visit_id, p.given_name, p.family_name order by count(*) desc limit 5`
    );
    return {
      rooms: rooms.map((room) => ({ roomId: room.room_id, name: room.name, trade: room.trade })),
      appointments: rows.map((row) => {
        const tray = fold(
          events.filter((event) => event.visit_id === row.visit_id).map((event) => event.body)
        );
        const wells = Object.values(tray.wells);
        return {
          appointmentId: row.appointment_id,
          roomId: row.room_id,
          startsAt: row.starts_at.toISOString(),
          minutes: row.minutes,
          reason: row.reason,
          visitId: row.visit_id,
          patient: bandOf(row),
          empty: row.visit_id ? wells.filter((well) => well.keeper === null).length : 0,
          toConfirm: wells.filter((well) => well.keeper !== null && well.confirmedBy === null).length,
          taken: wells.reduce((sum, well) => sum + well.takes.length, tray.bench.length)
        };
      }),
      recent: recent.map(bandOf),
      trouble: trouble.map((row) => ({
        visitId: row.visit_id,
        patient: row.patient,
        state: row.state,
        reason: row.reason,
        count: Number(row.count)
      }))
    };
  });
}
