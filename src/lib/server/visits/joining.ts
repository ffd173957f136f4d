import { Transaction } from 'sequelize';
import { z } from 'zod';
import type { JoinedChart } from '../../core/people/joinedChart';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { Patient } from './patientModel';
import { fullName } from './visitHead';

const reason = z.string().trim().min(3, 'Say why in a few words.').max(300);
export const joinWish = z.strictObject({ otherId: z.uuid(), reason });
export const partWish = z.strictObject({ reason });

/** The chart in which somebody's pictures lie now: one's own, unless it was joined into another. */
export async function standing(tx: Tx, patient: Patient): Promise<Patient> {
  if (!patient.joinedInto) return patient;
  const kept = await Patient.findByPk(patient.joinedInto, within(tx));
  return kept ?? patient;
}

/** The same for several, each chart once. */
export async function allStanding(tx: Tx, patients: readonly Patient[]): Promise<Patient[]> {
  const byId = new Map<string, Patient>();
  for (const patient of patients) {
    const one = await standing(tx, patient);
    byId.set(one.patientId, one);
  }
  return [...byId.values()];
}

/**
 * Both, held in one order whoever asks. What is being stored for either may still refer to them: it has its visit in
 * hand, for which joining waits, so that a stronger hold would have each wait for the other.
 */
async function heldBoth(tx: Tx, keptId: string, goneId: string): Promise<[Patient, Patient]> {
  const held = new Map<string, Patient>();
  for (const id of [keptId, goneId].toSorted()) {
    const patient = await Patient.findByPk(id, { lock: Transaction.LOCK.NO_KEY_UPDATE, ...within(tx) });
    if (patient) held.set(id, patient);
  }
  const [kept, gone] = [held.get(keptId), held.get(goneId)];
  if (!kept || !gone) throw notFound('This patient');
  return [kept, gone];
}

async function demandJoinable(tx: Tx, kept: Patient, gone: Patient): Promise<void> {
  const refuse = (code: string, sentence: string, next: string) => new Problem(code, sentence, next, 409);
  if (kept.patientId === gone.patientId)
    throw refuse('same-chart', 'It is the same chart.', 'Choose the other one.');
  if (kept.kind !== gone.kind)
    throw refuse('not-alike', 'One is a person and the other an animal.', 'Choose another chart.');
  for (const each of [kept, gone])
    if (each.joinedInto)
      throw refuse(
        'joined-already',
        `The chart ${each.recordNumber} lies in another one already.`,
        'Part it from that one first.'
      );
  if (await Patient.findOne({ where: { joinedInto: gone.patientId }, ...within(tx) }))
    throw refuse(
      'holds-others',
      `Another chart was joined into ${gone.recordNumber}.`,
      `Part that one first, or join ${kept.recordNumber} into ${gone.recordNumber} instead.`
    );
}

const idsOf = (rows: readonly { id: string }[]) => rows.map(({ id }) => id);
const uuids = (ids: readonly string[]) => `{${ids.join(',')}}`;

/** Gives visits to a patient, with their pictures. */
async function giveVisits(tx: Tx, visitIds: readonly string[], patientId: string): Promise<void> {
  await tx.sql(
    'update visit set patient_id = $2 where visit_id = any($1::uuid[])',
    uuids(visitIds),
    patientId
  );
  // After the visits: a picture that was being stored has either come with its visit's new patient, or is here by now.
  await tx.sql(
    'update picture set patient_id = $2 where visit_id = any($1::uuid[])',
    uuids(visitIds),
    patientId
  );
  await announce(tx, ...visitIds.map((visitId) => ({ topic: 'visit' as const, visitId })));
}

/**
 * Joins a chart into another one: visits, appointments and numbers of the one are the other's from now on, and whoever
 * looks for the one finds the other. Nothing is copied or thrown away, and it can be parted again.
 * @returns how many pictures have left under the former number
 */
export async function joinCharts(
  caller: Caller,
  keptId: string,
  key: string,
  { otherId, reason: why }: z.infer<typeof joinWish>
): Promise<{ joinId: string; sent: number }> {
  await demand(caller, 'join charts', keptId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const [kept, gone] = await heldBoth(tx, keptId, otherId);
      await demandJoinable(tx, kept, gone);
      const visits = idsOf(
        await tx.sql<{ id: string }>(
          'select visit_id as id from visit where clinic_id = $1 and patient_id = $2 order by visit_id for update',
          tx.clinicId,
          otherId
        )
      );
      const sent = await sentOf(tx, visits);
      await giveVisits(tx, visits, keptId);
      const appointments = idsOf(
        await tx.sql<{ id: string }>(
          'update appointment set patient_id = $3 where clinic_id = $1 and patient_id = $2 returning appointment_id as id',
          tx.clinicId,
          otherId,
          keptId
        )
      );
      const identifiers = await tx.sql<{ issuer: string; value: string }>(
        'update identifier set patient_id = $3 where clinic_id = $1 and patient_id = $2 returning issuer, value',
        tx.clinicId,
        otherId,
        keptId
      );
      // What may harm somebody is never lost from sight.
      const before = kept.alert;
      const after = [...new Set([kept.alert, gone.alert].filter(Boolean))].join('; ') || null;
      await kept.update({ alert: after }, within(tx));
      await gone.update({ joinedInto: keptId }, within(tx));
      const joinId = newId();
      await tx.sql(
        `insert into chart_join (clinic_id, join_id, kept, gone, reason, visits, appointments, identifiers, alert_before,
           alert_after, joined_by)
         values ($1, $2, $3, $4, $5, $6::uuid[], $7::uuid[], $8::jsonb, $9, $10, $11)`,
        tx.clinicId,
        joinId,
        keptId,
        otherId,
        why,
        uuids(visits),
        uuids(appointments),
        JSON.stringify(identifiers),
        before,
        after,
        caller.userId
      );
      await announce(tx, { topic: 'day' });
      for (const patientId of [keptId, otherId])
        await writeAudit(tx, caller, 'charts joined', joinId, {
          patientId,
          kept: kept.recordNumber,
          gone: gone.recordNumber,
          reason: why
        });
      return { joinId, sent };
    })
  );
}

/** Parts them again: what came with the joining goes back; what was made since stays where it was made. */
export async function partCharts(
  caller: Caller,
  joinId: string,
  key: string,
  { reason: why }: z.infer<typeof partWish>
): Promise<{ patientId: string }> {
  await demand(caller, 'join charts', joinId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await joinOf(tx, joinId);
      const [kept, gone] = await heldBoth(tx, row.kept, row.gone);
      const back = idsOf(
        await tx.sql<{ id: string }>(
          `select visit_id as id from visit where visit_id = any($1::uuid[]) and patient_id = $2 order by visit_id for update`,
          uuids(row.visits),
          row.kept
        )
      );
      await giveVisits(tx, back, row.gone);
      await tx.sql(
        'update appointment set patient_id = $3 where appointment_id = any($1::uuid[]) and patient_id = $2',
        uuids(row.appointments),
        row.kept,
        row.gone
      );
      for (const { issuer, value } of row.identifiers)
        await tx.sql(
          'update identifier set patient_id = $4 where clinic_id = $1 and issuer = $2 and value = $3',
          tx.clinicId,
          issuer,
          value,
          row.gone
        );
      if (kept.alert === row.alert_after) await kept.update({ alert: row.alert_before }, within(tx));
      await gone.update({ joinedInto: null }, within(tx));
      await tx.sql(
        'update chart_join set parted_by = $2, parted_at = now(), parted_reason = $3 where join_id = $1',
        joinId,
        caller.userId,
        why
      );
      await announce(tx, { topic: 'day' });
      for (const patientId of [row.kept, row.gone])
        await writeAudit(tx, caller, 'charts parted', joinId, {
          patientId,
          kept: kept.recordNumber,
          gone: gone.recordNumber,
          reason: why
        });
      return { patientId: row.gone };
    })
  );
}

interface JoinRow {
  kept: string;
  gone: string;
  visits: string[];
  appointments: string[];
  identifiers: { issuer: string; value: string }[];
  alert_before: string | null;
  alert_after: string | null;
  parted_at: Date | null;
}

async function joinOf(tx: Tx, joinId: string): Promise<JoinRow> {
  const row = z.uuid().safeParse(joinId).success
    ? await tx.one<JoinRow>('select * from chart_join where join_id = $1 for update', joinId)
    : undefined;
  if (!row) throw notFound('This joining');
  if (row.parted_at)
    throw new Problem('parted-already', 'They were parted already.', 'Load the chart again.', 409);
  return row;
}

async function sentOf(tx: Tx, visitIds: readonly string[]): Promise<number> {
  const row = await tx.one<{ count: number }>(
    `select count(distinct d.picture_id)::int as count from delivery d join picture p using (picture_id)
     where p.visit_id = any($1::uuid[]) and d.state in ('sending', 'delivered')`,
    uuids(visitIds)
  );
  return row!.count;
}

/** The charts that lie in this one or once did, and the one that this one lay in, the newest first. */
export async function joinsOf(tx: Tx, patientId: string): Promise<JoinedChart[]> {
  const rows = await tx.sql<{
    join_id: string;
    gone: string;
    joined_at: Date;
    joined_by: string;
    reason: string;
    parted_at: Date | null;
    parted_by: string | null;
    parted_reason: string | null;
  }>(
    `select j.join_id, j.gone, j.joined_at, j.reason, j.parted_at, j.parted_reason, u.display_name as joined_by,
       w.display_name as parted_by
     from chart_join j join user_account u on u.user_id = j.joined_by left join user_account w on w.user_id = j.parted_by
     where j.clinic_id = $1 and (j.kept = $2 or j.gone = $2) order by j.joined_at desc limit 20`,
    tx.clinicId,
    patientId
  );
  const gone = await Patient.findAll({ where: { patientId: rows.map((row) => row.gone) }, ...within(tx) });
  return rows.map((row): JoinedChart => {
    const its = gone.find((each) => each.patientId === row.gone)!;
    return {
      joinId: row.join_id,
      gone: {
        patientId: its.patientId,
        name: fullName(its),
        recordNumber: its.recordNumber,
        birthDate: its.birthDate
      },
      at: row.joined_at.toISOString(),
      by: row.joined_by,
      reason: row.reason,
      parted: row.parted_at
        ? { at: row.parted_at.toISOString(), by: row.parted_by ?? '', reason: row.parted_reason ?? '' }
        : null
    };
  });
}
