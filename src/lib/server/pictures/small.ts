import sharp from 'sharp';
import { type Look, withRange } from '../../core/raster/look/look';
import { atLevel, isTable, preparedForLevel, throughLook } from '../../core/raster/look/levels';
import { greyTable } from '../../core/raster/look/table';
import { type Orientation, type Part, orientedSize } from '../../core/raster/orientation';
import { halved } from '../../core/raster/pyramid';
import { wholeSamples } from '../../core/raster/patch';
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
  /** What of it is shown as it is turned, in widths of a pixel of the raster. */
  part?: Part;
  /** Of its longer side. */
  longestPx?: number;
}

/** A small picture through a look and turned for looking, as WebP; for wells, lists and the chart. */
export async function smallWebp({
  raster,
  look: wanted,
  orientation,
  pixelAspect,
  part,
  longestPx = smallPx
}: SmallWish): Promise<Uint8Array> {
  const look = withRange(wanted, raster);
  const whole = orientedSize({ width: raster.width, height: raster.height, pixelAspect }, orientation);
  const shown = part ?? { left: 0, top: 0, ...whole };
  let at = raster;
  let factor = 1;
  while (Math.max(shown.width, shown.height) >= 2 * longestPx * factor)
    [at, factor] = [halved(at), factor * 2];
  const table = isTable(look, factor)
    ? greyTable(atLevel(look, factor), raster.bitsStored, raster.offset)
    : null;
  const seenAt = table ? at : throughLook(preparedForLevel(look, at, factor));
  const { width, height, channels, data } = turnRaster(
    table
      ? { ...seenAt, bitsStored: 8, data: Uint8Array.from(seenAt.data, (value) => table[value]) }
      : seenAt,
    orientation,
    pixelAspect
  );
  const longer = Math.max(shown.width, shown.height) / factor;
  const share = Math.min(1, longestPx / longer) / factor;
  const side = (length: number) => Math.max(1, Math.round(length * share));
  return sharp(data as Uint8Array, { raw: { width, height, channels } })
    .extract(wholeSamples(shown, width / whole.width, height / whole.height, { width, height }))
    .resize(side(shown.width), side(shown.height), { fit: 'fill' })
    .webp({ quality: 82 })
    .toBuffer();
}
