import { uuidOfUid } from '../../core/identity/uuid7';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { announceParcel } from './parcelRow';

export const notKept = {
  reason: 'The archive says that it did not keep this picture.',
  next: 'Try again: it is asked first what it holds. If it stays so, ask its keeper.'
};

/**
 * An archive says, later than it was asked, whether it keeps what was delivered. What it does not keep has failed, and
 * somebody is told. Answers that belong to no delivery of the clinic change nothing.
 */
export async function hearCommitment(
  clinicId: string,
  transactionUid: string,
  kept: boolean
): Promise<boolean> {
  // The identifier of a transaction is its delivery's.
  const deliveryId = uuidOfUid(transactionUid);
  if (!deliveryId) return false;
  return inClinic(clinicId, async (tx) => {
    const row = await tx.one<{ parcel_id: string; picture_id: string | null }>(
      kept
        ? `update delivery set commitment = 'kept' where delivery_id = $1 and state in ('sending', 'delivered')
           returning parcel_id, picture_id`
        : `update delivery set commitment = '', state = 'failed', reason = $2, next_step = $3
           where delivery_id = $1 and state = 'delivered' returning parcel_id, picture_id`,
      deliveryId,
      ...(kept ? [] : [notKept.reason, notKept.next])
    );
    if (!row) return false;
    await announceParcel(tx, row.parcel_id);
    if (!kept) {
      const of = await tx.one<{ patient_id: string }>(
        'select patient_id from picture where picture_id = $1',
        row.picture_id
      );
      await writeAudit(tx, { system: 'network' }, 'not kept', deliveryId, {
        patientId: of?.patient_id ?? null
      });
    }
    return true;
  });
}
