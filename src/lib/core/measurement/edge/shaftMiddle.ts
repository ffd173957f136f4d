import { gaussian } from '../../raster/filters/gaussian';
import { valueAt } from '../../raster/geometry/sampling';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { medianOf } from '../fit/linear';
import { topBetween } from '../fit/top';
import { nearby } from './nearby';

/** The middle line of a shaft near two presses. */
export interface ShaftFound {
  /** The presses moved square to the way between them, onto the middle between both sides. */
  ends: [Point, Point];
  /** How wide the shaft is at either press. */
  widthsPx: [number, number];
  /** Share of the stations about each press at which both sides were seen at one width, the smaller of the two. */
  seen: number;
}

const workPx = 240;
const stations = 15;
/** Stations lie within this share of the way to either side of a press. */
const stretch = 0.09;
/** The width at one press may be so much of that at the other. */
const mostWider = 1.7;

/**
 * Middle of a shaft, a long bone's, at two rough presses inside it: on either side of each press the outermost side of the
 * wall, whose slopes look the same way at both presses. Whether bone is bright or dark is found from that.
 * @param most how far from a press a side may lie, in pixels of the patch
 * @returns null where the sides are not seen, or widths contradict each other
 */
export function shaftMiddle(patch: Patch, presses: readonly [Point, Point], most: number): ShaftFound | null {
  const [a, b] = presses;
  const apart = Math.hypot(b.x - a.x, b.y - a.y);
  if (!(apart >= 16)) return null;
  const square = { x: -(b.y - a.y) / apart, y: (b.x - a.x) / apart };
  const along = { x: (b.x - a.x) / apart, y: (b.y - a.y) / apart };
  const both = presses.map((press) => {
    const around = nearby(patch, press, Math.hypot(most, stretch * apart) + 4, workPx);
    if (!around) return null;
    const smooth = gaussian(around.patch, 1.2);
    const at = around.within(press);
    return {
      around,
      lines: stationsAt(smooth, at, along, square, (stretch * apart) / around.factor, most / around.factor)
    };
  });
  const [first, second] = both;
  if (!first || !second) return null;
  const options = ([1, -1] as const).flatMap((sign) => {
    const [one, other] = [first, second].map(({ around, lines }) => {
      const found = sidesOf(lines, sign);
      return found && { ...found, left: found.left * around.factor, right: found.right * around.factor };
    });
    if (!one || !other) return [];
    const [w1, w2] = [one.right - one.left, other.right - other.left];
    if (Math.max(w1 / w2, w2 / w1) > mostWider) return [];
    return [{ one, other, seen: Math.min(one.seen, other.seen), strength: one.strength + other.strength }];
  });
  // Seen both ways it is the walls' outer sides one way and the canal's the other; their middle is one.
  const [best, next] = options.toSorted((x, y) => y.seen * y.strength - x.seen * x.strength);
  if (!best || best.seen < leastSeen) return null;
  const middles = ({ one, other }: typeof best) => [one, other].map(({ left, right }) => (left + right) / 2);
  const widths: [number, number] = [best.one.right - best.one.left, best.other.right - best.other.left];
  if (next && next.seen >= leastSeen) {
    const off = middles(next).map((middle, i) => Math.abs(middle - middles(best)[i]) / widths[i]);
    if (Math.max(...off) > 0.25) return null;
  }
  const [m1, m2] = middles(best);
  return {
    ends: [
      { x: a.x + square.x * m1, y: a.y + square.y * m1 },
      { x: b.x + square.x * m2, y: b.y + square.y * m2 }
    ],
    widthsPx: widths,
    seen: best.seen
  };
}
const leastSeen = 0.6;

/** At each station how steep the picture is square to the way, from the far left to the far right. */
function stationsAt(
  smooth: Patch,
  at: Point,
  along: Point,
  square: Point,
  reach: number,
  most: number
): Float64Array[] {
  const count = 2 * Math.ceil(most) + 1;
  return Array.from({ length: stations }, (_, i) => {
    const way = reach * ((2 * i) / (stations - 1) - 1);
    const p = { x: at.x + along.x * way, y: at.y + along.y * way };
    const value = (off: number) => {
      // Along the shaft nothing changes: three places are one.
      let sum = 0;
      for (const k of [-1.5, 0, 1.5])
        sum += valueAt(smooth, p.x + square.x * off + along.x * k, p.y + square.y * off + along.y * k);
      return sum / 3;
    };
    return Float64Array.from({ length: count }, (__, k) => {
      const off = k - (count - 1) / 2;
      return value(off + 1) - value(off - 1);
    });
  });
}

/** Where both sides lie, as offsets from the press in working pixels: medians over the stations that agree. */
function sidesOf(
  lines: readonly Float64Array[],
  sign: number
): { left: number; right: number; seen: number; strength: number } | null {
  const sides = lines.flatMap((slopes) => {
    const middle = (slopes.length - 1) / 2;
    const left = sideOf(slopes, middle, -1, sign);
    const right = sideOf(slopes, middle, 1, -sign);
    return left && right ? [{ left: left.off, right: right.off, strength: left.slope + right.slope }] : [];
  });
  if (sides.length < 5) return null;
  const [left, right] = [medianOf(sides.map((each) => each.left)), medianOf(sides.map((each) => each.right))];
  const near = Math.max(2, 0.12 * (right - left));
  const agree = sides.filter(
    (each) => Math.abs(each.left - left) <= near && Math.abs(each.right - right) <= near
  );
  if (agree.length === 0) return null;
  return {
    left: agree.reduce((sum, each) => sum + each.left, 0) / agree.length,
    right: agree.reduce((sum, each) => sum + each.right, 0) / agree.length,
    seen: agree.length / lines.length,
    strength: medianOf(agree.map((each) => each.strength))
  };
}

/** The first strong slope outwards from the press: strong against the strongest on that way. */
function sideOf(
  slopes: Float64Array,
  middle: number,
  way: 1 | -1,
  sign: number
): { off: number; slope: number } | null {
  const of = (k: number) => sign * slopes[middle + way * k];
  let strongest = 0;
  for (let k = 1; k < middle; k++) strongest = Math.max(strongest, of(k));
  if (!(strongest > 0)) return null;
  for (let k = 1; k < middle; k++) {
    const here = of(k);
    if (here < 0.55 * strongest || here < of(k - 1) || here < of(k + 1)) continue;
    return { off: way * (k + topBetween(of(k - 1), here, of(k + 1))), slope: here };
  }
  return null;
}
