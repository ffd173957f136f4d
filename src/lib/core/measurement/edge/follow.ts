import { reducedTo } from '../../raster/reduced';
import type { Point } from '../../raster/orientation';
import { type Patch, type Window, grown } from '../../raster/patch';
import { type WayTree, cheapestWays, wayTo } from './cheapest';
import { type CostMap, costsOf, slopes, strongestOf } from './cost';

/** The small picture has at most this many pixels on its longer side: one sweep over it is a moment's work. */
const smallSidePx = 400;
/** The exact way stays this many small pixels from the quick one. */
const corridor = 2.5;

/** What following edges in a picture needs: made once when the picture opens. */
export interface EdgeFollower {
  full: Patch;
  small: CostMap;
  factor: number;
}

/** The ways from one point of the picture, ready for any pointer position: made once when the point is set. */
export interface FollowedFrom {
  start: Point;
  tree: WayTree;
}

/** @param full the whole picture */
export function edgeFollower(full: Patch): EdgeFollower {
  const { small, factor } = reducedTo(full, smallSidePx);
  const slope = slopes(small, small);
  const { left, top, width, height } = small;
  return { full, small: { left, top, width, height, cost: costsOf(slope, strongestOf(slope)) }, factor };
}

export function followedFrom(follower: EdgeFollower, start: Point): FollowedFrom {
  return { start, tree: cheapestWays(follower.small, smallAt(follower, start)) };
}

/** The way to the pointer at once, to a few pixels: from the small picture. Both ends are exactly where they were set. */
export function quickWay(follower: EdgeFollower, from: FollowedFrom, to: Point): Point[] {
  const way = wayTo(from.tree, smallAt(follower, to))!;
  const { width } = follower.small;
  const inner = way.slice(1, -1).map((at) => ({
    x: ((at % width) + 0.5) * follower.factor,
    y: (Math.floor(at / width) + 0.5) * follower.factor
  }));
  return [from.start, ...inner, to];
}

/** The way at full size, within a corridor along the quick one, smoothed over a few pixels. */
export function exactWay(follower: EdgeFollower, from: FollowedFrom, to: Point): Point[] {
  const quick = quickWay(follower, from, to);
  const { full, factor } = follower;
  const reach = Math.max(6, Math.ceil(corridor * factor));
  const xs = quick.map(({ x }) => x);
  const ys = quick.map(({ y }) => y);
  const left = Math.max(0, Math.floor(Math.min(...xs)) - reach);
  const top = Math.max(0, Math.floor(Math.min(...ys)) - reach);
  const window = grown(
    {
      left,
      top,
      width: Math.max(1, Math.min(full.width, Math.ceil(Math.max(...xs)) + reach) - left),
      height: Math.max(1, Math.min(full.height, Math.ceil(Math.max(...ys)) + reach) - top)
    },
    0,
    full.picture
  );
  const near = new Uint8Array(window.width * window.height);
  for (let i = 1; i < quick.length; i++) {
    const [a, b] = [quick[i - 1], quick[i]];
    const steps = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / (reach / 2)));
    for (let k = 0; k <= steps; k++) {
      const cx = a.x + ((b.x - a.x) * k) / steps - window.left;
      const cy = a.y + ((b.y - a.y) * k) / steps - window.top;
      const y0 = Math.max(0, Math.floor(cy - reach));
      const y1 = Math.min(window.height - 1, Math.ceil(cy + reach));
      const x0 = Math.max(0, Math.floor(cx - reach));
      const x1 = Math.min(window.width - 1, Math.ceil(cx + reach));
      for (let y = y0; y <= y1; y++) near.fill(1, y * window.width + x0, y * window.width + x1 + 1);
    }
  }
  const slope = slopesWhere(full, window, near);
  const cost = costsOf(slope.slice(), strongestOf(slope));
  const map: CostMap = { ...window, cost };
  const place = ({ x, y }: Point) =>
    clamp(Math.floor(y) - window.top, window.height) * window.width +
    clamp(Math.floor(x) - window.left, window.width);
  const goal = place(to);
  const way = wayTo(
    cheapestWays(map, place(from.start), goal, (at) => near[at] === 1),
    goal
  );
  if (!way) return quick;
  const points = way.map((at) => ({
    x: (at % window.width) + 0.5 + window.left,
    y: Math.floor(at / window.width) + 0.5 + window.top
  }));
  return [from.start, ...smoothed(snapped(points, slope, window)).slice(1, -1), to];
}

const clamp = (value: number, count: number) => Math.min(count - 1, Math.max(0, value));

function smallAt({ small, factor }: EdgeFollower, { x, y }: Point): number {
  if (!(Number.isFinite(x) && Number.isFinite(y)))
    throw new RangeError('the point to follow from is missing');
  return (
    clamp(Math.floor(y / factor), small.height) * small.width + clamp(Math.floor(x / factor), small.width)
  );
}

const tilePx = 64;

/** Slopes of a window, worked out only for the tiles that the corridor touches; 0 elsewhere. */
function slopesWhere(full: Patch, window: Window, near: Uint8Array): Float32Array {
  const { width, height } = window;
  const out = new Float32Array(width * height);
  for (let top = 0; top < height; top += tilePx) {
    for (let left = 0; left < width; left += tilePx) {
      const tile = {
        left: window.left + left,
        top: window.top + top,
        width: Math.min(tilePx, width - left),
        height: Math.min(tilePx, height - top)
      };
      let touched = false;
      for (let y = 0; y < tile.height && !touched; y++) {
        const row = (top + y) * width + left;
        touched = near.subarray(row, row + tile.width).includes(1);
      }
      if (!touched) continue;
      const part = slopes(full, tile);
      for (let y = 0; y < tile.height; y++)
        out.set(part.subarray(y * tile.width, (y + 1) * tile.width), (top + y) * width + left);
    }
  }
  return out;
}

/** Each point moved square to the way to where the slope is greatest, to a part of a pixel. */
function snapped(points: Point[], slope: Float32Array, window: Window): Point[] {
  const reach = 3;
  const ahead = 4;
  const at = (x: number, y: number): number => {
    const px = clamp(Math.floor(x) - window.left, window.width);
    const py = clamp(Math.floor(y) - window.top, window.height);
    return slope[py * window.width + px];
  };
  return points.map((own, i) => {
    const a = points[Math.max(0, i - ahead)];
    const b = points[Math.min(points.length - 1, i + ahead)];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    if (length === 0) return own;
    const [nx, ny] = [-(b.y - a.y) / length, (b.x - a.x) / length];
    const values = Array.from({ length: 2 * reach + 1 }, (_, k) =>
      at(own.x + (k - reach) * nx, own.y + (k - reach) * ny)
    );
    let weight = 0;
    let moment = 0;
    const best = values.indexOf(Math.max(...values));
    for (let k = Math.max(0, best - 2); k <= Math.min(2 * reach, best + 2); k++) {
      weight += values[k] ** 2;
      moment += values[k] ** 2 * (k - reach);
    }
    if (!(weight > 0)) return own;
    return { x: own.x + (moment / weight) * nx, y: own.y + (moment / weight) * ny };
  });
}

/** Steps of whole pixels look like stairs: a mean over five of them does not. */
function smoothed(points: Point[]): Point[] {
  const reach = 2;
  return points.map((own, i) => {
    if (i < reach || i >= points.length - reach) return own;
    let [x, y] = [0, 0];
    for (let k = -reach; k <= reach; k++) {
      x += points[i + k].x;
      y += points[i + k].y;
    }
    return { x: x / (2 * reach + 1), y: y / (2 * reach + 1) };
  });
}
