import { gaussian } from '../../raster/filters/gaussian';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { nearby } from './nearby';
import { steepness } from './steepness';

/** The end of a tooth's root near a press, in pixels of the patch. */
export interface RootFound {
  /** The lowest point of the outline, seen from the crown. */
  tip: Point;
  /** The outline from one side round the tip to the other. */
  outline: Point[];
  /** The middle between both sides, from the tip upwards as far as the root was followed. */
  middle: Point[];
  /** Half its width where it begins to be round. */
  halfPx: number;
  /** How much of what an outline shows was seen along it: 1 all of it everywhere, about 0 by chance. */
  seen: number;
  /** How much better it is seen than the next one whose tip lies elsewhere: 0 not at all. */
  ahead: number;
}

const workPx = 150;
/** Presses nearer than this to one another tell no root, in pixels. */
const leastApart = 40;

/** One side of a root: how far to the right it lies at the base, and what that gains below, in working pixels. */
interface Side {
  at: number;
  lean: number;
  bend: number;
}
/** A root's lower part: both sides, how far below the base its tip lies, how high its rounded end is, and how wide its ligament. */
interface Shape {
  left: Side;
  right: Side;
  end: number;
  cap: number;
  gap: number;
}

/**
 * The end of a root near a rough press. Of all pairs of lines that could be its sides the likeliest are taken, and of all rounded
 * ends between them the one along whose outline the picture falls most outwards, against how much it changes about there
 * anyway, rises again across the gap of the ligament, and falls once more behind the wall of the socket. Whether the root is
 * bright or dark is found from that.
 * @param upper a place in the middle of the root, near its upper end
 * @param press near the root's end
 * @returns null where presses lie too near to one another or outside, or no root fits between them
 */
export function rootEnd(patch: Patch, upper: Point, press: Point): RootFound | null {
  const apart = Math.hypot(press.x - upper.x, press.y - upper.y);
  if (!(apart >= leastApart)) return null;
  const centre = { x: upper.x + 0.7 * (press.x - upper.x), y: upper.y + 0.7 * (press.y - upper.y) };
  const around = nearby(patch, centre, 0.75 * apart, workPx);
  if (!around) return null;
  const field = fieldOf(around.patch, apart / around.factor);
  const way = wayOf(around.within(upper), around.within(press));
  const [bright, dark] = [bestShape(field, way, 1), bestShape(field, way, -1)];
  const found = dark && dark.score > (bright?.score ?? 0) ? dark : bright;
  if (!found || !(found.score > 0)) return null;
  const { tip, middle, sides } = outlineOf(found.shape, way);
  return {
    tip: around.back(tip),
    outline: [...sides[0], tip, ...sides[1].toReversed()].map(around.back),
    middle: middle.map(around.back),
    halfPx: halfAt(found.shape, found.shape.end - found.shape.cap) * around.factor,
    seen: found.score,
    ahead: found.ahead
  };
}

/** How steep the picture is at each pixel against how steep it is about there. */
interface Field {
  dx: Float32Array;
  dy: Float32Array;
  width: number;
  height: number;
}
function fieldOf(patch: Patch, length: number): Field {
  const smooth = gaussian(patch, 1.1);
  const { width, height } = smooth;
  const { dx, dy, slope } = steepness(smooth);
  const squares = gaussian({ ...smooth, data: slope.map((value) => value * value) }, 0.06 * length).data;
  const usual = Math.sqrt(squares.reduce((sum, value) => sum + value, 0) / squares.length) || 1;
  for (let i = 0; i < dx.length; i++) {
    const about = Math.sqrt(Math.max(0, squares[i])) + 0.15 * usual;
    dx[i] /= about;
    dy[i] /= about;
  }
  return { dx, dy, width, height };
}

interface Outline {
  tip: Point;
  middle: Point[];
  /** Both downwards. */
  sides: [Point[], Point[]];
}
interface Scored {
  shape: Shape;
  score: number;
}
/** Where the way between the presses leads: places are told by how far below its base and how far to the right they are. */
interface Way {
  base: Point;
  down: Point;
  right: Point;
  length: number;
}

/** The base lies so far above the press, and the sides are followed so far above that; shares of the way between the presses. */
const baseShare = 0.3;
const aboveShare = 0.2;
/** A press lies this near the tip. */
const mostOff = 0.14;
/** Tips that are further apart than this are others. */
const sameTip = 0.035;
/** Of the ligament, where nothing is known of it yet. */
const gapShare = 0.022;
const caps = [0.05, 0.1, 0.17];
const refined = 6;

function wayOf(from: Point, to: Point): Way {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const down = { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
  return {
    down,
    right: { x: -down.y, y: down.x },
    base: { x: to.x - down.x * baseShare * length, y: to.y - down.y * baseShare * length },
    length
  };
}

/** The best shape of a root that is bright (sign 1) or dark, and how much better it is than the next; null where none is possible. */
function bestShape(field: Field, way: Way, sign: number): (Scored & { ahead: number }) | null {
  const { length } = way;
  const gap = gapShare * length;
  const scored = (shape: Shape): Scored => ({
    shape,
    score: held(field, outlineOf(shape, way).sides, shape.gap, sign)
  });
  const [lefts, rights] = ([-1, 1] as const).map((hand) => sidesOf(field, way, hand, sign, gap));
  const coarse: Scored[] = [];
  for (let end = (baseShare - mostOff) * length; end <= (baseShare + mostOff) * length; end += 2) {
    const shapes = lefts
      .flatMap((left) =>
        rights.flatMap((right) => caps.map((cap) => ({ left, right, end, cap: cap * length, gap })))
      )
      .filter((shape) => possible(shape, length));
    coarse.push(...shapes.map(scored).sort(betterFirst).slice(0, 1));
  }
  // The best few that lie apart, each made better.
  const kept: Scored[] = [];
  for (const each of coarse.sort(betterFirst))
    if (
      kept.length < refined &&
      kept.every(({ shape }) => Math.abs(shape.end - each.shape.end) > 0.03 * length)
    )
      kept.push(each);
  const [best, ...others] = kept.map(({ shape }) => climbed(shape, scored, length)).sort(betterFirst);
  if (!best) return null;
  const tip = tipOf(best.shape, way);
  const other = others.find(({ shape }) => {
    const { x, y } = tipOf(shape, way);
    return Math.hypot(x - tip.x, y - tip.y) > sameTip * length;
  });
  return { ...best, ahead: 1 - Math.max(0, other?.score ?? 0) / best.score };
}
const betterFirst = (one: Scored, other: Scored) => other.score - one.score;

const on = ({ at, lean, bend }: Side, s: number) => at + s * (lean + s * bend);
const halfAt = ({ left, right }: Shape, s: number) => (on(right, s) - on(left, s)) / 2;
const middleAt = ({ left, right }: Shape, s: number) => (on(right, s) + on(left, s)) / 2;
const tipOf = (shape: Shape, way: Way) => placeOf(way, shape.end, middleAt(shape, shape.end));
const placeOf = ({ base, down, right }: Way, s: number, u: number): Point => ({
  x: base.x + down.x * s + right.x * u,
  y: base.y + down.y * s + right.y * u
});

/** The lines above the end that look most like one side of a root, each unlike the others. */
function sidesOf(field: Field, way: Way, hand: 1 | -1, sign: number, gap: number): Side[] {
  const { length } = way;
  const stations = Array.from(
    { length: 20 },
    (_, i) => (-aboveShare + (i / 19) * (aboveShare + 0.16)) * length
  );
  const all: { side: Side; score: number }[] = [];
  for (let off = 0.04 * length; off <= 0.26 * length; off += 1.5)
    for (let lean = -0.45; lean <= 0.25; lean += 0.05)
      for (const bend of [-0.4, 0, 0.4]) {
        const side = { at: hand * off, lean: hand * lean, bend: (hand * bend) / length };
        const points = stations.map((s) => placeOf(way, s, on(side, s)));
        const score = looks(field, points, hand, gap, sign) - 0.4 * (off / length);
        all.push({ side, score });
      }
  all.sort((one, other) => other.score - one.score);
  const kept: Side[] = [];
  for (const { side } of all) {
    if (kept.length === 4) break;
    const apart = (one: Side, s: number) => Math.abs(on(one, s) - on(side, s));
    if (kept.every((one) => apart(one, 0) + apart(one, 0.15 * length) > 0.03 * length)) kept.push(side);
  }
  return kept;
}

/** Step by step in one of its parts as long as that makes it better, with ever smaller steps. */
function climbed(shape: Shape, scored: (shape: Shape) => Scored, length: number): Scored {
  let best = scored(shape);
  const sides = (['left', 'right'] as const).flatMap((hand) =>
    (
      [
        ['at', 0.012 * length],
        ['lean', 0.06],
        ['bend', 0.3 / length]
      ] as const
    ).map(([part, step]) => (by: number): Shape => {
      const { shape: from } = best;
      return { ...from, [hand]: { ...from[hand], [part]: from[hand][part] + by * step } };
    })
  );
  const rest = (
    [
      ['end', 0.015 * length],
      ['cap', 0.03 * length],
      ['gap', 0.005 * length]
    ] as const
  ).map(([part, step]) => (by: number): Shape => ({ ...best.shape, [part]: best.shape[part] + by * step }));
  for (let size = 1; size > 0.1; size /= 2)
    for (let again = true, rounds = 0; again && rounds < 8; rounds++) {
      again = false;
      for (const changed of [...rest, ...sides])
        for (const by of [-size, size]) {
          const tried = changed(by);
          if (!possible(tried, length)) continue;
          const next = scored(tried);
          if (next.score > best.score + 1e-6) [best, again] = [next, true];
        }
    }
  return best;
}

/** Roots get no wider downwards, and end rounded and near the press. */
function possible(shape: Shape, length: number): boolean {
  const { end, cap, gap } = shape;
  const [half, atBase, above] = [end - cap, 0, -aboveShare * length].map((s) => halfAt(shape, s) / length);
  return (
    half > 0.025 &&
    half <= atBase + 0.01 &&
    atBase < 0.22 &&
    above >= atBase - 0.01 &&
    cap > 0.7 * half * length &&
    cap < 0.8 * end &&
    Math.abs(end - baseShare * length) < 1.15 * mostOff * length &&
    Math.abs(middleAt(shape, end)) < 1.15 * mostOff * length &&
    gap > 0.01 * length &&
    gap < 0.045 * length
  );
}

/** Places of an outline: more where it is round. */
const rounded = 12;
const straight = 16;

function outlineOf(shape: Shape, way: Way): Outline {
  const { end, cap } = shape;
  const from = end - cap;
  const top = -aboveShare * way.length;
  const stations = [
    ...Array.from({ length: straight }, (_, i) => top + ((i + 0.5) * (from - top)) / straight),
    ...Array.from({ length: rounded }, (_, i) => from + cap * Math.sin(((i + 0.5) / rounded) * (Math.PI / 2)))
  ];
  const half = (s: number) => halfAt(shape, s) * (s > from ? Math.sqrt(1 - ((s - from) / cap) ** 2) : 1);
  const side = (hand: 1 | -1) => stations.map((s) => placeOf(way, s, middleAt(shape, s) + hand * half(s)));
  return {
    tip: tipOf(shape, way),
    middle: [end, ...stations.toReversed()].map((s) => placeOf(way, s, middleAt(shape, s))),
    sides: [side(-1), side(1)]
  };
}

/** How much of the outline is seen: the side that is seen less counts most. */
function held(field: Field, sides: readonly Point[][], gap: number, sign: number): number {
  const each = sides.map((points, side) => looks(field, points, side === 0 ? -1 : 1, gap, sign));
  return 0.65 * Math.min(...each) + 0.35 * Math.max(...each);
}

/** How much a line downwards looks like the side of a root at this hand of it. */
function looks(field: Field, points: readonly Point[], hand: 1 | -1, gap: number, sign: number): number {
  let sum = 0;
  for (let i = 0; i < points.length; i++) {
    const [a, b] = [points[Math.max(0, i - 1)], points[Math.min(points.length - 1, i + 1)]];
    const long = Math.sqrt((b.x - a.x) ** 2 + (b.y - a.y) ** 2) || 1;
    const nx = (-hand * (b.y - a.y)) / long;
    const ny = (hand * (b.x - a.x)) / long;
    const { x, y } = points[i];
    const fall = -sign * along(field, x, y, nx, ny);
    const rise = sign * along(field, x + gap * nx, y + gap * ny, nx, ny);
    const wall = -sign * along(field, x + 2.2 * gap * nx, y + 2.2 * gap * ny, nx, ny);
    sum += clipped(fall) + riseWorth * clipped(rise) + wallWorth * clipped(wall);
  }
  return sum / (points.length * (1 + riseWorth + wallWorth));
}
const riseWorth = 0.7;
const wallWorth = 0.3;
const clipped = (value: number) => Math.max(-0.7, Math.min(1, value));

function along({ dx, dy, width, height }: Field, x: number, y: number, nx: number, ny: number): number {
  const [u, v] = [Math.floor(x), Math.floor(y)];
  if (u < 0 || v < 0 || u >= width || v >= height) return 0;
  const i = v * width + u;
  return dx[i] * nx + dy[i] * ny;
}
