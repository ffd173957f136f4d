import type { Size } from './orientation';
import type { Raster } from './raster';

/**
 * The next level of the pyramid: half the size, rounded up, each sample the rounded mean of the two by two below it
 * (of fewer at an odd right or bottom edge).
 * Cost: one pass over the source.
 */
export function halved(source: Raster): Raster {
  const { width, height, channels, data } = source;
  const w = Math.ceil(width / 2);
  const h = Math.ceil(height / 2);
  const out =
    data instanceof Uint16Array ? new Uint16Array(w * h * channels) : new Uint8Array(w * h * channels);
  if (channels === 1) halveGrey(data, width, height, out);
  else halveColour(source, out);
  return { ...source, width: w, height: h, data: out };
}

/** Two by two at a time; what lies at an odd edge is taken twice, which is the mean of fewer. */
function halveGrey(data: Raster['data'], width: number, height: number, out: Raster['data']): void {
  const pairs = width >> 1;
  let to = 0;
  for (let y = 0; y < height; y += 2) {
    let top = y * width;
    let below = y + 1 < height ? top + width : top;
    for (let x = 0; x < pairs; x++, top += 2, below += 2)
      out[to++] = (data[top] + data[top + 1] + data[below] + data[below + 1] + 2) >> 2;
    if (width % 2 === 1) out[to++] = (2 * data[top] + 2 * data[below] + 2) >> 2;
  }
}

function halveColour({ width, height, channels, data }: Raster, out: Raster['data']): void {
  const w = Math.ceil(width / 2);
  const row = width * channels;
  for (let y = 0; y < Math.ceil(height / 2); y++) {
    const top = 2 * y * row;
    const below = 2 * y + 1 < height ? top + row : top;
    for (let x = 0; x < w; x++) {
      const left = 2 * x * channels;
      const right = 2 * x + 1 < width ? left + channels : left;
      const to = (y * w + x) * channels;
      for (let c = 0; c < channels; c++) {
        const sum =
          data[top + left + c] + data[top + right + c] + data[below + left + c] + data[below + right + c];
        out[to + c] = (sum + 2) >> 2;
      }
    }
  }
}

/** How many levels a picture has: the full one, and halves until the longer side is at most `smallestPx`. */
export function levelCount(width: number, height: number, smallestPx = 200): number {
  let count = 1;
  for (let side = Math.max(width, height); side > smallestPx; side = Math.ceil(side / 2)) count++;
  return count;
}

export function level(source: Raster, index: number): Raster {
  let at = source;
  for (let i = 0; i < index; i++) at = halved(at);
  return at;
}

/** The coarsest level that still has at least one sample for each screen pixel at this zoom. */
export function levelForZoom(zoom: number, count: number): number {
  if (!(zoom > 0)) return count - 1;
  return Math.max(0, Math.min(count - 1, Math.floor(Math.log2(1 / zoom) + 1e-9)));
}

/** The size of a level of a picture. `sizeOfLevel({ width: 13, height: 8 }, 2)` is 4 x 2. */
export function sizeOfLevel(full: Size, index: number): Size {
  let { width, height } = full;
  for (let i = 0; i < index; i++) [width, height] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  return { width, height };
}

/** The coarsest level whose longer side has at least this many samples; the full one where none has. */
export function levelAtLeast(full: Size, px: number): number {
  let index = 0;
  while (index + 1 < levelCount(full.width, full.height)) {
    const next = sizeOfLevel(full, index + 1);
    if (Math.max(next.width, next.height) < px) break;
    index += 1;
  }
  return index;
}
