import type { Orientation } from '../raster/orientation';
import type { Tooth } from '../anatomy/teeth';

export const projections = ['bitewing', 'periapical', 'occlusal'] as const;
export type Projection = (typeof projections)[number];

/** One place on a tray: anatomy, projection, expected orientation. */
export interface Slot {
  id: string;
  /** In words, as the operator says it: "Right molar bitewing". */
  name: string;
  projection: Projection;
  teeth: Tooth[];
  side: 'right' | 'left' | 'both';
  /** How a picture taken with the sensor in this place is turned so that it is seen upright. */
  orientation: Orientation;
  /** DICOM directions of right and down once it is seen upright. */
  directions: [string, string];
  /** Where the well lies on the tray, 0 to 1 from left and top. */
  place: { x: number; y: number };
}

export interface Pattern {
  name: string;
  slots: Slot[];
  /** Slot ids in the order they are taken. */
  route: string[];
}

export interface Well {
  slot: Slot;
  /** Every take made for or moved to this slot, oldest first. */
  takes: string[];
  keeper: string | null;
  /** Who confirmed the keeper; falls when the keeper changes. */
  confirmedBy: string | null;
}

/** What a visit's exposures came to: the fold of its stored events. */
export interface Tray {
  pattern: string | null;
  wells: Record<string, Well>;
  route: string[];
  /** The slot that the next exposure is for; null when nothing is left or nothing was begun. */
  present: string | null;
  /** The slot to come back to after retakes that were asked for in between. */
  resume: string | null;
  /** Slots that were asked for again, in the order they were asked. */
  retakes: string[];
  anchored: boolean;
  bench: string[];
}

export const emptyTray: Tray = {
  pattern: null,
  wells: {},
  route: [],
  present: null,
  resume: null,
  retakes: [],
  anchored: false,
  bench: []
};

export function wellOf(tray: Tray, takeId: string): Well | undefined {
  return Object.values(tray.wells).find((well) => well.takes.includes(takeId));
}

export function holdsTake(tray: Tray, takeId: string): boolean {
  return tray.bench.includes(takeId) || wellOf(tray, takeId) !== undefined;
}
