import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { visitHead } from '../visits/visits';

export const parcelWish = z.object({
  key: z.uuid(),
  destinationId: z.uuid(),
  identity: z.enum(['identified', 'deidentified']),
  pictureIds: z.array(z.uuid()).min(1).max(500)
});

export interface Destination {
  destinationId: string;
  name: string;
}

export async function destinations(caller: Caller): Promise<Destination[]> {
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{ destination_id: string; name: string }>(
      'select destination_id, name from destination order by name'
    );
    return rows.map((row) => ({ destinationId: row.destination_id, name: row.name }));
  });
}

/**
 * Puts a parcel on its way: one delivery and one job a picture, all in one transaction. A picture that is already
 * on its way or delivered to the same place under the same identity rule is left out, so nothing goes twice.
 */
export async function sendParcel(
  caller: Caller,
  visitId: string,
  wish: z.infer<typeof parcelWish>
): Promise<{ sent: number; left: number }> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const visit = await visitHead(tx, visitId);
    const destination = await tx.one(
      'select 1 from destination where destination_id = $1',
      wish.destinationId
    );
    if (!destination) throw notFound('This destination');
    const known = await tx.one('select 1 from parcel where key = $1', wish.key);
    if (known) return { sent: 0, left: wish.pictureIds.length };
    await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 1))', visitId);
    const chosen = await tx.sql<{ picture_id: string }>(
      `select picture_id from picture where visit_id = $1 and picture_id = any($2::uuid[]) and not exists (
         select 1 from delivery d join parcel k using (parcel_id)
         where d.picture_id = picture.picture_id and k.destination_id = $3 and k.identity = $4 and d.state <> 'failed')
       order by number`,
      visitId,
      wish.pictureIds,
      wish.destinationId,
      wish.identity
    );
    if (chosen.length === 0) return { sent: 0, left: wish.pictureIds.length };
    const parcelId = newId();
    await tx.sql(
      `insert into parcel (parcel_id, clinic_id, visit_id, destination_id, identity, made_by, key)
       values ($1, $2, $3, $4, $5, $6, $7)`,
      parcelId,
      tx.clinicId,
      visitId,
      wish.destinationId,
      wish.identity,
      caller.userId,
      wish.key
    );
    for (const { picture_id } of chosen) {
      const deliveryId = newId();
      await tx.sql(
        `insert into delivery (delivery_id, clinic_id, parcel_id, picture_id, state) values ($1, $2, $3, $4, 'waiting')`,
        deliveryId,
        tx.clinicId,
        parcelId,
        picture_id
      );
      await enqueue(tx, queues.deliver, { clinicId: tx.clinicId, deliveryId });
    }
    await announce(tx, { topic: 'visit', id: visitId });
    await writeAudit(tx, caller.name, 'sending asked', visitId, {
      patient: visit.patient_id,
      pictures: chosen.length,
      identity: wish.identity
    });
    return { sent: chosen.length, left: wish.pictureIds.length - chosen.length };
  });
}

/** Tries a failed or waiting delivery again now. */
export async function tryAgain(caller: Caller, deliveryId: string): Promise<void> {
  await demand(caller, 'send', deliveryId);
  await inClinic(caller.clinicId, async (tx) => {
    const row = await tx.one<{ state: string; visit_id: string }>(
      'select d.state, k.visit_id from delivery d join parcel k using (parcel_id) where delivery_id = $1 for update of d',
      deliveryId
    );
    if (!row) throw notFound('This delivery');
    if (row.state === 'delivered' || row.state === 'sending') {
      throw new Problem(
        'on-its-way',
        'This picture is delivered or on its way already.',
        'Nothing is to be done.',
        409
      );
    }
    await markWaiting(tx, deliveryId, row.visit_id);
  });
}

async function markWaiting(tx: Tx, deliveryId: string, visitId: string): Promise<void> {
  await tx.sql(
    `update delivery set state = 'waiting', attempts = 0, next_try_at = null where delivery_id = $1`,
    deliveryId
  );
  await enqueue(tx, queues.deliver, { clinicId: tx.clinicId, deliveryId });
  await announce(tx, { topic: 'visit', id: visitId });
}
