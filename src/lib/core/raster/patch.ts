import type { Part, Size } from './orientation';
import type { Raster } from './raster';

/** Grey samples of any kind that pictures come in. */
export type Samples = Uint8Array | Uint16Array | Int16Array | Float32Array;

/** A rectangle of whole pixels. */
export interface Window {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * A rectangle of a grey picture as numbers, row by row. Filters take a patch and a window of the same picture and give
 * the patch of that window; a patch has to reach further than the window by the filter's margin, or to the picture's
 * rim, where the outermost samples are continued. So a window has the same numbers whichever patch it was made from.
 */
export interface Patch extends Window {
  picture: Size;
  data: Float32Array;
}

/** Larger pictures are worked on window by window, so that no tab needs half a gigabyte at once. */
const mostPixels = 120_000_000;

/**
 * A window of a picture as a patch.
 * @throws RangeError when sizes and data disagree, the window is not inside the picture, a sample is not a number, or
 * the window has more than 120 million pixels
 */
export function patchOf(
  samples: Samples,
  picture: Size,
  window: Window = wholeOf(picture),
  channel: { of: number; take: number } = { of: 1, take: 0 }
): Patch {
  const { width, height } = picture;
  if (!(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0))
    throw new RangeError(`a picture needs a size in whole pixels, got ${width} x ${height}`);
  if (samples.length !== width * height * channel.of)
    throw new RangeError(`${width} x ${height} x ${channel.of} samples expected, got ${samples.length}`);
  assertInside(window, picture);
  if (window.width * window.height > mostPixels)
    throw new RangeError(`a window may have ${mostPixels} pixels, got ${window.width} x ${window.height}`);
  const data = new Float32Array(window.width * window.height);
  for (let y = 0; y < window.height; y++) {
    const row = (window.top + y) * width + window.left;
    if (channel.of === 1) data.set(samples.subarray(row, row + window.width), y * window.width);
    else
      for (let x = 0; x < window.width; x++)
        data[y * window.width + x] = samples[(row + x) * channel.of + channel.take];
  }
  if (samples instanceof Float32Array && !data.every(Number.isFinite))
    throw new RangeError('the picture holds samples that are not numbers');
  return { picture: { width, height }, ...window, data };
}

/** A grey picture, or one channel of a colour picture, in its original values (its offset added). */
export function patchOfRaster(raster: Raster, window?: Window, channel = 0): Patch {
  const patch = patchOf(raster.data, { width: raster.width, height: raster.height }, window, {
    of: raster.channels,
    take: channel
  });
  if (raster.offset !== 0) for (let i = 0; i < patch.data.length; i++) patch.data[i] += raster.offset;
  return patch;
}

export const contains = (outer: Window, inner: Window): boolean =>
  inner.left >= outer.left &&
  inner.top >= outer.top &&
  inner.left + inner.width <= outer.left + outer.width &&
  inner.top + inner.height <= outer.top + outer.height;

export const wholeOf = ({ width, height }: Size): Window => ({ left: 0, top: 0, width, height });

/** The window with `margin` more pixels on each side, as far as the picture has them. */
export function grown(window: Window, margin: number, picture: Size): Window {
  const left = Math.max(0, window.left - margin);
  const top = Math.max(0, window.top - margin);
  return {
    left,
    top,
    width: Math.min(picture.width, window.left + window.width + margin) - left,
    height: Math.min(picture.height, window.top + window.height + margin) - top
  };
}

/**
 * The samples of a window and `margin` more on each side, the picture's outermost samples continued beyond its rim.
 * @throws RangeError when the patch does not reach as far as that takes
 */
export function cutOut(patch: Patch, window: Window, margin: number): Float32Array {
  const { picture } = patch;
  assertInside(window, picture);
  const needed = grown(window, margin, picture);
  if (
    needed.left < patch.left ||
    needed.top < patch.top ||
    needed.left + needed.width > patch.left + patch.width ||
    needed.top + needed.height > patch.top + patch.height
  )
    throw new RangeError(`the patch does not reach ${margin} pixels beyond the window`);
  const width = window.width + 2 * margin;
  const height = window.height + 2 * margin;
  const out = new Float32Array(width * height);
  const before = needed.left - (window.left - margin);
  const after = before + needed.width;
  for (let y = 0; y < height; y++) {
    const from = Math.min(picture.height - 1, Math.max(0, window.top - margin + y)) - patch.top;
    const start = from * patch.width + needed.left - patch.left;
    const row = y * width;
    out.set(patch.data.subarray(start, start + needed.width), row + before);
    out.fill(patch.data[start], row, row + before);
    out.fill(patch.data[start + needed.width - 1], row + after, row + width);
  }
  return out;
}

/** A patch of new numbers for a window of the same picture. */
export const madeFor = (patch: Patch, window: Window, data: Float32Array): Patch => ({
  picture: patch.picture,
  left: window.left,
  top: window.top,
  width: window.width,
  height: window.height,
  data
});

function assertInside(window: Window, picture: Size): void {
  const { left, top, width, height } = window;
  const whole = [left, top, width, height].every(Number.isInteger);
  if (!whole || left < 0 || top < 0 || width < 1 || height < 1)
    throw new RangeError(`a window needs whole pixels, got ${left}, ${top}, ${width} x ${height}`);
  if (left + width > picture.width || top + height > picture.height)
    throw new RangeError(
      `the window ${left}, ${top}, ${width} x ${height} leaves the picture of ${picture.width} x ${picture.height}`
    );
}

/** Back to whole samples of a kind, rounded and limited to what it holds. */
export function samplesOf<T extends Uint8Array | Uint16Array | Int16Array>(patch: Patch, into: T): T {
  if (into.length !== patch.data.length)
    throw new RangeError(`room for ${patch.data.length} samples needed, got ${into.length}`);
  const low = into instanceof Int16Array ? -32768 : 0;
  const high = into instanceof Uint8Array ? 255 : into instanceof Int16Array ? 32767 : 65535;
  for (let i = 0; i < into.length; i++) {
    const value = Math.round(patch.data[i]);
    into[i] = value < low ? low : value > high ? high : value;
  }
  return into;
}

/**
 * The samples that a part of a picture takes, each of those at its edges whole.
 * @param across @param down samples a unit of the part
 */
export function wholeSamples(
  { left, top, width, height }: Part,
  across: number,
  down: number,
  most: Size
): Window {
  const from = (value: number, side: number) => Math.max(0, Math.min(side - 1, Math.floor(value + 1e-6)));
  const [x, y] = [from(left * across, most.width), from(top * down, most.height)];
  return {
    left: x,
    top: y,
    width: Math.max(1, Math.min(most.width, Math.ceil((left + width) * across - 1e-6)) - x),
    height: Math.max(1, Math.min(most.height, Math.ceil((top + height) * down - 1e-6)) - y)
  };
}
