import type { Commitment } from './commitment';
import type { FoundName } from '../deidentify/parcelCheck';
import type { DeliveryState, ParcelView } from './road';
import type { WireLine } from './wire';

/** Parcels as Dispatch lists them, a page at a time. */
export interface DispatchPage {
  parcels: ParcelView[];
  /** Where the next page begins; null where there is none. */
  older: string | null;
  /** Parcels that want a person. */
  trouble: number;
}

/** One thing of a parcel that goes by itself, or the parcel as a whole. */
export interface DispatchItem {
  deliveryId: string;
  /** Null for the parcel as a whole. */
  pictureId: string | null;
  what: string;
  state: DeliveryState;
  attempts: number;
  reason: string;
  next: string;
  nextTryAt: string | null;
  deliveredAt: string | null;
  readBackAt: string | null;
  commitment: Commitment;
  /** The number that a claims office follows it by. */
  tracking: string;
  wire: { at: string; said: WireLine }[];
}

export interface FoundItem {
  pictureId: string;
  what: string;
  found: FoundName[];
  /** Of the picture, so that a place in it can be shown. */
  size: { width: number; height: number };
}

export interface DispatchParcel {
  parcel: ParcelView;
  items: DispatchItem[];
  found: FoundItem[];
  /** Who let it go though something was found, and why. */
  letGo: string;
}
