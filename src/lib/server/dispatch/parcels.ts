import { z } from 'zod';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { lookFirst, unlooked } from '../deidentify/lettering';
import { picturesOfVisit } from '../pictures/queries';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { visitHead } from '../visits/visitHead';
import { Destination } from './destinationModel';

export const parcelWish = z.strictObject({
  destinationId: z.uuid(),
  identity: z.enum(['identified', 'deidentified']),
  pictureIds: z.array(z.uuid()).min(1).max(500)
});

export interface DestinationView {
  destinationId: string;
  name: string;
}

export async function destinations(caller: Caller): Promise<DestinationView[]> {
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await Destination.findAll({ order: [['name', 'asc']], ...within(tx) });
    return rows.map(({ destinationId, name }) => ({ destinationId, name }));
  });
}

interface Sent {
  sent: number;
  left: number;
}

/**
 * Puts a parcel on its way: one delivery and one job a picture, all in one transaction. A picture that is already
 * on its way or delivered to the same place under the same identity rule is left out, so nothing goes twice.
 */
export async function sendParcel(
  caller: Caller,
  visitId: string,
  key: string,
  wish: z.infer<typeof parcelWish>
): Promise<Sent> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    const destination = await Destination.findByPk(wish.destinationId, within(tx));
    if (!destination) throw notFound('This destination');
    if (wish.identity === 'deidentified') await allLookedAt(tx, visitId, wish.pictureIds);
    return once(tx, caller.userId, key, () => packed(tx, caller, visitId, key, wish));
  });
}

/** @throws Problem when names may stand in one of the pictures and nobody has said that none do */
async function allLookedAt(tx: Tx, visitId: string, pictureIds: readonly string[]): Promise<void> {
  const rows = (await picturesOfVisit(tx, visitId)).filter((row) => pictureIds.includes(row.picture_id));
  const left = await unlooked(tx, rows);
  if (left.length > 0) throw lookFirst(left.length);
}

async function packed(
  tx: Tx,
  caller: Caller,
  visitId: string,
  key: string,
  wish: z.infer<typeof parcelWish>
): Promise<Sent> {
  await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 1))', visitId);
  const chosen = await tx.sql<{ picture_id: string }>(
    `select picture_id from picture where visit_id = $1 and away is null and picture_id = any($2::uuid[]) and not exists (
       select 1 from delivery d join parcel k using (parcel_id)
       where d.picture_id = picture.picture_id and k.destination_id = $3 and k.identity = $4 and d.state <> 'failed')
     order by number`,
    visitId,
    wish.pictureIds,
    wish.destinationId,
    wish.identity
  );
  const left = wish.pictureIds.length - chosen.length;
  if (chosen.length === 0) return { sent: 0, left };
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
    key
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
  await announce(tx, { topic: 'deliveries', visitId });
  await writeAudit(tx, caller, 'sending asked', visitId, {
    pictures: chosen.length,
    identity: wish.identity
  });
  return { sent: chosen.length, left };
}

/** Tries a failed or waiting delivery again now. */
export async function tryAgain(caller: Caller, key: string, deliveryId: string): Promise<object> {
  await demand(caller, 'send', deliveryId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await tx.one<{ state: string; visit_id: string }>(
      'select d.state, k.visit_id from delivery d join parcel k using (parcel_id) where delivery_id = $1 for update of d',
      deliveryId
    );
    if (!row) throw notFound('This delivery');
    return once(tx, caller.userId, key, async () => {
      if (row.state === 'delivered' || row.state === 'sending') {
        throw new Problem(
          'on-its-way',
          'This picture is delivered or on its way already.',
          'Nothing is to be done.',
          409
        );
      }
      await tx.sql(
        `update delivery set state = 'waiting', attempts = 0, next_try_at = null where delivery_id = $1`,
        deliveryId
      );
      await enqueue(tx, queues.deliver, { clinicId: tx.clinicId, deliveryId });
      await announce(tx, { topic: 'deliveries', visitId: row.visit_id });
      return {};
    });
  });
}
