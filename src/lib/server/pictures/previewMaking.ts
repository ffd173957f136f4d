import { levelAtLeast } from '../../core/raster/pyramid';
import { inClinic } from '../database/connection';
import { putPreview } from './levelQueries';
import { rasterOf } from './levels';
import { readOrigin } from './origin';
import { scaledPart } from '../../core/raster/orientation';
import { type PreviewWish, previewKey } from './previewWish';
import { smallPx, smallWebp } from './small';
import { pictureRow } from './views';

/** Makes a small picture and keeps it. */
export async function makePreview(wish: PreviewWish): Promise<Uint8Array> {
  const { clinicId, pictureId, look, orientation, part } = wish;
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId, 'away'));
  // Of a part so much more is needed as the whole is larger than it.
  const times = part ? Math.max(row.width, row.height) / Math.max(part.width, part.height) : 1;
  const raster = await rasterOf(clinicId, row, 0, levelAtLeast(row, smallPx * Math.max(1, times)));
  const { pixelAspect } = readOrigin(row.facts);
  const webp = await smallWebp({
    raster,
    look,
    orientation,
    pixelAspect,
    part: part && scaledPart(part, raster.width / row.width)
  });
  await inClinic(clinicId, (tx) => putPreview(tx, pictureId, previewKey(wish), webp));
  return webp;
}
