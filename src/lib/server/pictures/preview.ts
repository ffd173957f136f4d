import sharp from 'sharp';
import type { Tx } from '../database/connection';
import { type Look, greyTable } from '../../core/raster/look';
import type { Orientation } from '../../core/raster/orientation';
import { halved } from '../../core/raster/pyramid';
import { turnRaster } from '../../core/raster/turnRaster';
import { rasterOf } from './rasters';
import { pictureRow } from './pictures';

const previewPx = 480;

/** A small picture through a look and turned for looking, as WebP; for wells, lists and the chart. */
export async function preview(
  tx: Tx,
  pictureId: string,
  look: Look,
  orientation: Orientation
): Promise<Buffer> {
  let raster = await rasterOf(tx, await pictureRow(tx, pictureId));
  while (Math.max(raster.width, raster.height) >= 2 * previewPx) raster = halved(raster);
  const { width, height, channels, data } = turnRaster(raster, orientation);
  const table = greyTable(look, raster.bitsStored, raster.offset);
  const bytes = new Uint8Array(data.length);
  for (let i = 0; i < data.length; i++) bytes[i] = table[data[i]];
  return sharp(bytes, { raw: { width, height, channels } })
    .resize(previewPx, previewPx, { fit: 'inside', withoutEnlargement: true })
    .webp({ quality: 82 })
    .toBuffer();
}
