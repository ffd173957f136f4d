import { halfOf, meanOfFour, quarters } from '../reduced';

/** A grey picture, or a coarser level of one, that marks are looked for in. */
export interface Plane {
  data: Float32Array;
  /** The steepest step from pixel to pixel of the picture as it came, at and beside each pixel of the plane. */
  steps: Float32Array;
  width: number;
  height: number;
}

/** A plane in full resolution. */
export function planeOf(data: Float32Array, width: number, height: number): Plane {
  const steps = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const across = x + 1 < width ? Math.abs(data[i + 1] - data[i]) : 0;
      const down = y + 1 < height ? Math.abs(data[i + width] - data[i]) : 0;
      steps[i] = Math.max(across, down);
    }
  return { data, steps, width, height };
}

/** Half the resolution: the mean of each four pixels, and the steepest step at any of them. */
export function halved({ data, steps, width, height }: Plane): Plane {
  return {
    data: quarters(data, width, height, meanOfFour),
    steps: quarters(steps, width, height, Math.max),
    ...halfOf({ width, height })
  };
}

/** The least or the greatest of a square window around each pixel; the window is cut at the rim. */
export function extreme(plane: Plane, size: number, greatest: boolean): Plane {
  const { width, height } = plane;
  const along = widened(plane.data, width, height, size, 1, greatest);
  return { ...plane, data: widened(along, width, height, size, width, greatest) };
}

/** Along rows (step 1) or columns (step width), by windows that double: as many steps as the size has bits. */
function widened(
  source: Float32Array,
  width: number,
  height: number,
  size: number,
  step: number,
  greatest: boolean
): Float32Array {
  const rows = step === 1;
  // In place: what a pixel is compared with lies further on and has not been changed yet.
  const data = source.slice();
  let reached = 1;
  while (reached < size) {
    const by = Math.min(reached, size - reached);
    // Windows that reach past the end are those that begin before it: cut there, they hold what is left.
    const [columns, lines] = rows ? [width - by, height] : [width, height - by];
    const ahead = by * step;
    for (let y = 0; y < lines; y++) {
      const end = y * width + columns;
      if (greatest) {
        for (let i = y * width; i < end; i++) if (data[i + ahead] > data[i]) data[i] = data[i + ahead];
      } else {
        for (let i = y * width; i < end; i++) if (data[i + ahead] < data[i]) data[i] = data[i + ahead];
      }
    }
    reached += by;
  }
  // So far each window begins at its pixel; it is to have it in its middle.
  const half = size >> 1;
  const out = new Float32Array(data.length);
  const early = (x: number, y: number) => {
    const at = (rows ? x : y) - half;
    const i = y * width + x;
    out[i] = firstOf(source, i, at + size, step, half + at, greatest);
  };
  if (!rows) {
    out.set(data.subarray(0, Math.max(0, height - half) * width), Math.min(half, height) * width);
    for (let y = 0; y < Math.min(half, height); y++) for (let x = 0; x < width; x++) early(x, y);
    return out;
  }
  for (let y = 0; y < height; y++) {
    const from = y * width;
    for (let x = 0; x < Math.min(half, width); x++) early(x, y);
    if (width > half) out.set(data.subarray(from, from + width - half), from + half);
  }
  return out;
}

/** A window that is cut where the picture begins: pixel by pixel, of the few there are. */
function firstOf(
  data: Float32Array,
  i: number,
  count: number,
  step: number,
  before: number,
  greatest: boolean
): number {
  let best = data[i - before * step];
  for (let k = 1; k < count; k++) {
    const value = data[i + (k - before) * step];
    if (greatest === value > best) best = value;
  }
  return best;
}
