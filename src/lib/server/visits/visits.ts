import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId, newUid } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { picturesOfVisit, viewsOf } from '../pictures/pictures';
import { addToTray, makeTray, trayOfVisit } from '../trays/trays';
import { fourBitewings } from '../../core/tray/fourBitewings';
import type { DeliveryView, DeviceView, VisitView } from '../../core/visit/visitView';
import { bandOf, patientColumns, type PatientRow } from './patients';

export interface VisitHead extends PatientRow {
  visit_id: string;
  room_id: string;
  room_name: string;
  trade: string;
  opened_at: Date;
  study_uid: string;
  series_uid: string;
  accession: string;
}

export async function visitHead(tx: Tx, visitId: string): Promise<VisitHead> {
  if (!z.uuid().safeParse(visitId).success) throw notFound('This visit');
  const row = await tx.one<VisitHead>(
    `select v.visit_id, v.room_id, v.opened_at, v.study_uid, v.series_uid, v.accession,
            r.name as room_name, r.trade, ${patientColumns}
     from visit v join patient p using (patient_id) join room r on r.room_id = v.room_id where visit_id = $1`,
    visitId
  );
  if (!row) throw notFound('This visit');
  return row;
}

/** A device that has not been heard of for this long is absent, whatever it said last. */
const silentSeconds = 12;

async function devicesOf(tx: Tx, roomId: string, visitId: string): Promise<DeviceView[]> {
  const rows = await tx.sql<{
    device_id: string;
    name: string;
    lamp: string;
    lamp_words: string;
    silent: boolean;
    slot_id: string | null;
    armed_visit: string | null;
  }>(
    `select d.device_id, d.name, d.lamp, d.lamp_words, d.lamp_at < now() - make_interval(secs => $2) as silent,
            a.slot_id, t.visit_id as armed_visit
     from device d left join arming a using (arming_id) left join tray t using (tray_id)
     where d.room_id = $1 order by d.name`,
    roomId,
    silentSeconds
  );
  return rows.map((row) => ({
    deviceId: row.device_id,
    name: row.name,
    lamp: row.silent ? 'absent' : row.lamp,
    lampWords: row.silent ? '' : row.lamp_words,
    slotId: row.armed_visit === visitId ? row.slot_id : null,
    armedElsewhere: row.armed_visit !== null && row.armed_visit !== visitId
  }));
}

export async function deliveriesOf(tx: Tx, visitId: string): Promise<DeliveryView[]> {
  const rows = await tx.sql<{
    delivery_id: string;
    picture_id: string;
    identity: DeliveryView['identity'];
    state: DeliveryView['state'];
    attempts: number;
    reason: string;
    next_try_at: Date | null;
    delivered_at: Date | null;
    destination: string;
  }>(
    `select d.delivery_id, d.picture_id, p.identity, d.state, d.attempts, d.reason, d.next_try_at, d.delivered_at,
            dest.name as destination
     from delivery d join parcel p using (parcel_id) join destination dest using (destination_id)
     where p.visit_id = $1 order by p.made_at, d.delivery_id`,
    visitId
  );
  return rows.map((row) => ({
    deliveryId: row.delivery_id,
    pictureId: row.picture_id,
    identity: row.identity,
    state: row.state,
    attempts: row.attempts,
    reason: row.reason,
    nextTryAt: row.next_try_at?.toISOString() ?? null,
    deliveredAt: row.delivered_at?.toISOString() ?? null,
    destination: row.destination
  }));
}

export async function visitView(caller: Caller, visitId: string): Promise<VisitView> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const head = await visitHead(tx, visitId);
    const { tray } = await trayOfVisit(tx, visitId);
    const pictures = await viewsOf(tx, await picturesOfVisit(tx, visitId), tray);
    return {
      visitId,
      room: head.room_name,
      trade: head.trade,
      openedAt: head.opened_at.toISOString(),
      patient: bandOf(head),
      tray,
      pictures,
      devices: await devicesOf(tx, head.room_id, visitId),
      deliveries: await deliveriesOf(tx, visitId)
    };
  });
}

async function createVisit(tx: Tx, patientId: string, roomId: string, at: Date, by: string): Promise<string> {
  const room = await tx.one<{ trade: string }>('select trade from room where room_id = $1', roomId);
  if (!room) throw notFound('This room');
  const visitId = newId();
  const accession = `Q${at.toISOString().slice(2, 10).replaceAll('-', '')}-${visitId.slice(-5).toUpperCase()}`;
  await tx.sql(
    `insert into visit (visit_id, clinic_id, patient_id, room_id, opened_at, study_uid, series_uid, accession)
     values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    visitId,
    tx.clinicId,
    patientId,
    roomId,
    at,
    newUid(),
    newUid(),
    accession
  );
  await makeTray(tx, visitId);
  if (room.trade === 'teeth') {
    await addToTray(
      tx,
      await trayOfVisit(tx, visitId, true),
      [{ kind: 'tray-laid', pattern: fourBitewings }],
      by
    );
  }
  return visitId;
}

/** The visit of an appointment, opened when it is asked for the first time. */
export async function openAppointment(
  caller: Caller,
  appointmentId: string,
  now = new Date()
): Promise<string> {
  await demand(caller, 'view charts', appointmentId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await tx.one<{ patient_id: string; room_id: string; visit_id: string | null }>(
      'select patient_id, room_id, visit_id from appointment where appointment_id = $1 for update',
      appointmentId
    );
    if (!row) throw notFound('This appointment');
    if (row.visit_id) return row.visit_id;
    const visitId = await createVisit(tx, row.patient_id, row.room_id, now, caller.name);
    await tx.sql('update appointment set visit_id = $2 where appointment_id = $1', appointmentId, visitId);
    await announce(tx, { topic: 'today', id: visitId });
    await writeAudit(tx, caller.name, 'visit opened', visitId, { patient: row.patient_id });
    return visitId;
  });
}

/** A visit without an appointment, in a room. One that is open today for this patient and room is used again. */
export async function openVisit(
  caller: Caller,
  patientId: string,
  roomId: string,
  now = new Date()
): Promise<string> {
  await demand(caller, 'acquire', patientId);
  return inClinic(caller.clinicId, async (tx) => {
    const patient = await tx.one('select patient_id from patient where patient_id = $1', patientId);
    if (!patient) throw notFound('This patient');
    const open = await tx.one<{ visit_id: string }>(
      `select visit_id from visit where patient_id = $1 and room_id = $2 and opened_at::date = $3::date
       order by opened_at desc limit 1`,
      patientId,
      roomId,
      now
    );
    if (open) return open.visit_id;
    const visitId = await createVisit(tx, patientId, roomId, now, caller.name);
    await announce(tx, { topic: 'today', id: visitId });
    await writeAudit(tx, caller.name, 'visit opened', visitId, { patient: patientId });
    return visitId;
  });
}
