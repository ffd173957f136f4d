import { type Orientation, type Size, toImage } from './orientation';
import type { Raster } from './raster';
import type { View } from './view';

/**
 * One level of a picture's pyramid. `factor` is how many full-size pixels one of its pixels spans on a side.
 */
export interface Level {
  raster: Raster;
  factor: number;
  /** Where in the level the raster begins, in its samples: at 0, 0 unless it is a part of it. */
  left?: number;
  top?: number;
}

export interface RenderInput {
  level: Level;
  /** Size of the full picture, not of the level. */
  picture: Size;
  orientation: Orientation;
  view: View;
  screen: Size;
  /** From {@link import('./look/table').pixelTable}; colour pictures look each channel up in the table's low byte. */
  table: Uint32Array;
  /** The screen's pixels, 0xAABBGGRR, screen.width x screen.height. */
  out: Uint32Array;
  background: number;
}

/**
 * Draws the visible window of a picture, nearest sample, in one pass over the screen: the cost depends on the screen
 * only. Turning, mirroring and zooming keep rows and columns apart, so the sample of a screen pixel is at
 * offsetX[x] + offsetY[y]; both are worked out once a frame. Outside the picture an offset is -1.
 */
export function render(input: RenderInput): void {
  const { level, screen, out, background } = input;
  const { raster } = level;
  const across = offsetsAlong(input, 'x');
  const down = offsetsAlong(input, 'y');
  if (raster.channels === 3) {
    renderColour(input, across, down);
    return;
  }
  const { data } = raster;
  const { table } = input;
  const [from, to] = insideRange(across);
  for (let y = 0; y < screen.height; y++) {
    const row = y * screen.width;
    const base = down[y];
    if (base < 0) {
      out.fill(background, row, row + screen.width);
      continue;
    }
    out.fill(background, row, row + from);
    for (let x = from; x < to; x++) out[row + x] = table[data[base + across[x]]];
    out.fill(background, row + to, row + screen.width);
  }
}

function renderColour(input: RenderInput, across: Int32Array, down: Int32Array): void {
  const { level, screen, out, background, table } = input;
  const { data } = level.raster;
  const [from, to] = insideRange(across);
  for (let y = 0; y < screen.height; y++) {
    const row = y * screen.width;
    const base = down[y];
    if (base < 0) {
      out.fill(background, row, row + screen.width);
      continue;
    }
    out.fill(background, row, row + from);
    for (let x = from; x < to; x++) {
      const at = (base + across[x]) * 3;
      const red = table[data[at]] & 0xff;
      const green = table[data[at + 1]] & 0xff;
      const blue = table[data[at + 2]] & 0xff;
      out[row + x] = (0xff000000 | (blue << 16) | (green << 8) | red) >>> 0;
    }
    out.fill(background, row + to, row + screen.width);
  }
}

/** First and one past the last screen column that shows the picture. */
function insideRange(offsets: Int32Array): [number, number] {
  let from = 0;
  while (from < offsets.length && offsets[from] < 0) from++;
  let to = offsets.length;
  while (to > from && offsets[to - 1] < 0) to--;
  return [from, to];
}

/** For each screen column (or row): what it adds to the sample's index, or -1 outside the picture. */
function offsetsAlong(input: RenderInput, axis: 'x' | 'y'): Int32Array {
  const { level, picture, orientation, view, screen } = input;
  const { raster, factor, left = 0, top = 0 } = level;
  const count = axis === 'x' ? screen.width : screen.height;
  const middle = count / 2;
  const offsets = new Int32Array(count);
  const turnedOnSide = orientation.quarterTurns % 2 === 1;
  const alongColumns = (axis === 'x') !== turnedOnSide;
  for (let i = 0; i < count; i++) {
    const oriented = { x: view.center.x, y: view.center.y };
    oriented[axis] += (i + 0.5 - middle) / view.zoom;
    const point = toImage(oriented, picture, orientation);
    const position = alongColumns ? point.x : point.y;
    const limit = alongColumns ? picture.width : picture.height;
    if (position < 0 || position >= limit) {
      offsets[i] = -1;
      continue;
    }
    const last = (alongColumns ? raster.width : raster.height) - 1;
    const index = Math.max(0, Math.min(last, Math.floor(position / factor) - (alongColumns ? left : top)));
    offsets[i] = alongColumns ? index : index * raster.width;
  }
  return offsets;
}
