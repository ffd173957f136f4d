import { foundWords } from '../../core/deidentify/parcelCheck';
import { inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { Problem } from '../problem';
import { ahead } from '../work/ahead';
import { packedAtOnce, packedOutside } from '../work/processes';
import { type ItemRow, type ParcelRow, announceParcel, itemsOf, parcelRow } from './parcelRow';
import { sendSoon } from './queueing';

/** A turn is over after so long; the rest is another job, so that no job outlasts the time that one may take. */
const turnMs = 20_000;

const lookNext = 'See where in Dispatch; lay a veil over it or leave the picture out, then send it anew.';

/**
 * Looks through what leaves without its identity before it may go, picture by picture, and counts as it does; begun again
 * at those that were not looked through when it was killed. What it finds stops the parcel; one that was withdrawn
 * meanwhile is left.
 */
export async function packParcel(clinicId: string, parcelId: string): Promise<void> {
  const until = Date.now() + turnMs;
  const { parcel, items } = await gathered(clinicId, parcelId);
  if (parcel.state !== 'checking') return;
  // What leaves with its identity is packed as it goes.
  const left = parcel.identity === 'identified' ? [] : items.filter(({ found }) => found === null);
  let over = false;
  const look = async (item: ItemRow) =>
    over || Date.now() > until ? 'checking' : lookedThrough(clinicId, parcel, item);
  try {
    for await (const state of ahead(left, packedAtOnce, look)) over ||= state !== 'checking';
  } catch (error) {
    if (!(error instanceof Problem) || error.code === 'database-away') throw error;
    await stopUnpacked(clinicId, parcelId, error);
    return;
  }
  if (over) return;
  const now = await gathered(clinicId, parcelId);
  if (left.length === 0 || now.items.every(({ found }) => found !== null)) await finish(clinicId, parcelId);
  else await inClinic(clinicId, (tx) => enqueue(tx, queues.pack, { clinicId, parcelId }));
}

const gathered = (clinicId: string, parcelId: string) =>
  inClinic(clinicId, async (tx) => ({
    parcel: await parcelRow(tx, parcelId),
    items: await itemsOf(tx, parcelId)
  }));

/** Packs one picture, looks through it, and keeps what was found. @returns how its parcel stands */
async function lookedThrough(
  clinicId: string,
  { parcelId, identity, ruleId, packing, madeBy }: ParcelRow,
  { picture_id: pictureId }: ItemRow
): Promise<ParcelRow['state']> {
  const wish = { clinicId, pictureId, identity, ruleId, packing, madeBy, check: true };
  const { found, digest } = await packedOutside(wish);
  return inClinic(clinicId, async (tx) => {
    await tx.sql(
      `update parcel_item set found = $3::jsonb where parcel_id = $1 and picture_id = $2`,
      parcelId,
      pictureId,
      JSON.stringify({ digest, found })
    );
    const [{ state }] = await tx.sql<{ state: ParcelRow['state'] }>(
      'update parcel set packed_count = packed_count + 1 where parcel_id = $1 returning state',
      parcelId
    );
    await announceParcel(tx, parcelId);
    return state;
  });
}

async function finish(clinicId: string, parcelId: string): Promise<void> {
  const items = await inClinic(clinicId, (tx) => itemsOf(tx, parcelId));
  const found = foundWords(items.flatMap((item) => item.found?.found ?? []));
  if (found.length > 0) {
    const which = items.filter((item) => (item.found?.found.length ?? 0) > 0).length;
    const words = `${which === 1 ? 'In one picture' : `In ${which} pictures`} something was found that must not leave: ${found.slice(0, 4).join(', ')}${found.length > 4 ? ' and more' : ''}.`;
    await stopParcel(clinicId, parcelId, words, lookNext);
    return;
  }
  await inClinic(clinicId, async (tx) => {
    const parcel = await parcelRow(tx, parcelId, true);
    if (parcel.state !== 'checking') return;
    await tx.sql(
      `update parcel set state = 'open', checked = jsonb_build_object('at', now()) where parcel_id = $1`,
      parcelId
    );
    const ready = await tx.sql<{ delivery_id: string }>(
      `update delivery set state = 'waiting' where parcel_id = $1 and state = 'packing' returning delivery_id`,
      parcelId
    );
    await sendSoon(
      tx,
      ready.map((row) => row.delivery_id)
    );
    await announceParcel(tx, parcelId);
  });
}

/** A parcel of which a picture can't be packed, with what to do about that picture. */
export const stopUnpacked = (
  clinicId: string,
  parcelId: string,
  { sentence, next }: Problem
): Promise<void> =>
  stopParcel(
    clinicId,
    parcelId,
    `One of its pictures can’t be packed. ${sentence}`,
    `${next} Or leave it out and send the rest anew.`
  );

/** A parcel that must not go, or can't be packed: said at its deliveries, for whoever follows it. */
async function stopParcel(clinicId: string, parcelId: string, reason: string, next: string): Promise<void> {
  await inClinic(clinicId, async (tx) => {
    const parcel = await parcelRow(tx, parcelId, true);
    if (parcel.state !== 'checking' && parcel.state !== 'open') return;
    await tx.sql(
      `update parcel set state = 'stopped', why = $2, next_step = $3 where parcel_id = $1`,
      parcelId,
      reason,
      next
    );
    await tx.sql(
      `update delivery set state = 'failed', reason = $2, next_step = $3 where parcel_id = $1 and state = 'packing'`,
      parcelId,
      reason,
      next
    );
    await announceParcel(tx, parcelId);
  });
}
