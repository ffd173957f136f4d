import { z } from 'zod';
import { type Place, placeSchema, sideOf, teethOf } from '../anatomy/place';
import { type Imaging, type Projection, imagingOf, projectionNames } from '../anatomy/projections';
import { type DeviceKind, deviceKinds } from '../devices/deviceKind';
import type { Orientation } from '../raster/orientation';
import { orientationSchema } from '../raster/orientationSchema';

/** How a picture of this slot stands on the tray: its well has the same shape. */
export const slotShapes = ['standing', 'lying', 'square', 'wide', 'tall'] as const;
export type SlotShape = (typeof slotShapes)[number];

/** One place on a tray: anatomy, projection, expected orientation. */
export interface Slot {
  id: string;
  /** In words, as the operator says it: "Right molars". */
  name: string;
  places: Place[];
  projection: Projection;
  /** How a picture taken with the detector in this place is turned so that it is seen upright. */
  orientation: Orientation;
  /** DICOM directions of right and down once it is seen upright. */
  directions: [string, string];
  /** Where the middle of its well lies on the tray, 0 to 1 from left and top. */
  at: { x: number; y: number };
  shape: SlotShape;
  /** The kind of device it has to be taken with; any that can do it when nothing is said. */
  device?: DeviceKind;
}

export const slotId = z.string().min(1).max(60);
const share = z.number().min(0).max(1);
const direction = z.string().regex(/^[APLRHF]{1,3}$/);

export const slotSchema: z.ZodType<Slot> = z.strictObject({
  id: slotId,
  name: z.string().min(1).max(80),
  places: z.array(placeSchema).max(32),
  projection: z.enum(projectionNames),
  orientation: orientationSchema,
  directions: z.tuple([direction, direction]),
  at: z.strictObject({ x: share, y: share }),
  shape: z.enum(slotShapes),
  device: z.enum(deviceKinds).optional()
});

export const slotTeeth = (slot: Slot): number[] => teethOf(slot.places);
export const slotSide = (slot: Slot) => sideOf(slot.places);
export const slotImaging = (slot: Slot): Imaging => imagingOf(slot.projection);
