import { gaussian } from '../../raster/filters/gaussian';
import { valueAt } from '../../raster/geometry/sampling';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { medianOf } from '../fit/linear';
import { topBetween } from '../fit/top';
import { nearby } from './nearby';

/** A straight edge that was found between two presses. */
export interface EdgeFound {
  /** The presses moved square to the edge onto it. */
  ends: [Point, Point];
  /** Share of its length over which it was seen, and median distance of those places from it. */
  seen: number;
  residualPx: number;
  /** How much stronger it is than the next edge beside it: 0 not at all, 1 there is none. */
  ahead: number;
}

/** Presses lie this near the edge, as a share of how far apart they are. */
const mostOff = 0.22;
const workPx = 160;
/** Presses nearer than this to one another tell no edge, in pixels. */
const leastApart = 40;
const columns = 48;
/** An edge that is nearer than this to another is the same one, in working pixels. */
const sameEdge = 4;

/**
 * A straight edge near the line of two rough presses, an end plate or a joint surface: where a picture changes most square to
 * it, all along. It may lie a little aside and lean a little. An edge that leaves the band, or another one nearly as strong
 * beside it, makes it none.
 * @returns null where no edge is seen over three fifths of the way
 */
export function edgeBetween(patch: Patch, presses: readonly [Point, Point]): EdgeFound | null {
  const [a, b] = presses;
  const apart = Math.hypot(b.x - a.x, b.y - a.y);
  if (!(apart >= leastApart)) return null;
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const around = nearby(patch, middle, 0.5 * apart + mostOff * apart + 8, workPx);
  if (!around) return null;
  const smooth = gaussian(around.patch, 1.2);
  const [from, to] = [around.within(a), around.within(b)];
  const length = apart / around.factor;
  const along = { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
  const square = { x: -along.y, y: along.x };
  const half = Math.max(4, mostOff * length);
  const rows = 2 * Math.ceil(half / step) + 1;
  // Ends of a surface are rounded: what lies well between them tells.
  const at = (column: number) => length * (0.06 + (0.88 * column) / (columns - 1));
  const slopes = Array.from({ length: columns }, (_, column) => {
    const p = { x: from.x + along.x * at(column), y: from.y + along.y * at(column) };
    const value = (off: number) => valueAt(smooth, p.x + square.x * off, p.y + square.y * off);
    return Float64Array.from({ length: rows }, (__, row) => {
      const off = (row - (rows - 1) / 2) * step;
      return value(off + 1) - value(off - 1);
    });
  });
  const lines = [1, -1].flatMap((sign) => straightest(slopes, sign, rows));
  const [best, ...others] = lines.toSorted((one, other) => other.strength - one.strength);
  if (!best || !(best.strength > 0)) return null;
  const beside = others.find((each) => Math.abs(each.offset - best.offset) > sameEdge);
  const fitted = settled(slopes, best, rows);
  if (!fitted || fitted.seen < leastSeen) return null;
  const offAt = (way: number) => fitted.offset + fitted.lean * (way / length - 0.5);
  const put = (way: number): Point =>
    around.back({
      x: from.x + along.x * way + square.x * offAt(way),
      y: from.y + along.y * way + square.y * offAt(way)
    });
  return {
    ends: [put(0), put(length)],
    seen: fitted.seen,
    residualPx: fitted.residual * around.factor,
    ahead: 1 - Math.max(0, beside?.strength ?? 0) / best.strength
  };
}
const leastSeen = 0.6;
const step = 0.5;

/** A line across the band: its offset at the middle and how much it gains from end to end, in working pixels. */
interface Line {
  offset: number;
  lean: number;
  sign: number;
  strength: number;
}

/** The straight lines along which the slope is steadily strong: the best of each offset that is higher than its neighbours. */
function straightest(slopes: readonly Float64Array[], sign: number, rows: number): Line[] {
  const half = (rows - 1) / 2;
  // One very strong place is no edge: each column counts up to a limit.
  const strong = slopes.map((column) => Math.max(...column.map((value) => sign * value)));
  const limit = Math.max(1e-9, 1.5 * medianOf(strong));
  const best: Line[] = [];
  for (let row = 1; row < rows - 1; row++) {
    let line: Line = { offset: (row - half) * step, lean: 0, sign, strength: -Infinity };
    for (let lean = -half; lean <= half; lean += 1) {
      let sum = 0;
      for (let column = 0; column < columns; column++) {
        const at = Math.round(row + lean * (column / (columns - 1) - 0.5));
        sum += at < 0 || at >= rows ? 0 : Math.max(-limit, Math.min(limit, sign * slopes[column][at]));
      }
      // A line far from the presses needs a little more.
      const off = Math.abs(row - half) / half;
      const strength = (sum / columns) * (1 - 0.25 * off - 0.15 * (Math.abs(lean) / half));
      if (strength > line.strength) line = { ...line, lean: lean * step, strength };
    }
    best.push(line);
  }
  return best.filter(
    ({ strength }, i) =>
      strength > 0 && strength >= (best[i - 1]?.strength ?? 0) && strength > (best[i + 1]?.strength ?? 0)
  );
}

/** The line moved to where each column is steepest near it, by medians of all pairs (Theil, 1950; Sen, 1968). */
function settled(
  slopes: readonly Float64Array[],
  { offset, lean, sign, strength }: Line,
  rows: number
): { offset: number; lean: number; seen: number; residual: number } | null {
  const half = (rows - 1) / 2;
  const places: { way: number; off: number }[] = [];
  slopes.forEach((column, i) => {
    const way = i / (columns - 1) - 0.5;
    const row = Math.round((offset + lean * way) / step + half);
    let at = -1;
    for (let k = Math.max(1, row - 4); k <= Math.min(rows - 2, row + 4); k++)
      if (at < 0 || sign * column[k] > sign * column[at]) at = k;
    if (at < 0 || sign * column[at] < 0.4 * strength) return;
    const shift = topBetween(sign * column[at - 1], sign * column[at], sign * column[at + 1]);
    places.push({ way, off: (at + shift - half) * step });
  });
  if (places.length < 0.4 * columns) return null;
  const leans = places.flatMap((one, i) =>
    places
      .slice(i + 1)
      .flatMap((other) => (other.way - one.way > 0.2 ? [(other.off - one.off) / (other.way - one.way)] : []))
  );
  if (leans.length === 0) return null;
  const tilt = medianOf(leans);
  const middle = medianOf(places.map(({ way, off }) => off - tilt * way));
  const away = places.map(({ way, off }) => Math.abs(off - middle - tilt * way));
  return {
    offset: middle,
    lean: tilt,
    seen: away.filter((each) => each <= nearPx).length / columns,
    residual: medianOf(away)
  };
}
const nearPx = 1.5;
