import sharp from 'sharp';
import { type Look, withRange } from '../../core/raster/look/look';
import { atLevel, isTable, preparedForLevel, throughLook } from '../../core/raster/look/levels';
import { greyTable } from '../../core/raster/look/table';
import { type Orientation, orientedSize } from '../../core/raster/orientation';
import { halved } from '../../core/raster/pyramid';
import type { Raster } from '../../core/raster/raster';
import { turnRaster } from '../../core/raster/turnRaster';

/** The longer side of a small picture. */
export const smallPx = 480;

export interface SmallWish {
  raster: Raster;
  look: Look;
  orientation: Orientation;
  /** How much taller than wide a pixel is, where it is not square. */
  pixelAspect?: number;
  /** Of its longer side. */
  longestPx?: number;
}

/** A small picture through a look and turned for looking, as WebP; for wells, lists and the chart. */
export async function smallWebp({
  raster,
  look: wanted,
  orientation,
  pixelAspect,
  longestPx = smallPx
}: SmallWish): Promise<Uint8Array> {
  const look = withRange(wanted, raster);
  let at = raster;
  let factor = 1;
  while (Math.max(at.width, at.height) >= 2 * longestPx) [at, factor] = [halved(at), factor * 2];
  const table = isTable(look, factor)
    ? greyTable(atLevel(look, factor), raster.bitsStored, raster.offset)
    : null;
  const seenAt = table ? at : throughLook(preparedForLevel(look, at, factor));
  const { width, height, channels, data } = turnRaster(seenAt, orientation);
  const bytes = table ? new Uint8Array(data.length) : (data as Uint8Array);
  if (table) for (let i = 0; i < data.length; i++) bytes[i] = table[data[i]];
  const seen = orientedSize({ width: at.width, height: at.height, pixelAspect }, orientation);
  const share = Math.min(1, longestPx / Math.max(seen.width, seen.height));
  const side = (length: number) => Math.max(1, Math.round(length * share));
  return sharp(bytes, { raw: { width, height, channels } })
    .resize(side(seen.width), side(seen.height), { fit: 'fill' })
    .webp({ quality: 82 })
    .toBuffer();
}
