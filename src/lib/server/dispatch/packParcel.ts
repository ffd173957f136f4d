import { foundWords } from '../../core/deidentify/parcelCheck';
import { inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { Problem } from '../problem';
import { packedOutside } from '../work/processes';
import { announceParcel, itemsOf, parcelRow } from './parcelRow';
import { sendSoon } from './queueing';

/** A turn is over after so long; the rest is another job, so that no job outlasts the time that one may take. */
const turnMs = 20_000;

const lookNext = 'See where in Dispatch; lay a veil over it or leave the picture out, then send it anew.';

/**
 * Packs a parcel and looks through it before it may go, picture by picture, and counts as it does; begun again at the
 * picture where it was killed. What it finds stops the parcel; one that was withdrawn meanwhile is left.
 */
export async function packParcel(clinicId: string, parcelId: string): Promise<void> {
  const began = Date.now();
  for (;;) {
    const { parcel, items } = await inClinic(clinicId, async (tx) => ({
      parcel: await parcelRow(tx, parcelId),
      items: await itemsOf(tx, parcelId)
    }));
    if (parcel.state !== 'checking') return;
    const next = items.find(({ found }) => found === null);
    if (!next) return finish(clinicId, parcelId);
    if (Date.now() - began > turnMs) {
      await inClinic(clinicId, (tx) => enqueue(tx, queues.pack, { clinicId, parcelId }));
      return;
    }
    const { identity, ruleId, packing, madeBy } = parcel;
    try {
      const { found, digest } = await packedOutside({
        clinicId,
        pictureId: next.picture_id,
        identity,
        ruleId,
        packing,
        madeBy,
        check: identity === 'deidentified'
      });
      await inClinic(clinicId, async (tx) => {
        await tx.sql(
          `update parcel_item set found = $3::jsonb where parcel_id = $1 and picture_id = $2`,
          parcelId,
          next.picture_id,
          JSON.stringify({ digest, found })
        );
        await tx.sql('update parcel set packed_count = packed_count + 1 where parcel_id = $1', parcelId);
        await announceParcel(tx, parcelId);
      });
    } catch (error) {
      if (!(error instanceof Problem) || error.code === 'database-away') throw error;
      await stop(clinicId, parcelId, error.sentence, error.next);
      return;
    }
  }
}

async function finish(clinicId: string, parcelId: string): Promise<void> {
  const items = await inClinic(clinicId, (tx) => itemsOf(tx, parcelId));
  const found = foundWords(items.flatMap((item) => item.found!.found));
  if (found.length > 0) {
    const which = items.filter((item) => item.found!.found.length > 0).length;
    const words = `${which === 1 ? 'In one picture' : `In ${which} pictures`} something was found that must not leave: ${found.slice(0, 4).join(', ')}${found.length > 4 ? ' and more' : ''}.`;
    await stop(clinicId, parcelId, words, lookNext);
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

/** A parcel that must not go, or can't be packed: said at its deliveries, for whoever follows it. */
async function stop(clinicId: string, parcelId: string, reason: string, next: string): Promise<void> {
  await inClinic(clinicId, async (tx) => {
    const parcel = await parcelRow(tx, parcelId, true);
    if (parcel.state !== 'checking') return;
    await tx.sql(`update parcel set state = 'stopped', why = $2 where parcel_id = $1`, parcelId, reason);
    await tx.sql(
      `update delivery set state = 'failed', reason = $2, next_step = $3 where parcel_id = $1 and state = 'packing'`,
      parcelId,
      reason,
      next
    );
    await announceParcel(tx, parcelId);
  });
}
