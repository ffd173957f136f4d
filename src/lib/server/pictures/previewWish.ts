import { createHash } from 'node:crypto';
import type { Look } from '../../core/raster/look/look';
import { type Orientation, type Part, turnWords } from '../../core/raster/orientation';

export interface PreviewWish {
  clinicId: string;
  pictureId: string;
  look: Look;
  orientation: Orientation;
  /** What of it is shown as it is turned; all of it when it is absent. */
  part?: Part;
}

/** The same look, orientation and part have the same key, whichever step they came from. */
export function previewKey({
  look,
  orientation,
  part
}: Pick<PreviewWish, 'look' | 'orientation' | 'part'>): string {
  const { left, top, width, height } = part ?? {};
  const shown = part ? `-${[left, top, width, height].map((side) => side!.toFixed(1)).join(',')}` : '';
  const digest = createHash('sha256').update(JSON.stringify(look)).digest('hex').slice(0, 16);
  return `${digest}-${turnWords(orientation)}${shown}`;
}
