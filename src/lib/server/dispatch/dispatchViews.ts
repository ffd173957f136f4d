import type { Commitment } from '../../core/parcel/commitment';
import { z } from 'zod';
import { type Packing, packing as packingKind, plainPacking } from '../../core/parcel/packing';
import {
  type Counts,
  type DeliveryState,
  type ParcelState,
  type ParcelView,
  noCounts
} from '../../core/parcel/road';
import type { DestinationKind } from '../../core/parcel/destination';
import type { DispatchPage, DispatchParcel } from '../../core/parcel/dispatchView';
import type { WireLine } from '../../core/parcel/wire';
import { readVersioned } from '../../core/versioned';
import { type Tx, inClinic } from '../database/connection';
import { containing } from '../database/containing';
import { type Caller, demand } from '../people/caller';
import { picturesByIds } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { pictureName } from '../../core/picture/pictureView';
import { itemsOf, parcelRow } from './parcelRow';

export const dispatchQuery = z.strictObject({
  show: z.enum(['open', 'trouble', 'all']).default('open'),
  /** Parcels made before this one. */
  before: z.uuid().optional(),
  visit: z.uuid().optional(),
  /** A patient's name or number, or the tracking number of a claims office. */
  find: z.string().trim().max(100).optional()
});
export type DispatchQuery = z.infer<typeof dispatchQuery>;

const perPage = 40;

interface Row {
  parcel_id: string;
  made_at: Date;
  by: string;
  destination_id: string | null;
  destination: string | null;
  kind: DestinationKind | null;
  dropped: boolean;
  identity: ParcelView['identity'];
  rule: string | null;
  packing: { version: number; body: unknown } | null;
  state: ParcelState;
  why: string;
  visit_id: string | null;
  pictures: number;
  papers: number;
  packed_count: number;
  fetched_at: Date | null;
  patient_id: string | null;
  patient: string | null;
  record_number: string | null;
  patients: number;
  counts: Partial<Record<DeliveryState, number>> | null;
  read_back: number;
  tracking: string | null;
  told_problem: string;
  reason: string | null;
  next_step: string | null;
  next_try_at: Date | null;
  attempts: number;
}

const trouble = `(k.state = 'stopped' or (k.state <> 'withdrawn' and exists (
  select 1 from delivery t where t.parcel_id = k.parcel_id and t.state = 'failed')))`;
const open = `(${trouble} or k.state in ('checking', 'held') or (k.destination_id is null and k.fetched_at is null and k.state = 'open')
  or exists (select 1 from delivery t where t.parcel_id = k.parcel_id and t.state in ('packing', 'waiting', 'sending')))`;

const select = `
  select k.parcel_id, k.made_at, u.display_name as by, k.destination_id, t.name as destination, t.kind,
    t.dropped_at is not null as dropped, k.identity, r.name as rule, k.packing, k.state, k.why, k.visit_id, k.packed_count,
    k.fetched_at, k.told_problem, i.pictures, i.papers, i.patients, i.patient_id, i.patient, i.record_number, d.counts, d.read_back, d.tracking,
    d.reason, coalesce(d.next_step, k.next_step) as next_step, d.next_try_at, d.attempts
  from parcel k join user_account u on u.user_id = k.made_by
  left join destination t on t.destination_id = k.destination_id
  left join leaving_rule r on r.clinic_id = k.clinic_id and r.rule_id = k.rule_id
  cross join lateral (
    select (select count(*)::int from parcel_item j where j.clinic_id = k.clinic_id and j.parcel_id = k.parcel_id) as pictures,
      (select count(*)::int from parcel_paper j where j.clinic_id = k.clinic_id and j.parcel_id = k.parcel_id) as papers,
      count(distinct x.patient_id)::int as patients, min(x.patient_id::text) as patient_id,
      min(trim(p.given_name || ' ' || p.family_name)) as patient, min(p.record_number) as record_number
    from parcel_of x join patient p on p.clinic_id = x.clinic_id and p.patient_id = x.patient_id
    where x.clinic_id = k.clinic_id and x.parcel_id = k.parcel_id) i
  cross join lateral (
    select (select jsonb_object_agg(state, count) from (
        select state, count(*)::int as count from delivery y where y.parcel_id = k.parcel_id group by state) s) as counts,
      count(z.read_back_at)::int as read_back, max(z.reason) as reason, max(z.next_step) as next_step,
      string_agg(nullif(z.tracking, ''), ', ' order by z.tracking) as tracking,
      min(z.next_try_at) as next_try_at, coalesce(max(z.attempts), 0)::int as attempts
    from delivery z where z.parcel_id = k.parcel_id) d`;

/** Parcels of the clinic, or of one visit, the newest first. */
export async function dispatch(caller: Caller, query: DispatchQuery): Promise<DispatchPage> {
  await demand(caller, 'view charts', 'dispatch');
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<Row>(
      `${select} where k.clinic_id = $1 and ($2::uuid is null or (k.made_at, k.parcel_id) < (
           select made_at, parcel_id from parcel where parcel_id = $2))
         and ($3::uuid is null or k.visit_id = $3 or exists (
           select 1 from parcel_of x
           where x.clinic_id = k.clinic_id and x.parcel_id = k.parcel_id and x.visit_id = $3))
         and ${query.show === 'all' ? 'true' : query.show === 'open' ? open : trouble}
         and ($4::text is null or exists (
           select 1 from delivery f where f.parcel_id = k.parcel_id and lower(f.tracking) like $4)
           or exists (
             select 1 from parcel_of x join patient p on p.clinic_id = x.clinic_id and p.patient_id = x.patient_id
             where x.clinic_id = k.clinic_id and x.parcel_id = k.parcel_id and (lower(p.record_number) like $4
               or lower(p.given_name || ' ' || p.family_name || ' ' || p.given_name) like $4)))
       order by k.made_at desc, k.parcel_id desc limit ${perPage + 1}`,
      tx.clinicId,
      query.before ?? null,
      query.visit ?? null,
      query.find ? containing(query.find.toLowerCase()) : null
    );
    const [{ count }] = await tx.sql<{ count: number }>(
      `select count(*)::int as count from parcel k where k.clinic_id = $1 and ${trouble}`,
      tx.clinicId
    );
    const page = rows.slice(0, perPage).map(viewOf);
    return {
      parcels: page,
      older: rows.length > perPage ? page.at(-1)!.parcelId : null,
      trouble: count
    };
  });
}

function viewOf(row: Row): ParcelView {
  const counts: Counts = { ...noCounts, ...row.counts, readBack: row.read_back };
  const still = counts.failed > 0 || (counts.waiting > 0 && row.attempts > 0);
  return {
    parcelId: row.parcel_id,
    madeAt: row.made_at.toISOString(),
    by: row.by,
    destination: row.destination_id
      ? {
          destinationId: row.destination_id,
          name: row.destination!,
          kind: row.kind!,
          dropped: row.dropped
        }
      : null,
    identity: row.identity,
    rule: row.rule ?? '',
    format: packingOf(row.packing).format,
    state: row.state,
    visitId: row.visit_id,
    patient:
      row.patients === 1
        ? { patientId: row.patient_id!, name: row.patient!, recordNumber: row.record_number! }
        : null,
    pictures: row.pictures,
    papers: row.papers,
    packed: row.packed_count,
    counts,
    reason: row.state === 'stopped' ? row.why : still ? (row.reason ?? '') : '',
    next: still || row.state === 'stopped' ? (row.next_step ?? '') : '',
    nextTryAt: row.next_try_at?.toISOString() ?? null,
    attempts: row.attempts,
    fetchedAt: row.fetched_at?.toISOString() ?? null,
    tracking: row.tracking ?? '',
    toldProblem: row.told_problem
  };
}

const packingOf = (stored: Row['packing']): Packing =>
  stored ? readVersioned('How a parcel is packed', packingKind, stored.version, stored.body) : plainPacking;

/** One parcel, each of its deliveries, and what was said on the wire. */
export async function dispatchParcel(caller: Caller, parcelId: string): Promise<DispatchParcel> {
  await demand(caller, 'view charts', parcelId);
  return inClinic(caller.clinicId, async (tx) => {
    await parcelRow(tx, parcelId);
    const [row] = await tx.sql<Row>(`${select} where k.parcel_id = $1`, parcelId);
    const parcel = viewOf(row);
    const names = await namesOf(tx, parcelId);
    const deliveries = await tx.sql<{
      delivery_id: string;
      picture_id: string | null;
      film: number | null;
      state: DeliveryState;
      attempts: number;
      reason: string;
      next_step: string;
      next_try_at: Date | null;
      delivered_at: Date | null;
      read_back_at: Date | null;
      tracking: string;
      commitment: Commitment;
    }>(
      `select delivery_id, picture_id, film, state, attempts, reason, next_step, next_try_at, delivered_at, read_back_at, tracking,
         commitment
       from delivery where parcel_id = $1 order by film, delivery_id`,
      parcelId
    );
    const wire = await tx.sql<{ delivery_id: string; at: Date; said: WireLine }>(
      `select w.delivery_id, w.at, w.said from wire_line w join delivery d on d.delivery_id = w.delivery_id
       where w.clinic_id = $1 and d.parcel_id = $2 order by w.wire_id`,
      tx.clinicId,
      parcelId
    );
    const items = await itemsOf(tx, parcelId);
    return {
      parcel,
      letGo: row.state === 'stopped' ? '' : row.why,
      items: deliveries.map((each) => ({
        deliveryId: each.delivery_id,
        pictureId: each.picture_id,
        what: each.picture_id
          ? (names.get(each.picture_id)?.what ?? 'a picture')
          : each.film
            ? `film ${each.film} of ${deliveries.length}`
            : parcel.papers > 0
              ? 'the papers'
              : 'the whole parcel',
        state: each.state,
        attempts: each.attempts,
        reason: each.reason,
        next: each.next_step,
        nextTryAt: each.next_try_at?.toISOString() ?? null,
        deliveredAt: each.delivered_at?.toISOString() ?? null,
        readBackAt: each.read_back_at?.toISOString() ?? null,
        commitment: each.commitment,
        tracking: each.tracking,
        wire: wire
          .filter(({ delivery_id: id }) => id === each.delivery_id)
          .map(({ at, said }) => ({ at: at.toISOString(), said }))
      })),
      found: items.flatMap(({ picture_id: pictureId, found }) =>
        found && found.found.length > 0 && names.has(pictureId)
          ? [{ pictureId, found: found.found, ...names.get(pictureId)! }]
          : []
      )
    };
  });
}

async function namesOf(
  tx: Tx,
  parcelId: string
): Promise<Map<string, { what: string; size: { width: number; height: number } }>> {
  const ids = (await itemsOf(tx, parcelId)).map(({ picture_id: id }) => id);
  const views = await viewsOf(tx, await picturesByIds(tx, ids), '');
  return new Map(
    views.map((view) => [
      view.pictureId,
      { what: pictureName(view), size: { width: view.width, height: view.height } }
    ])
  );
}
