import type { Settled } from '../devices/choose';
import type { Ref } from './pattern';
import type { Slot } from './slot';

/** Who confirmed a keeper: a user, or, in events from before users were kept, a name alone. */
export interface Confirmation {
  by: string | null;
  name: string | null;
}

export interface Well {
  slot: Slot;
  /** Every take made for or moved to this slot, oldest first. */
  takes: string[];
  keeper: string | null;
  /** Falls when the keeper changes or moves. */
  confirmed: Confirmation | null;
  /** Asked for on the spot: no pattern has this slot. */
  added?: true;
}

/** What was laid: a pattern along a route. */
export interface Laid {
  name: string;
  pattern: Ref;
  route: Ref;
}

/** What one tray's exposures came to: the fold of its stored events. */
export interface Tray {
  laid: Laid | null;
  wells: Record<string, Well>;
  route: string[];
  /** The slot that the next exposure is for; null when nothing is left or nothing was begun. */
  present: string | null;
  /** The slot to come back to after retakes that were asked for in between. */
  resume: string | null;
  /** Slots that were asked for again, in the order they were asked. */
  retakes: string[];
  anchored: boolean;
  /** The devices that this series is taken with, by what they are for. */
  settled: Settled;
  bench: string[];
  /** Stills that nobody wants: kept, standing for nothing. */
  dropped: string[];
}

export const emptyTray: Tray = {
  laid: null,
  wells: {},
  route: [],
  present: null,
  resume: null,
  retakes: [],
  anchored: false,
  settled: {},
  bench: [],
  dropped: []
};

export function wellOf(tray: Tray, takeId: string): Well | undefined {
  return Object.values(tray.wells).find((well) => well.takes.includes(takeId));
}

export function holdsTake(tray: Tray, takeId: string): boolean {
  return tray.bench.includes(takeId) || tray.dropped.includes(takeId) || wellOf(tray, takeId) !== undefined;
}

export const wellsAlong = (tray: Tray): Well[] => tray.route.map((id) => tray.wells[id]);

export const hasConfirmed = (tray: Tray): boolean =>
  Object.values(tray.wells).some((well) => well.confirmed !== null);
