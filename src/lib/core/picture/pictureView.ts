import type { AdviceView } from './adviceView';
import type { Place } from '../anatomy/place';
import type { Scale } from '../calibration/scale';
import type { Look } from '../raster/look/look';
import type { Orientation, Part } from '../raster/orientation';
import { cropSeen } from './layers/crop/crop';
import type { Slot } from '../tray/slot';
import { type PictureLayers, scaleInUse } from './pictureLayers';

/** What a picture is by its making. */
export const pictureKinds = ['radiograph', 'photograph', 'ultrasound', 'rings', 'other'] as const;
export type PictureKind = (typeof pictureKinds)[number];

/** The samples of all frames: how many, and how they are stored. */
export interface FramesShape {
  width: number;
  height: number;
  channels: 1 | 3;
  bitsStored: number;
  /** Original value = stored sample + offset. */
  offset: number;
  frames: number;
  /** How much taller than wide a pixel is, where it is not square. */
  pixelAspect?: number;
}

/** What a clinic files pictures under. */
export interface Category {
  categoryId: string;
  name: string;
}

export interface PictureShape extends FramesShape {
  pictureId: string;
}

/** A picture as pages see it: what it is, and what people have made of it. */
export interface PictureView extends PictureShape {
  visitId: string;
  patientId: string;
  kind: PictureKind;
  fileName: string;
  source: 'device' | 'file';
  /** Milliseconds from frame to frame of a loop, where its maker said so. */
  frameMs: number | null;
  takenAt: string;
  /** When its file or device said, where a person has put that right. */
  firstTakenAt: string | null;
  number: number;
  from: string;
  remarks: string[];
  /** Where it lies: the tray, and the slot in it; null on the bench. */
  trayId: string | null;
  slot: Slot | null;
  /** Places that somebody linked it to. */
  links: Place[];
  /** Whether somebody did, or took its last link off: then it shows these and no others. */
  placed: boolean;
  /** The whole of it, as it came. */
  firstLook: Look;
  /** What it opens with instead, where its device has one of the clinic's own looks for that. */
  openLook?: Look;
  /** How it is turned when nobody has turned it. */
  firstOrientation: Orientation;
  fileScale: Scale | null;
  scaleDoubt: string | null;
  /** From the tube to the detector, mm, where the file says it. */
  sourceToDetectorMm?: number;
  layers: PictureLayers;
  /** Names of those who made what is on it, by user. */
  people: Record<string, string>;
  /** What the computer saw in it; null until it has looked. */
  advice: AdviceView[] | null;
  /** The newest step that these layers hold. */
  seq: number;
  /** Whether the one who looks has something to take back, or to bring back. */
  canTakeBack: boolean;
  canBringBack: boolean;
}

/** The look, the orientation and the scale that hold now, whether somebody gave them or not. */
export const lookOf = (view: PictureView): Look => view.layers.look ?? openingLook(view);
export const openingLook = ({ openLook, firstLook }: Pick<PictureView, 'openLook' | 'firstLook'>): Look =>
  openLook ?? firstLook;
export const orientationOf = (view: PictureView): Orientation =>
  view.layers.orientation ?? view.firstOrientation;

/** The part of it that is shown, as it is turned; undefined for all of it. */
export const partOf = (view: PictureView): Part | undefined =>
  (view.layers.crop && cropSeen(view.layers.crop, view, orientationOf(view))) ?? undefined;

/** Places of a picture: exactly those it was linked to, else those of its slot. */
export const placesOf = (view: PictureView): Place[] =>
  view.placed ? view.links : (view.slot?.places ?? []);

/** What a picture is called where it lies. */
export const pictureName = (view: PictureView): string =>
  view.layers.about?.name || (view.slot?.name ?? (view.fileName || 'On the bench'));

/** Height of a pixel over its width, as far as anything says. */
export function aspectOf({
  layers,
  fileScale,
  pixelAspect
}: Pick<PictureView, 'layers' | 'fileScale' | 'pixelAspect'>): number {
  const scale = scaleInUse(layers, fileScale);
  return scale ? scale.mmPerPixelY / scale.mmPerPixelX : (pixelAspect ?? 1);
}
