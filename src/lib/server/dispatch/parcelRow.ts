import type { FoundName } from '../../core/deidentify/parcelCheck';
import { type FilmWish, filmKept } from '../../core/print/filmWish';
import { type Packing, packing, plainPacking } from '../../core/parcel/packing';
import { readVersioned } from '../../core/versioned';
import type { Tx } from '../database/connection';
import type { Identity } from '../deidentify/identityRule';
import { announce } from '../news/announce';
import { notFound } from '../problem';

export type ParcelState = 'checking' | 'stopped' | 'open' | 'held' | 'withdrawn';

export interface ParcelRow {
  parcelId: string;
  visitId: string | null;
  destinationId: string | null;
  identity: Identity;
  ruleId: string | null;
  packing: Packing;
  /** How its pictures are laid out on films, where it goes to a film printer. */
  film: FilmWish | null;
  state: ParcelState;
  madeBy: string;
  madeAt: Date;
}

interface Stored {
  parcel_id: string;
  visit_id: string | null;
  destination_id: string | null;
  identity: Identity;
  rule_id: string | null;
  packing: { version: number; body: unknown } | null;
  film: { version: number; body: unknown } | null;
  state: ParcelState;
  made_by: string;
  made_at: Date;
}

/** A parcel, held until the transaction ends where it is to be changed. @throws Problem when there is none */
export async function parcelRow(tx: Tx, parcelId: string, held = false): Promise<ParcelRow> {
  const row = await tx.one<Stored>(
    `select parcel_id, visit_id, destination_id, identity, rule_id, packing, film, state, made_by, made_at
     from parcel where parcel_id = $1 ${held ? 'for update' : ''}`,
    parcelId
  );
  if (!row) throw notFound('This parcel');
  return {
    parcelId: row.parcel_id,
    visitId: row.visit_id,
    destinationId: row.destination_id,
    identity: row.identity,
    ruleId: row.rule_id,
    packing: row.packing
      ? readVersioned('How a parcel is packed', packing, row.packing.version, row.packing.body)
      : plainPacking,
    film: row.film && readVersioned('How films are laid out', filmKept, row.film.version, row.film.body),
    state: row.state,
    madeBy: row.made_by,
    madeAt: row.made_at
  };
}

/** Pictures of a parcel in their order, with what was found in each and the digest it had then. */
export interface ItemRow {
  picture_id: string;
  found: { digest: string; found: FoundName[] } | null;
  /** What a claims office is told of it. */
  told: unknown;
}

export const itemsOf = (tx: Tx, parcelId: string): Promise<ItemRow[]> =>
  tx.sql(
    'select picture_id, found, told from parcel_item where clinic_id = $1 and parcel_id = $2 order by position',
    tx.clinicId,
    parcelId
  );

/** Tells pages that a parcel went on: those of Dispatch, and those of the visits that what is in it is of. */
export async function announceParcel(tx: Tx, parcelId: string): Promise<void> {
  const visits = await tx.sql<{ visit_id: string }>(
    `select distinct visit_id from parcel_of where clinic_id = $1 and parcel_id = $2`,
    tx.clinicId,
    parcelId
  );
  await announce(
    tx,
    { topic: 'dispatch', parcelId },
    ...visits.map(({ visit_id: visitId }) => ({ topic: 'deliveries' as const, visitId }))
  );
}
