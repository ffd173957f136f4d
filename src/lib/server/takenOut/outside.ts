import type { ShownWish } from './render';

interface Frame {
  clinicId: string;
  pictureId: string;
  /** Counted from 0. */
  frame: number;
}

/** What a process of its own is told about a picture that leaves; it fetches the samples by itself. */
export type ShownOutside = Frame & Omit<ShownWish, 'raster' | 'full' | 'pixelAspect'>;
export type SamplesOutside = Frame & { mmPerPixel: [x: number, y: number] | null };
