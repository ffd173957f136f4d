import { gaussian } from '../../raster/filters/gaussian';

/**
 * A Gaussian of some pixels by three running means along rows and columns (Wells, 1986): the same cost whatever its
 * size. In place; edges are continued. Narrow ones are added up tap by tap.
 */
export function gaussianByMeans(map: Float32Array, width: number, height: number, sigmaPx: number): void {
  if (!(sigmaPx > 0)) return;
  if (sigmaPx < leastByMeansPx) {
    const picture = { width, height };
    map.set(gaussian({ picture, left: 0, top: 0, width, height, data: map }, sigmaPx).data);
    return;
  }
  for (const radius of meanRadii(sigmaPx)) {
    if (radius === 0) continue;
    rowsMean(map, width, height, radius);
    columnsMean(map, width, height, radius);
  }
}

/** Whole windows are too coarse for anything narrower: there the Gaussian is added up tap by tap. */
const leastByMeansPx = 2.2;

/** Three window sizes whose variances add up to sigma squared as nearly as whole pixels allow. */
function meanRadii(sigmaPx: number): number[] {
  const passes = 3;
  const ideal = Math.sqrt((12 * sigmaPx * sigmaPx) / passes + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const upper = lower + 2;
  const count = Math.round(
    (12 * sigmaPx * sigmaPx - passes * lower * lower - 4 * passes * lower - 3 * passes) / (-4 * lower - 4)
  );
  return Array.from({ length: passes }, (_, i) => ((i < count ? lower : upper) - 1) / 2);
}

function rowsMean(map: Float32Array, width: number, height: number, r: number): void {
  const line = new Float32Array(width);
  const share = 1 / (2 * r + 1);
  for (let y = 0; y < height; y++) {
    const row = map.subarray(y * width, (y + 1) * width);
    let sum = 0;
    for (let i = -r; i <= r; i++) sum += row[Math.min(width - 1, Math.max(0, i))];
    for (let x = 0; x < width; x++) {
      line[x] = sum * share;
      sum += row[Math.min(width - 1, x + r + 1)] - row[Math.max(0, x - r)];
    }
    row.set(line);
  }
}

/** Row by row with one running sum a column, so that memory is read in order. */
function columnsMean(map: Float32Array, width: number, height: number, r: number): void {
  const sums = new Float64Array(width);
  const share = 1 / (2 * r + 1);
  const kept = new Float32Array((r + 1) * width);
  const source = (y: number) => Math.min(height - 1, Math.max(0, y)) * width;
  for (let i = -r; i <= r; i++) {
    const at = source(i);
    for (let x = 0; x < width; x++) sums[x] += map[at + x];
  }
  for (let y = 0; y < height; y++) {
    const out = y * width;
    const slot = (y % (r + 1)) * width;
    const enters = source(y + r + 1);
    const leaving = Math.max(0, y - r);
    const keptAt = (leaving % (r + 1)) * width;
    // Rows above are overwritten by now; those still inside the window were kept as they were.
    for (let x = 0; x < width; x++) {
      const here = map[out + x];
      const old = leaving === y ? here : kept[keptAt + x];
      kept[slot + x] = here;
      map[out + x] = sums[x] * share;
      sums[x] += map[enters + x] - old;
    }
  }
}

/**
 * A wide Gaussian as a new map: blurred on a grid as coarse as a sixth of it, and interpolated back. What is lost is far
 * below what such a width could show.
 */
export function wideGaussian(
  map: Float32Array,
  width: number,
  height: number,
  sigmaPx: number
): Float32Array {
  const step = Math.max(1, Math.floor(sigmaPx / 6));
  const columns = Math.ceil(width / step);
  const rows = Math.ceil(height / step);
  const coarse = new Float32Array(columns * rows);
  const counts = new Float32Array(columns * rows);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / step) * columns;
    for (let x = 0; x < width; x++) {
      const at = row + Math.floor(x / step);
      coarse[at] += map[y * width + x];
      counts[at]++;
    }
  }
  for (let i = 0; i < coarse.length; i++) coarse[i] /= counts[i];
  gaussianByMeans(coarse, columns, rows, sigmaPx / step);
  const out = new Float32Array(map.length);
  const place = (i: number, count: number) => Math.min(count - 1, Math.max(0, (i + 0.5) / step - 0.5));
  for (let y = 0; y < height; y++) {
    const gy = place(y, rows);
    const top = Math.floor(gy);
    const v = gy - top;
    const upper = top * columns;
    const lower = Math.min(rows - 1, top + 1) * columns;
    for (let x = 0; x < width; x++) {
      const gx = place(x, columns);
      const left = Math.floor(gx);
      const u = gx - left;
      const right = Math.min(columns - 1, left + 1);
      const a = coarse[upper + left] + (coarse[upper + right] - coarse[upper + left]) * u;
      const b = coarse[lower + left] + (coarse[lower + right] - coarse[lower + left]) * u;
      out[y * width + x] = a + (b - a) * v;
    }
  }
  return out;
}
