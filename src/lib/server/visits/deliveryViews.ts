import type { DeliveryView } from '../../core/visit/visitView';
import type { Tx } from '../database/connection';

/** What is on its way of a visit, the oldest first. */
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
