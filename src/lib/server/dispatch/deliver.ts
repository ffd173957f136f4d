import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { datasetLeaving, type Identity } from '../deidentify/leaving';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { Problem } from '../problem';
import { firstText } from '../../core/dicom/dataset';
import { writeDicomFile } from '../../core/dicom/write';
import type { StudyInstance } from '../../core/fhir/imagingStudy';
import { oweTelling } from '../practice/telling';
import { NotDelivered, archiveHolds, storeInstance } from './dicomWeb';

/** Pauses grow from the first to the longest, doubling; after the last try a person decides. */
const firstPauseSeconds = Number(process.env.YONDER_FIRST_PAUSE_SECONDS ?? 3);
const longestPauseSeconds = 900;
const mostTries = 14;

export function pauseAfter(tries: number): number {
  return Math.min(longestPauseSeconds, firstPauseSeconds * 2 ** Math.max(0, tries - 1));
}

interface Claimed {
  visitId: string;
  pictureId: string;
  patientId: string;
  identity: Identity;
  url: string;
  tries: number;
}

async function claim(tx: Tx, deliveryId: string): Promise<Claimed | null> {
  const row = await tx.one<{
    state: string;
    attempts: number;
    picture_id: string;
    identity: Identity;
    visit_id: string;
    patient_id: string;
    url: string;
  }>(
    `select d.state, d.attempts, d.picture_id, k.identity, k.visit_id, v.patient_id, dest.url
     from delivery d join parcel k using (parcel_id) join visit v using (visit_id) join destination dest using (destination_id)
     where delivery_id = $1 for update of d`,
    deliveryId
  );
  if (!row || row.state === 'delivered' || row.state === 'failed') return null;
  await tx.sql(
    `update delivery set state = 'sending', attempts = attempts + 1, next_try_at = null where delivery_id = $1`,
    deliveryId
  );
  await announce(tx, { topic: 'deliveries', visitId: row.visit_id });
  return {
    visitId: row.visit_id,
    pictureId: row.picture_id,
    patientId: row.patient_id,
    identity: row.identity,
    url: row.url,
    tries: row.attempts + 1
  };
}

/**
 * One try at one delivery. Before anything is sent, the archive is asked whether it holds the instance, at every try and
 * whoever wishes it: an answer that was lost on the way does not make a second copy. Safe to kill at any instant: the job
 * is then taken up by another worker, which begins by asking.
 */
export async function deliver(clinicId: string, deliveryId: string): Promise<void> {
  const claimed = await inClinic(clinicId, (tx) => claim(tx, deliveryId));
  if (!claimed) return;
  let studyUid: string;
  let instanceUid: string;
  let sent: StudyInstance;
  try {
    const set = await datasetLeaving(clinicId, claimed.pictureId, claimed.identity);
    studyUid = firstText(set, 'StudyInstanceUID')!;
    instanceUid = firstText(set, 'SOPInstanceUID')!;
    sent = {
      studyUid,
      instanceUid,
      seriesUid: firstText(set, 'SeriesInstanceUID')!,
      sopClass: firstText(set, 'SOPClassUID')!,
      modality: firstText(set, 'Modality') ?? 'OT'
    };
    const there = await archiveHolds(claimed.url, studyUid, instanceUid);
    if (!there) await storeInstance(claimed.url, studyUid, writeDicomFile(set));
  } catch (error) {
    const why = reasonOf(error);
    await inClinic(clinicId, (tx) => putOff(tx, deliveryId, claimed, why));
    return;
  }
  await inClinic(clinicId, async (tx) => {
    await tx.sql(
      `update delivery set state = 'delivered', delivered_at = now(), reason = '', sent_instance_uid = $2, sent_study_uid = $3, sent = $4::jsonb
       where delivery_id = $1`,
      deliveryId,
      instanceUid,
      studyUid,
      JSON.stringify(sent)
    );
    if (claimed.identity === 'identified') await oweTelling(tx, claimed.visitId);
    await announce(tx, { topic: 'deliveries', visitId: claimed.visitId });
    await writeAudit(tx, { system: 'dispatch' }, 'delivered', claimed.pictureId, {
      patientId: claimed.patientId,
      identity: claimed.identity,
      tries: claimed.tries
    });
  });
}

/** A fault of our own ends the tries with its words; a database that is away leaves the job to be taken again. */
function reasonOf(error: unknown): NotDelivered {
  if (error instanceof NotDelivered) return error;
  if (error instanceof Problem && error.code !== 'database-away')
    return new NotDelivered(error.sentence, true);
  throw error;
}

async function putOff(tx: Tx, deliveryId: string, claimed: Claimed, why: NotDelivered): Promise<void> {
  const over = why.final || claimed.tries >= mostTries;
  const pause = pauseAfter(claimed.tries);
  await tx.sql(
    `update delivery set state = $2, reason = $3, next_try_at = $4 where delivery_id = $1`,
    deliveryId,
    over ? 'failed' : 'waiting',
    why.reason,
    over ? null : new Date(Date.now() + pause * 1000)
  );
  if (!over)
    await enqueue(tx, queues.deliver, { clinicId: tx.clinicId, deliveryId }, { startAfterSeconds: pause });
  await announce(tx, { topic: 'deliveries', visitId: claimed.visitId });
}
