import type { Raster } from '../../../core/raster/raster';
import type { PictureFactsStored } from '../facts';

/** What a file from outside turned out to be. */
export interface Decoded {
  mediaType: string;
  raster: Raster;
  facts: Omit<PictureFactsStored, 'version' | 'from' | 'remarks'>;
  remarks: string[];
  /** As the file says, local time without a zone: YYYYMMDD and HHMMSS, or null. */
  takenAt: { date: string; time: string } | null;
  patient: { name: string; id: string; birthDate: string } | null;
}

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

export function checkSize(width: number, height: number): void {
  if (!(width > 0 && height > 0)) throw cutOff('picture');
  if (width * height > mostPixels) {
    throw new Unusable(
      'too-large',
      `This picture says it is ${width.toLocaleString('en')} x ${height.toLocaleString('en')} pixels, more than Yonder Tray opens.`,
      'Export it again at a smaller size.'
    );
  }
}
