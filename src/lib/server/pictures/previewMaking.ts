import { levelAtLeast } from '../../core/raster/pyramid';
import { inClinic } from '../database/connection';
import { putPreview } from './levelQueries';
import { rasterOf } from './levels';
import { readOrigin } from './origin';
import { type PreviewWish, previewKey } from './previewWish';
import { smallPx, smallWebp } from './small';
import { pictureRow } from './views';

/** Makes a small picture and keeps it. */
export async function makePreview(wish: PreviewWish): Promise<Uint8Array> {
  const { clinicId, pictureId, look, orientation } = wish;
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId));
  const raster = await rasterOf(clinicId, row, 0, levelAtLeast(row, smallPx));
  const { pixelAspect } = readOrigin(row.facts);
  const webp = await smallWebp({ raster, look, orientation, pixelAspect });
  await inClinic(clinicId, (tx) => putPreview(tx, pictureId, previewKey(wish), webp));
  return webp;
}
