import { type Tx, inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';

/** A parcel that goes as a whole may take so long; whether somebody is still at it is known by other means. */
const wholeSeconds = 6 * 3600;
/** Nobody has been at it for so long: whoever was is gone. */
const goneSeconds = 120;

/** Puts deliveries in line for the worker, now or later. */
export async function sendSoon(
  tx: Tx,
  deliveryIds: readonly string[],
  startAfterSeconds?: number
): Promise<void> {
  const rows = await tx.sql<{ delivery_id: string; whole: boolean }>(
    'select delivery_id, picture_id is null as whole from delivery where delivery_id = any($1::uuid[]) order by delivery_id',
    deliveryIds
  );
  for (const { delivery_id: deliveryId, whole } of rows)
    await enqueue(
      tx,
      queues.deliver,
      { clinicId: tx.clinicId, deliveryId },
      { startAfterSeconds, ...(whole ? { expireInSeconds: wholeSeconds } : {}) }
    );
}

/** Parcels that somebody was writing as a whole when they were killed are taken up again. */
export const takeUpAgain = (clinicId: string): Promise<void> =>
  inClinic(clinicId, async (tx) => {
    const rows = await tx.sql<{ delivery_id: string }>(
      `update delivery set alive_at = now() where picture_id is null and state = 'sending'
         and alive_at < now() - make_interval(secs => $1) returning delivery_id`,
      goneSeconds
    );
    await sendSoon(
      tx,
      rows.map((row) => row.delivery_id)
    );
  });
