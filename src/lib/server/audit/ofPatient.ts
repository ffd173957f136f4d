import { z } from 'zod';
import { type RecordLine, detailWords, recordWords } from '../../core/people/recordWords';
import type { PatientBand } from '../../core/visit/visitView';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { patientOf } from '../visits/patients';
import { standing } from '../visits/joining';
import { bandOf } from '../visits/visitHead';
import { flushLooks, noteLook } from './looks';

const linesShown = 200;

export interface PatientRecord {
  patient: PatientBand;
  lines: RecordLine[];
  /** Before which line older ones begin; null where these are all. */
  older: number | null;
}

/** Who saw, changed, sent or removed what of a patient, the newest first; of charts that were joined into this one too. */
export async function recordOfPatient(
  caller: Caller,
  patientId: string,
  before: number | null
): Promise<PatientRecord> {
  await demand(caller, 'read a record', patientId);
  await flushLooks();
  return inClinic(caller.clinicId, async (tx) => {
    if (!z.uuid().safeParse(patientId).success) throw notFound('This patient');
    const patient = await standing(tx, await patientOf(tx, patientId));
    noteLook(caller, 'chart viewed', patient.patientId, {
      key: `record ${patient.patientId}`,
      patientId: patient.patientId,
      details: { part: 'its record' }
    });
    const rows = await tx.sql<{
      seq: string;
      at: Date;
      who: string;
      act: string;
      details: Record<string, unknown>;
      number: number | null;
      visit_id: string | null;
    }>(
      `with charts as (select patient_id from patient where clinic_id = $1 and (patient_id = $2 or joined_into = $2)),
         l as (select * from audit_line where clinic_id = $1 and patient_id in (select patient_id from charts)
           and ($4::bigint is null or seq < $4) order by seq desc limit $3)
       select l.seq, l.at, l.who, l.act, l.details, p.number, p.visit_id from l
         left join picture p on p.clinic_id = $1
           and p.picture_id = case when l.subject ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' then l.subject::uuid end
       order by l.seq desc`,
      tx.clinicId,
      patient.patientId,
      linesShown,
      before
    );
    return {
      patient: bandOf(patient),
      lines: rows.map((row): RecordLine => {
        const [kind, words] = recordWords(row.act);
        const picture = row.number === null ? '' : `picture ${row.number}`;
        return {
          seq: Number(row.seq),
          at: row.at.toISOString(),
          who: row.who,
          kind,
          words,
          more: [picture, detailWords(row.details)].filter(Boolean).join('; '),
          visitId: row.visit_id
        };
      }),
      older: rows.length === linesShown ? Number(rows[rows.length - 1].seq) : null
    };
  });
}
