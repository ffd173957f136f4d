import type { Format } from './packing';
import type { DestinationKind } from './destination';

/** The marks of the road that a parcel goes along, in their order. */
export const marks = ['packed', 'waiting', 'on its way', 'there', 'read back'] as const;
export type Mark = (typeof marks)[number];

export type DeliveryState = 'packing' | 'waiting' | 'sending' | 'delivered' | 'failed' | 'held' | 'withdrawn';
export type ParcelState = 'checking' | 'stopped' | 'open' | 'held' | 'withdrawn';

/** How many of a parcel's deliveries are in which state. */
export type Counts = Readonly<Record<DeliveryState, number>> & { readBack: number };

export const noCounts: Counts = {
  packing: 0,
  waiting: 0,
  sending: 0,
  delivered: 0,
  failed: 0,
  held: 0,
  withdrawn: 0,
  readBack: 0
};

/** A parcel as Dispatch shows it. */
export interface ParcelView {
  parcelId: string;
  madeAt: string;
  by: string;
  /** Null for one that is fetched as a file. */
  destination: { destinationId: string; name: string; kind: DestinationKind; dropped: boolean } | null;
  identity: 'identified' | 'deidentified';
  /** The de-identification rule. */
  rule: string;
  format: Format;
  state: ParcelState;
  visitId: string | null;
  /** Who it is of, where that is one. */
  patient: { patientId: string; name: string; recordNumber: string } | null;
  pictures: number;
  /** A parcel has pictures, or papers alone. */
  papers: number;
  /** How many of the pictures were looked through; while somebody fetches them, how many they have. */
  packed: number;
  counts: Counts;
  /** Why it stands still, and what to do; empty while it goes. */
  reason: string;
  next: string;
  nextTryAt: string | null;
  attempts: number;
  fetchedAt: string | null;
  /** Numbers that a claims office follows it by. */
  tracking: string;
  /** Why somebody who is told of it could not be told; empty where nobody waits for it. */
  toldProblem: string;
}

/** Where a parcel stands on the road. */
export function markOf({
  state,
  counts,
  destination,
  fetchedAt
}: Pick<ParcelView, 'state' | 'counts' | 'destination' | 'fetchedAt'>): Mark {
  if (destination === null) return fetchedAt ? 'there' : 'packed';
  if (state === 'checking' || counts.packing > 0) return 'packed';
  const going = counts.waiting + counts.sending + counts.held + counts.failed + counts.withdrawn;
  if (going === 0) return counts.readBack > 0 && counts.readBack === counts.delivered ? 'read back' : 'there';
  if (counts.sending > 0 || counts.delivered > 0) return 'on its way';
  return state === 'stopped' ? 'packed' : 'waiting';
}

/** Whether somebody has to do something about it. */
export const wantsPerson = ({ state, counts }: Pick<ParcelView, 'state' | 'counts'>): boolean =>
  state === 'stopped' || (state !== 'withdrawn' && counts.failed > 0);

/** What a parcel is doing, in a few words. */
export function stateWords(view: ParcelView): string {
  const { state, counts, pictures, packed, destination, attempts } = view;
  if (state === 'withdrawn') return 'withdrawn';
  if (state === 'held') return 'held';
  if (state === 'stopped') return 'stopped';
  if (state === 'checking')
    return packed === 0 ? 'being packed and looked through' : `looked through ${packed} of ${pictures}`;
  if (destination === null)
    return view.fetchedAt
      ? 'fetched'
      : packed > 0 && packed < pictures
        ? `${packed} of ${pictures} fetched`
        : 'ready to be fetched';
  const all =
    counts.delivered + counts.waiting + counts.sending + counts.failed + counts.held + counts.withdrawn;
  if (counts.failed > 0 && counts.waiting + counts.sending === 0)
    return counts.delivered > 0 ? `${counts.failed} of ${all} failed` : 'failed';
  if (counts.waiting + counts.sending === 0)
    return counts.readBack === counts.delivered && counts.readBack > 0 ? 'there, read back' : 'there';
  if (counts.delivered > 0) return `${counts.delivered} of ${all} there`;
  return counts.sending > 0 ? 'on its way' : attempts > 0 ? 'waiting to be tried again' : 'waiting';
}
