import type { PlacedPoint, Scale } from '../calibration/scale';
import type { Look } from '../raster/look';
import type { Orientation } from '../raster/orientation';
import type { Slot } from '../tray/tray';

/** One measured length: its two ends in image pixels of the original. */
export interface Reading {
  kind: 'length';
  ends: [PlacedPoint, PlacedPoint];
}

/** A picture as pages see it: what it is, and what people have made of it. */
export interface PictureView {
  pictureId: string;
  visitId: string;
  patientId: string;
  fileName: string;
  source: 'device' | 'file';
  width: number;
  height: number;
  channels: 1 | 3;
  bitsStored: number;
  offset: number;
  takenAt: string;
  number: number;
  from: string;
  remarks: string[];
  slot: Slot | null;
  teeth: number[];
  orientation: Orientation;
  firstLook: Look;
  look: Look;
  scale: Scale | null;
  scaleIsOwn: boolean;
  fileScale: Scale | null;
  scaleDoubt: string | null;
  readings: { id: string; reading: Reading }[];
  canTakeBack: boolean;
}
