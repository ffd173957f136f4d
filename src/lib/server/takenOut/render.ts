import sharp, { type Sharp } from 'sharp';
import type { KeptDrawing } from '../../core/picture/layers/kept/kept';
import { overlaySvg } from '../../core/picture/overlay';
import { type Look, withRange } from '../../core/raster/look/look';
import { preparedForLevel, throughLook } from '../../core/raster/look/levels';
import {
  type Orientation,
  type Part,
  type Size,
  orientedSize,
  toOriented
} from '../../core/raster/orientation';
import { wholeSamples } from '../../core/raster/patch';
import { halved } from '../../core/raster/pyramid';
import type { Raster } from '../../core/raster/raster';
import { turnRaster } from '../../core/raster/turnRaster';
import { lettering } from './lettering';

/** What a picture shows, to be written as a file that any program opens. */
export interface ShownWish {
  /** The picture, or a coarser level of it; then `full` says how large the picture is. */
  raster: Raster;
  full?: Size;
  pixelAspect?: number;
  look: Look;
  orientation: Orientation;
  /** The part that is shown, of the picture as it is turned, in widths of a pixel; null for all of it. */
  window: Part | null;
  drawings: readonly KeptDrawing[];
  /** How long the bar is, in widths of a pixel, and what it says. */
  bar: { lengthPx: number; words: string } | null;
  as: 'png' | 'jpeg';
  /** What is larger is made smaller, as a page or a letter would; 4096 where nothing is said. */
  longestPx?: number;
  /** The size that lines and letters are made for, in its pixels: the smaller it is, the larger they are. */
  drawnForPx?: number;
}

/** No side is longer. */
const mostPx = 4096;
/** Something drawn on is at least so large, so that its words can be read. */
const leastDrawnPx = 900;

/** A picture through its look, turned, cut to a part of it, with what is drawn on it. */
export async function shownFile(wish: ShownWish): Promise<Uint8Array> {
  const { orientation, pixelAspect, drawings, bar, longestPx = mostPx, drawnForPx = leastDrawnPx } = wish;
  const full = wish.full ?? wish.raster;
  let [at, factor] = [wish.raster, 2 ** Math.round(Math.log2(full.width / wish.raster.width))];
  while (Math.max(at.width, at.height) >= 2 * mostPx) [at, factor] = [halved(at), factor * 2];
  const look = withRange(wish.look, wish.raster);
  const seen = turnRaster(throughLook(preparedForLevel(look, at, factor)), orientation, pixelAspect);
  const picture = { width: full.width, height: full.height, pixelAspect };
  const whole = orientedSize(picture, orientation);
  const window = wish.window ?? { left: 0, top: 0, ...whole };
  // Samples a width of a pixel, each way: pixels need not be square.
  const [across, down] = [seen.width / whole.width, seen.height / whole.height];
  const cut = wholeSamples(window, across, down, seen);
  const longer = Math.max(window.width, window.height);
  const times =
    Math.min(1, longestPx / longer) * (drawings.length > 0 || bar ? Math.max(1, drawnForPx / longer) : 1);
  const size = {
    width: Math.max(1, Math.round((cut.width / across) * times)),
    height: Math.max(1, Math.round((cut.height / down) * times))
  };
  const [perX, perY] = [(size.width / cut.width) * across, (size.height / cut.height) * down];
  const { data, width, height, channels } = seen;
  const plain = sharp(data, { raw: { width, height, channels } })
    .extract(cut)
    .resize(size.width, size.height, { fit: 'fill' });
  if (drawings.length === 0 && !bar) return written(plain, channels === 1 ? 'b-w' : 'srgb', wish.as);
  const svg = overlaySvg({
    size,
    seen: (point) => {
      const { x, y } = toOriented(point, picture, orientation);
      return { x: (x - cut.left / across) * perX, y: (y - cut.top / down) * perY };
    },
    drawings,
    bar: bar && { words: bar.words, lengthPx: bar.lengthPx * perX },
    lettering,
    madeForPx: drawnForPx
  });
  // Lines have colours, so what they are drawn on has three channels before they are.
  const base = await plain.toColourspace('srgb').raw().toBuffer({ resolveWithObject: true });
  const drawn = sharp(base.data, { raw: base.info }).composite([{ input: Buffer.from(svg) }]);
  return written(drawn, 'srgb', wish.as);
}

/** A picture without colours has one channel in its file: a third to write and to send. */
function written(picture: Sharp, space: 'b-w' | 'srgb', as: ShownWish['as']): Promise<Uint8Array> {
  const of = picture.toColourspace(space);
  return as === 'png' ? of.png().toBuffer() : of.jpeg({ quality: 92 }).toBuffer();
}

/**
 * The samples as they are stored, untouched by any look and not turned, with what a pixel measures where that is known.
 * @param mmPerPixel across and down
 */
export function samplesFile(
  { data, width, height, channels }: Raster,
  mmPerPixel: [x: number, y: number] | null
): Promise<Uint8Array> {
  const wide = data instanceof Uint16Array;
  const space = channels === 3 ? (wide ? 'rgb16' : 'srgb') : wide ? 'grey16' : 'b-w';
  return sharp(data, { raw: { width, height, channels } })
    .toColourspace(space)
    .tiff({
      compression: 'deflate',
      predictor: 'none',
      ...(mmPerPixel ? { xres: 1 / mmPerPixel[0], yres: 1 / mmPerPixel[1], resolutionUnit: 'cm' } : {})
    })
    .toBuffer();
}
