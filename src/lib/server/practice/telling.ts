import { type StudyInstance, imagingStudies } from '../../core/fhir/imagingStudy';
import type { PracticeTold } from '../../core/visit/visitView';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { fullName, visitHead } from '../visits/visitHead';
import { PracticeAway, putResource } from './asking';

/** Notes that pictures of a visit came to an archive: the practice system, where there is one, is to be told. */
export async function oweTelling(tx: Tx, visitId: string): Promise<void> {
  await tx.sql(
    `insert into practice_told (clinic_id, visit_id) select clinic_id, $2 from practice_system where clinic_id = $1
     on conflict (clinic_id, visit_id) do update set due = true, since = clock_timestamp()`,
    tx.clinicId,
    visitId
  );
}

/** What the practice system was told of a visit; null where nothing is to be told. */
export async function toldOf(tx: Tx, visitId: string): Promise<PracticeTold | null> {
  const row = await tx.one<{
    name: string;
    due: boolean;
    told_at: Date | null;
    instances: number;
    problem: string;
  }>(
    `select p.name, t.due, t.told_at, t.instances, t.problem from practice_told t join practice_system p using (clinic_id)
     where t.clinic_id = $1 and t.visit_id = $2`,
    tx.clinicId,
    visitId
  );
  return row
    ? {
        name: row.name,
        due: row.due,
        toldAt: row.told_at?.toISOString() ?? null,
        instances: row.instances,
        problem: row.problem
      }
    : null;
}

/** A patient is known to the practice system from now on: what it could not be told for want of a number is owed. */
export async function oweTellingOf(tx: Tx, patientId: string): Promise<void> {
  await tx.sql(
    `update practice_told t set due = true, since = clock_timestamp() from visit v
     where t.clinic_id = $1 and v.visit_id = t.visit_id and v.patient_id = $2 and t.problem <> ''`,
    tx.clinicId,
    patientId
  );
}

const mostInRound = 20;

/**
 * Tells a clinic's practice system of the visits that it has to hear of, those that wait longest first. What fails is
 * told in words and goes to the end of the line, and the round ends: who does not answer is not asked twenty times.
 */
export async function tellPractice(clinicId: string): Promise<void> {
  const due = await inClinic(clinicId, (tx) =>
    tx.sql<{ visit_id: string; url: string; since: string }>(
      `select t.visit_id, p.url, t.since::text as since from practice_told t join practice_system p using (clinic_id)
       where t.clinic_id = $1 and t.due order by t.since limit ${mostInRound}`,
      clinicId
    )
  );
  for (const { visit_id: visitId, url, since } of due)
    if (!(await tellVisit(clinicId, url, visitId, since))) return;
}

/** @returns whether the practice system answers */
async function tellVisit(clinicId: string, url: string, visitId: string, since: string): Promise<boolean> {
  const studies = await inClinic(clinicId, (tx) => studiesOf(tx, visitId));
  let problem = studies === null ? 'It does not know this patient by any number.' : '';
  try {
    for (const study of studies ?? []) await putResource(url, study);
  } catch (error) {
    if (!(error instanceof PracticeAway)) throw error;
    problem = error.message;
  }
  const again = problem !== '' && studies !== null;
  const instances = (studies ?? []).reduce((sum, each) => sum + Number(each.numberOfInstances), 0);
  await inClinic(clinicId, async (tx) => {
    await tx.sql(
      // What came to the archive meanwhile keeps it due.
      `update practice_told set due = since <> $6::timestamptz or $3, problem = $4,
         since = case when $3 then clock_timestamp() else since end,
         told_at = case when $4 = '' then now() else told_at end, instances = case when $4 = '' then $5::int else instances end
       where clinic_id = $1 and visit_id = $2`,
      clinicId,
      visitId,
      again,
      problem,
      instances,
      since
    );
    await announce(tx, { topic: 'deliveries', visitId });
  });
  return !again;
}

/** What lies in an archive of a visit, under the patient's name; null where the practice system knows no such patient. */
async function studiesOf(tx: Tx, visitId: string): Promise<Record<string, unknown>[] | null> {
  const { visit, patient } = await visitHead(tx, visitId);
  const known = await tx.one<{ issuer: string; value: string }>(
    'select issuer, value from identifier where clinic_id = $1 and patient_id = $2 order by issuer, value limit 1',
    tx.clinicId,
    patient.patientId
  );
  if (!known) return null;
  const rows = await tx.sql<{ sent: StudyInstance; url: string; reason: string | null }>(
    `select distinct on (d.sent_instance_uid) d.sent, dest.url,
       (select a.reason from appointment a where a.visit_id = k.visit_id limit 1) as reason
     from delivery d join parcel k using (parcel_id) join destination dest using (destination_id)
     where k.visit_id = $1 and k.identity = 'identified' and d.state = 'delivered' and d.sent is not null
     order by d.sent_instance_uid, d.delivered_at`,
    visitId
  );
  return imagingStudies({
    patient: { ...known, name: fullName(patient) },
    startedAt: visit.openedAt.toISOString(),
    accession: visit.accession,
    reason: rows[0]?.reason ?? '',
    archive: rows[0]?.url ?? '',
    instances: rows.map(({ sent }) => sent)
  });
}
