import type { Says } from '../../../core/arrivals/says';
import type { FramesShape, PictureKind } from '../../../core/picture/pictureView';
import type { Look } from '../../../core/raster/look/look';
import type { Raster } from '../../../core/raster/raster';
import type { Origin } from '../origin';

/** What a file from outside turned out to be: one or many frames of one size. */
export interface OpenedFile extends FramesShape {
  mediaType: string;
  kind: PictureKind;
  /** From frame to frame, where the file says so. */
  frameMs: number | null;
  firstLook: Look;
  origin: Omit<Origin, 'version' | 'from' | 'remarks'>;
  remarks: string[];
  /** As the file says: YYYYMMDD and HHMMSS, local unless it names its offset; null when it does not say. */
  takenAt: { date: string; time: string; offset?: string } | null;
  patient: { name: string; id: string; birthDate: string } | null;
  /** All that a DICOM file says of whose it is and what it shows. */
  says: Says | null;
}

/** A file that is open: what it is, and its frames when they are asked for. */
export interface OpenFile {
  opened: OpenedFile;
  frame(index: number): Promise<Raster>;
}

/** Told how many bytes one frame's samples will take, before they are unpacked. */
export type Announce = (sampleBytes: number) => void;

/** A file that can't be used, in words: what is wrong and what to do. */
export class Unusable extends Error {
  constructor(
    readonly code: string,
    readonly sentence: string,
    readonly next: string
  ) {
    super(sentence);
  }
}

export const cutOff = (kind: string): Unusable =>
  new Unusable(
    'cut-off',
    `This ${kind} file is cut off or damaged: part of the picture is missing.`,
    'Copy it again from where it came, or ask the sender for it once more.'
  );

/** More than any detector delivers; a file that claims more is refused before anything is unpacked. */
export const mostPixels = 150_000_000;
/** Frames of a loop or a stack, and all their samples together. */
const mostFrames = 4_000;
const mostSamples = 1_500_000_000;

const tooLarge = (what: string, next: string) =>
  new Unusable('too-large', `${what}, more than Yonder Tray opens.`, next);

export function checkSize(width: number, height: number, frames = 1, channels = 1): void {
  if (!(width > 0 && height > 0)) throw cutOff('picture');
  const size = `${width.toLocaleString('en')} x ${height.toLocaleString('en')}`;
  if (width * height > mostPixels)
    throw tooLarge(`This picture says it is ${size} pixels`, 'Export it again at a smaller size.');
  if (frames <= mostFrames && width * height * frames * channels > mostSamples)
    throw tooLarge(
      `This loop says it has ${frames.toLocaleString('en')} frames of ${size} pixels`,
      'Export a shorter stretch of it.'
    );
}

/**
 * Checks how many frames a file says it has against how many lie in it.
 * @param held null where they are compressed, and can't be counted beforehand
 */
export function checkFrames(said: number, held: number | null): void {
  if (held !== null && held < said && said > mostFrames) {
    throw new Unusable(
      'contradicts-itself',
      `This DICOM file says it has ${said.toLocaleString('en')} frames and holds ${held.toLocaleString('en')}.`,
      'Ask the sender for it again.'
    );
  }
  if (said > mostFrames)
    throw tooLarge(
      `This file says it has ${said.toLocaleString('en')} frames`,
      'Export a shorter stretch of it.'
    );
}
