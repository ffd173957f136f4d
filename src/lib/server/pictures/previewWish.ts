import { createHash } from 'node:crypto';
import type { Look } from '../../core/raster/look/look';
import type { Orientation } from '../../core/raster/orientation';

export interface PreviewWish {
  clinicId: string;
  pictureId: string;
  look: Look;
  orientation: Orientation;
}

/** The same look and orientation have the same key, whichever step they came from. */
export function previewKey({ look, orientation }: Pick<PreviewWish, 'look' | 'orientation'>): string {
  const digest = createHash('sha256').update(JSON.stringify(look)).digest('hex').slice(0, 16);
  return `${digest}-${orientation.quarterTurns}${orientation.mirrored ? 'm' : ''}`;
}
