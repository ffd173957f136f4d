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
 * offsetX[x] + offsetY[y]; both are worked out once a frame. Outside the picture an offset is -1. Of a tilted picture each
 * screen pixel's place is worked out by itself.
 */
export function render(input: RenderInput): void {
  if (input.orientation.tiltDeg) return renderTilted(input);
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
    for (let x = from; x < to; x++) out[row + x] = colourAt(data, (base + across[x]) * 3, table);
    out.fill(background, row + to, row + screen.width);
  }
}

/** Where screen pixels lie in a tilted picture follows from three of them: a step across, and a step down. */
function renderTilted({
  level,
  picture,
  orientation,
  view,
  screen,
  table,
  out,
  background
}: RenderInput): void {
  const { raster, factor, left = 0, top = 0 } = level;
  const { data, width, height, channels } = raster;
  const at = (x: number, y: number) =>
    toImage(
      {
        x: view.center.x + (x + 0.5 - screen.width / 2) / view.zoom,
        y: view.center.y + (y + 0.5 - screen.height / 2) / view.zoom
      },
      picture,
      orientation
    );
  const [first, right, below] = [at(0, 0), at(1, 0), at(0, 1)];
  const across = { x: right.x - first.x, y: right.y - first.y };
  const down = { x: below.x - first.x, y: below.y - first.y };
  for (let y = 0; y < screen.height; y++) {
    let px = first.x + y * down.x;
    let py = first.y + y * down.y;
    const row = y * screen.width;
    for (let x = 0; x < screen.width; x++, px += across.x, py += across.y) {
      if (px < 0 || py < 0 || px >= picture.width || py >= picture.height) {
        out[row + x] = background;
        continue;
      }
      const sx = Math.max(0, Math.min(width - 1, Math.floor(px / factor) - left));
      const sy = Math.max(0, Math.min(height - 1, Math.floor(py / factor) - top));
      const sample = (sy * width + sx) * channels;
      out[row + x] = channels === 1 ? table[data[sample]] : colourAt(data, sample, table);
    }
  }
}

function colourAt(data: Raster['data'], at: number, table: Uint32Array): number {
  const red = table[data[at]] & 0xff;
  const green = table[data[at + 1]] & 0xff;
  const blue = table[data[at + 2]] & 0xff;
  return (0xff000000 | (blue << 16) | (green << 8) | red) >>> 0;
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
