import { Op } from 'sequelize';
import { dayOf, dayRange } from '../../core/time/clinicTime';
import type { Trade } from '../../core/tray/pattern';
import { wellsAlong } from '../../core/tray/tray';
import type { PatientBand } from '../../core/visit/visitView';
import { waitingCount } from '../arrivals/queries';
import { openRooms } from '../clinics/rooms';
import { type Tx, inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { type PracticeState, practiceState } from '../practice/feed';
import { Recent } from '../people/recentModel';
import { unconfirmedReadings } from '../pictures/unconfirmed';
import { traysOfVisits } from '../trays/trays';
import { Appointment } from './appointmentModel';
import { Patient } from './patientModel';
import { bandOf } from './visitHead';

export interface DayAppointment {
  appointmentId: string;
  roomId: string;
  startsAt: string;
  minutes: number;
  reason: string;
  visitId: string | null;
  patient: PatientBand;
  empty: number;
  toConfirm: number;
  /** Readings and landmarks that wait for a clinician. */
  readings: number;
  taken: number;
  /** What stands in it and has gone nowhere yet. */
  unsent: number;
  /** Whether somebody said that the visit is done with. */
  closed: boolean;
}

export interface Today {
  /** The calendar day that is shown, YYYY-MM-DD, and the one that it is at the clinic now. */
  day: string;
  now: string;
  rooms: { roomId: string; name: string; trade: Trade }[];
  appointments: DayAppointment[];
  recent: PatientBand[];
  /** How much came in that belongs to nobody yet. */
  arrivals: { all: number; mine: number; latest: string | null };
  /** The practice system that the appointments come from, if any. */
  practice: PracticeState | null;
  trouble: { visitId: string; patient: string; state: string; reason: string; count: number }[];
}

/** A day of the clinic by room; what waits for a clinician; what is in trouble on its way out. */
export async function today(caller: Caller, asked: string | null = null, now = new Date()): Promise<Today> {
  await demand(caller, 'view charts', 'today');
  const itIs = dayOf(now, caller.timeZone);
  const day = asked ?? itIs;
  const { start, end } = dayRange(day, caller.timeZone);
  return inClinic(caller.clinicId, async (tx) => {
    const rooms = await openRooms(tx);
    const appointments = await Appointment.findAll({
      where: { startsAt: { [Op.gte]: start, [Op.lt]: end } },
      include: [{ model: Patient, as: 'patient' }],
      order: [['startsAt', 'asc']],
      ...within(tx)
    });
    const trays = await traysOfVisits(
      tx,
      appointments.flatMap((each) => each.visitId ?? [])
    );
    const readings = await unconfirmedReadings(
      tx,
      appointments.flatMap((each) => each.visitId ?? [])
    );
    const sending = await sendingOf(
      tx,
      appointments.flatMap((each) => each.visitId ?? [])
    );
    const recent = await Recent.findAll({
      where: { userId: caller.userId },
      include: [{ model: Patient, as: 'patient', where: { joinedInto: null } }],
      order: [['openedAt', 'desc']],
      limit: 5,
      ...within(tx)
    });
    const trouble = await tx.sql<{
      visit_id: string;
      patient: string;
      state: string;
      reason: string;
      count: number;
    }>(
      `select k.visit_id, trim(p.given_name || ' ' || p.family_name) as patient, max(d.state) as state,
              max(d.reason) as reason, count(*)::int as count
       from delivery d join parcel k using (parcel_id) join visit v on v.visit_id = k.visit_id join patient p using (patient_id)
       where d.state = 'failed' or (d.state = 'waiting' and d.attempts > 0)
       group by k.visit_id, p.given_name, p.family_name order by count(*) desc limit 5`
    );
    return {
      day,
      now: itIs,
      rooms: rooms.map(({ roomId, name, trade }) => ({ roomId, name, trade })),
      appointments: appointments.map((each) => {
        const ofVisit = trays.filter((tray) => tray.visitId === each.visitId).map(({ tray }) => tray);
        const wells = ofVisit.flatMap(wellsAlong);
        return {
          appointmentId: each.appointmentId,
          roomId: each.roomId,
          startsAt: each.startsAt.toISOString(),
          minutes: each.minutes,
          reason: each.reason,
          visitId: each.visitId,
          patient: bandOf(each.patient!),
          empty: wells.filter((well) => well.keeper === null).length,
          toConfirm: wells.filter((well) => well.keeper !== null && well.confirmed === null).length,
          readings: readings.get(each.visitId ?? '') ?? 0,
          taken:
            wells.reduce((sum, well) => sum + well.takes.length, 0) +
            ofVisit.reduce((sum, tray) => sum + tray.bench.length, 0),
          unsent: sending.get(each.visitId ?? '')?.unsent ?? 0,
          closed: sending.get(each.visitId ?? '')?.closed ?? false
        };
      }),
      recent: recent.map((each) => bandOf(each.patient!)),
      arrivals: await waitingCount(tx, caller.userId),
      practice: await practiceState(tx),
      trouble: trouble.map((row) => ({
        visitId: row.visit_id,
        patient: row.patient,
        state: row.state,
        reason: row.reason,
        count: row.count
      }))
    };
  });
}

/** Of visits: how much of what stands in them has gone nowhere yet, and whether they are closed. */
async function sendingOf(
  tx: Tx,
  visitIds: readonly string[]
): Promise<Map<string, { unsent: number; closed: boolean }>> {
  const rows = await tx.sql<{ visit_id: string; unsent: number; closed: boolean }>(
    `select v.visit_id, v.closed_at is not null as closed, count(p.picture_id) filter (where not exists (
         select 1 from parcel_item i join delivery d on d.parcel_id = i.parcel_id
         where i.clinic_id = p.clinic_id and i.picture_id = p.picture_id
           and (d.picture_id is null or d.picture_id = p.picture_id) and d.film is null and d.state not in ('failed', 'withdrawn')))::int as unsent
     from visit v left join picture p on p.visit_id = v.visit_id and p.away is null
       and not exists (select 1 from standing s where s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
         and s.slot_id is not null and not s.keeper)
     where v.visit_id = any($1::uuid[]) group by v.visit_id`,
    visitIds
  );
  return new Map(rows.map(({ visit_id: id, ...rest }) => [id, rest]));
}
