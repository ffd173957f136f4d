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
    const row = await tx.one<{ parcel_id: string }>(
      kept
        ? `update delivery set commitment = 'kept' where delivery_id = $1 and state in ('sending', 'delivered') returning parcel_id`
        : `update delivery set commitment = '', state = 'failed', reason = $2, next_step = $3
           where delivery_id = $1 and state = 'delivered' returning parcel_id`,
      deliveryId,
      ...(kept ? [] : [notKept.reason, notKept.next])
    );
    if (!row) return false;
    await announceParcel(tx, row.parcel_id);
    if (!kept) await writeAudit(tx, { system: 'network' }, 'not kept', deliveryId);
    return true;
  });
}
