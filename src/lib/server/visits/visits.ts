import { Op } from 'sequelize';
import { z } from 'zod';
import { dayOf, dayRange } from '../../core/time/clinicTime';
import { type Likelihood, likelihoodOf } from '../../core/tray/likely';
import { pedalSchema } from '../../core/visit/pedal';
import { type Tray, wellsAlong } from '../../core/tray/tray';
import type { VisitView } from '../../core/visit/visitView';
import { once } from '../acts/once';
import { toldOf } from '../practice/telling';
import { noteLook } from '../audit/looks';
import { type By, writeAudit } from '../audit/write';
import { Room } from '../clinics/roomModel';
import { type Tx, inClinic, within } from '../database/connection';
import { habitOf, habitualPattern } from '../devices/habits';
import { devicesOfRoom } from '../devices/queries';
import { newId, newUid } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { User } from '../people/userModel';
import { picturesOfVisit } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { notFound } from '../problem';
import { type PatternChoice, patternChoices } from '../trays/patterns';
import { type Actor, makeTray, trayView, traysOfVisits } from '../trays/trays';
import { Appointment } from './appointmentModel';
import { beginTray } from './beginning';
import { deliveriesOf } from './deliveryViews';
import { standing } from './joining';
import { Patient } from './patientModel';
import { storyOf } from './story';
import { bandOf, visitHead } from './visitHead';
import { Visit } from './visitModel';

/** Names of those who confirmed something on a visit's trays. */
async function peopleOf(tx: Tx, trays: readonly Tray[]): Promise<Record<string, string>> {
  const ids = trays.flatMap(wellsAlong).flatMap((well) => well.confirmed?.by ?? []);
  if (ids.length === 0) return {};
  const users = await User.findAll({ where: { userId: [...new Set(ids)] }, ...within(tx) });
  return Object.fromEntries(users.map((user) => [user.userId, user.displayName]));
}

export async function visitView(caller: Caller, visitId: string): Promise<VisitView> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const { visit, patient, room } = await visitHead(tx, visitId);
    const trays = await traysOfVisits(tx, [visitId]);
    noteLook(caller, 'visit viewed', visitId, { patientId: patient.patientId });
    return {
      visitId,
      roomId: room.roomId,
      room: room.name,
      trade: room.trade,
      openedAt: visit.openedAt.toISOString(),
      closedAt: visit.closedAt?.toISOString() ?? null,
      reason: await reasonOf(tx, visitId),
      story: await storyOf(tx, visitId),
      pedal: pedalSchema.parse(room.pedal),
      habit: await habitOf(tx, caller.userId, room.roomId),
      patient: bandOf(patient),
      trays: trays.map(trayView),
      pictures: await viewsOf(tx, await picturesOfVisit(tx, visitId), caller.userId),
      devices: await devicesOfRoom(tx, room.roomId),
      deliveries: await deliveriesOf(tx, visitId),
      told: await toldOf(tx, visitId),
      people: await peopleOf(
        tx,
        trays.map((each) => each.tray)
      )
    };
  });
}

/** What is on its way of a visit. */
export async function deliveriesSeen(
  caller: Caller,
  visitId: string
): Promise<Pick<VisitView, 'deliveries' | 'told'>> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    return { deliveries: await deliveriesOf(tx, visitId), told: await toldOf(tx, visitId) };
  });
}

/** A pattern, and how likely it is what this visit wants. */
export type OfferedPattern = PatternChoice & { likelihood: Likelihood };

const ranks: readonly Likelihood[] = ['fitting', 'near', 'other', 'foreign'];

/** The patterns that can be laid on a visit's tray, the likeliest first. */
export async function patternsFor(caller: Caller, visitId: string): Promise<OfferedPattern[]> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const { room, patient } = await visitHead(tx, visitId);
    const reason = await reasonOf(tx, visitId);
    const habit = await habitualPattern(tx, caller.userId, room.roomId);
    const asked = { reason, trade: room.trade, patient };
    return (await patternChoices(tx, room.trade, caller.userId))
      .map((each): OfferedPattern => {
        const likelihood = likelihoodOf(each.name, asked);
        const usual = each.pattern.id === room.usualPattern || each.pattern.id === habit;
        return { ...each, likelihood: usual && likelihood === 'other' ? 'near' : likelihood };
      })
      .sort((a, b) => ranks.indexOf(a.likelihood) - ranks.indexOf(b.likelihood));
  });
}

/** Why the patient comes, in the words of the appointment; empty where there was none. */
async function reasonOf(tx: Tx, visitId: string): Promise<string> {
  const appointment = await Appointment.findOne({ where: { visitId }, ...within(tx) });
  return appointment?.reason ?? '';
}

async function createVisit(
  tx: Tx,
  wish: { patient: Patient; room: Room; at: Date; reason: string; trayEmpty?: boolean },
  by: Caller & Actor & By
): Promise<string> {
  const { patient, room, at, reason, trayEmpty = false } = wish;
  const { patientId } = patient;
  const { timeZone } = by;
  const visitId = newId();
  const accession = `Q${dayOf(at, timeZone).slice(2).replaceAll('-', '')}-${visitId.slice(-5).toUpperCase()}`;
  await Visit.create(
    {
      visitId,
      clinicId: tx.clinicId,
      patientId,
      roomId: room.roomId,
      openedAt: at,
      studyUid: newUid(),
      seriesUid: newUid(),
      accession
    },
    within(tx)
  );
  const tray = await makeTray(tx, visitId);
  const ready = dayOf(at, timeZone) === dayOf(new Date(), timeZone);
  if (!trayEmpty)
    await beginTray(tx, tray, { room, asked: { reason, trade: room.trade, patient }, ready }, by);
  await announce(tx, { topic: 'day' });
  await writeAudit(tx, by, 'visit opened', visitId, { patientId });
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
    const appointment = await Appointment.findByPk(appointmentId, { lock: true, ...within(tx) });
    if (!appointment) throw notFound('This appointment');
    if (appointment.visitId) return appointment.visitId;
    const room = await Room.findByPk(appointment.roomId, within(tx));
    if (!room) throw notFound('This room');
    const whose = await Patient.findByPk(appointment.patientId, within(tx));
    if (!whose) throw notFound('This patient');
    const patient = await standing(tx, whose);
    const wish = { patient, room, at: now, reason: appointment.reason };
    const visitId = await createVisit(tx, wish, caller);
    await appointment.update({ visitId }, within(tx));
    return visitId;
  });
}

/**
 * The visit that pictures from outside belong to, under the day they were taken: one that is there in this room, else a new
 * one whose tray waits for nothing.
 */
export async function visitOfOutside(
  tx: Tx,
  caller: Caller,
  asked: { patientId: string; roomId: string; at: Date }
): Promise<string> {
  const whose = await Patient.findByPk(asked.patientId, { lock: true, ...within(tx) });
  if (!whose) throw notFound('This patient');
  const patient = await standing(tx, whose);
  const room = await Room.findByPk(asked.roomId, within(tx));
  if (!room) throw notFound('This room');
  const open = await visitOfDay(tx, patient.patientId, room.roomId, asked.at, caller.timeZone);
  return open ?? createVisit(tx, { patient, room, at: asked.at, reason: '', trayEmpty: true }, caller);
}

async function visitOfDay(
  tx: Tx,
  patientId: string,
  roomId: string,
  at: Date,
  timeZone: string
): Promise<string | undefined> {
  const { start, end } = dayRange(dayOf(at, timeZone), timeZone);
  const open = await Visit.findOne({
    where: { patientId, roomId, openedAt: { [Op.gte]: start, [Op.lt]: end } },
    order: [['openedAt', 'desc']],
    ...within(tx)
  });
  return open?.visitId;
}

/** A visit without an appointment, in a room. One that is open today for this patient and room is used again. */
export async function openVisit(
  caller: Caller,
  asked: string,
  roomId: string,
  now = new Date()
): Promise<string> {
  await demand(caller, 'acquire', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const whose = await Patient.findByPk(asked, { lock: true, ...within(tx) });
    if (!whose) throw notFound('This patient');
    const patient = await standing(tx, whose);
    const { patientId } = patient;
    const room = await Room.findByPk(roomId, within(tx));
    if (!room || room.closedAt) throw notFound('This room');
    const open = await visitOfDay(tx, patientId, roomId, now, caller.timeZone);
    return open ?? createVisit(tx, { patient, room, at: now, reason: '' }, caller);
  });
}

export const openWish = z.union([
  z.strictObject({ appointmentId: z.uuid() }),
  z.strictObject({ patientId: z.uuid(), roomId: z.uuid() })
]);

/** Opens a visit, once for the key of whoever asks. */
export async function openAsked(
  caller: Caller,
  key: string,
  wish: z.infer<typeof openWish>
): Promise<{ visitId: string }> {
  const visitId =
    'appointmentId' in wish
      ? await openAppointment(caller, wish.appointmentId)
      : await openVisit(caller, wish.patientId, wish.roomId);
  return inClinic(caller.clinicId, (tx) => once(tx, caller.userId, key, async () => ({ visitId })));
}
