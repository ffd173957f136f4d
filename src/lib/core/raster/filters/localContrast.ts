import type { Size } from '../orientation';
import { type Patch, type Window, cutOut, madeFor } from '../patch';

export interface LocalContrast {
  /** Tiles along the longer side of the picture, 2 to 32. */
  tiles: number;
  /** A bin may hold this many times its even share, 1 (no change) to 40. */
  clip: number;
  /** The values the picture can have. What lies outside is taken as the nearest. */
  low: number;
  high: number;
}

const bins = 256;

interface Grid {
  tilePx: number;
  columns: number;
  rows: number;
}

function gridOf(picture: Size, tiles: number): Grid {
  const tilePx = Math.max(8, Math.ceil(Math.max(picture.width, picture.height) / tiles));
  return { tilePx, columns: Math.ceil(picture.width / tilePx), rows: Math.ceil(picture.height / tilePx) };
}

export function localContrastMargin(picture: Size, { tiles }: LocalContrast): number {
  return 2 * gridOf(picture, tiles).tilePx;
}

/**
 * Contrast-limited adaptive histogram equalisation (Zuiderveld, 1994): each tile of the picture has its own table, what
 * a bin holds above the limit is spread over all, and between tile middles the four nearest tables are interpolated,
 * and within a bin its two ends. The grid belongs to the picture, so windows join.
 */
export function localContrast(patch: Patch, wish: LocalContrast, window: Window = patch): Patch {
  const { tiles, clip, low, high } = wish;
  if (!(tiles >= 2 && tiles <= 32)) throw new RangeError(`tiles must be 2 to 32, got ${tiles}`);
  if (!(clip >= 1 && clip <= 40)) throw new RangeError(`clip must be 1 to 40, got ${clip}`);
  if (!(high > low)) throw new RangeError(`high must be above low, got ${low} and ${high}`);
  const { picture } = patch;
  const grid = gridOf(picture, tiles);
  const { tilePx, columns, rows } = grid;
  const tables: (Float32Array | undefined)[] = [];
  const table = (column: number, row: number): Float32Array =>
    (tables[row * columns + column] ??= tileTable(patch, grid, column, row, wish));
  const out = cutOut(patch, window, 0);
  const toBin = bins / (high - low);
  for (let y = 0; y < window.height; y++) {
    const gy = (window.top + y + 0.5) / tilePx - 0.5;
    const row = Math.floor(gy);
    const v = Math.fround(gy - row);
    const upper = clamp(row, rows);
    const lower = clamp(row + 1, rows);
    let x = 0;
    while (x < window.width) {
      const column = Math.floor((window.left + x + 0.5) / tilePx - 0.5);
      const end = Math.min(window.width, Math.ceil((column + 1.5) * tilePx - 0.5) - window.left);
      const a = table(clamp(column, columns), upper);
      const b = table(clamp(column + 1, columns), upper);
      const c = table(clamp(column, columns), lower);
      const d = table(clamp(column + 1, columns), lower);
      for (; x < end; x++) {
        const u = (window.left + x + 0.5) / tilePx - 0.5 - column;
        const at = y * window.width + x;
        const place = (out[at] - low) * toBin;
        const inside = place < 0 ? 0 : place > bins ? bins : place;
        const bin = inside === bins ? bins - 1 : inside | 0;
        const share = inside - bin;
        const ua = a[bin] + (a[bin + 1] - a[bin]) * share;
        const ub = b[bin] + (b[bin + 1] - b[bin]) * share;
        const uc = c[bin] + (c[bin + 1] - c[bin]) * share;
        const ud = d[bin] + (d[bin + 1] - d[bin]) * share;
        const above = ua + (ub - ua) * u;
        out[at] = above + (uc + (ud - uc) * u - above) * v;
      }
    }
  }
  return madeFor(patch, window, out);
}

const clamp = (i: number, count: number) => Math.min(count - 1, Math.max(0, i));

/** From each bin's lower edge to a value from `low` to `high`. */
function tileTable(
  patch: Patch,
  { tilePx }: Grid,
  column: number,
  row: number,
  { clip, low, high }: LocalContrast
): Float32Array {
  const left = column * tilePx;
  const top = row * tilePx;
  const right = Math.min(patch.picture.width, left + tilePx);
  const bottom = Math.min(patch.picture.height, top + tilePx);
  if (
    left < patch.left ||
    top < patch.top ||
    right > patch.left + patch.width ||
    bottom > patch.top + patch.height
  )
    throw new RangeError('the patch does not reach as far as local contrast needs');
  const counts = new Float64Array(bins);
  const toBin = bins / (high - low);
  for (let y = top; y < bottom; y++) {
    const from = (y - patch.top) * patch.width - patch.left;
    for (let x = left; x < right; x++) {
      const bin = ((patch.data[from + x] - low) * toBin) | 0;
      counts[bin < 0 ? 0 : bin > bins - 1 ? bins - 1 : bin]++;
    }
  }
  const total = (right - left) * (bottom - top);
  const limit = (clip * total) / bins;
  let over = 0;
  for (let i = 0; i < bins; i++) {
    if (counts[i] > limit) {
      over += counts[i] - limit;
      counts[i] = limit;
    }
  }
  const table = new Float32Array(bins + 1);
  let sum = 0;
  for (let i = 0; i < bins; i++) {
    table[i] = low + ((high - low) * sum) / total;
    sum += counts[i] + over / bins;
  }
  table[bins] = high;
  return table;
}
