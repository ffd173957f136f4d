import type { DeliveryView } from '../../core/visit/visitView';
import type { Tx } from '../database/connection';

/** What is on its way of a visit, the oldest first. */
export async function deliveriesOf(tx: Tx, visitId: string): Promise<DeliveryView[]> {
  const rows = await tx.sql<{
    delivery_id: string;
    parcel_id: string;
    picture_id: string | null;
    pictures: number;
    identity: DeliveryView['identity'];
    state: DeliveryView['state'];
    attempts: number;
    reason: string;
    next_step: string;
    read_back_at: Date | null;
    next_try_at: Date | null;
    delivered_at: Date | null;
    destination: string;
    tracking: string;
  }>(
    `select d.delivery_id, d.parcel_id, d.picture_id, p.identity, d.state, d.attempts, d.reason, d.next_step, d.next_try_at,
            d.delivered_at, d.read_back_at, d.tracking, dest.name as destination,
            (select count(*)::int from parcel_item i where i.clinic_id = p.clinic_id and i.parcel_id = p.parcel_id) as pictures
     from delivery d join parcel p using (parcel_id) join destination dest using (destination_id)
     where p.visit_id = $1 order by p.made_at, d.delivery_id`,
    visitId
  );
  return rows.map((row) => ({
    deliveryId: row.delivery_id,
    parcelId: row.parcel_id,
    pictureId: row.picture_id,
    pictures: row.pictures,
    identity: row.identity,
    state: row.state,
    attempts: row.attempts,
    reason: row.reason,
    next: row.next_step,
    readBackAt: row.read_back_at?.toISOString() ?? null,
    nextTryAt: row.next_try_at?.toISOString() ?? null,
    deliveredAt: row.delivered_at?.toISOString() ?? null,
    destination: row.destination,
    tracking: row.tracking
  }));
}
