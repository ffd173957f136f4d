import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type Patch, patchOf } from '../../raster/patch';
import { cheapestWays, wayTo } from './cheapest';
import { edgeFollower, exactWay, followedFrom, quickWay } from './follow';

const center = { x: 430, y: 380 };
const radius = 210;

/** A bright disc in noise: its edge is known everywhere. */
function disc(contrast: number, noise: number): Patch {
  const [width, height] = [900, 760];
  const random = seededRandom(4);
  return patchOf(
    Float32Array.from({ length: width * height }, (_, i) => {
      const r = Math.hypot((i % width) + 0.5 - center.x, Math.floor(i / width) + 0.5 - center.y);
      return 500 + contrast / (1 + Math.exp((r - radius) / 1.2)) + noise * random.normal();
    }),
    { width, height }
  );
}

const on = (deg: number, r = radius) => ({
  x: center.x + r * Math.cos((deg * Math.PI) / 180),
  y: center.y + r * Math.sin((deg * Math.PI) / 180)
});

describe('following an edge', () => {
  const follower = edgeFollower(disc(300, 25));
  const from = followedFrom(follower, on(10));
  it('runs along it, at once to a few pixels and exactly soon after', () => {
    for (const deg of [40, 80, 130]) {
      const quick = quickWay(follower, from, on(deg));
      const exact = exactWay(follower, from, on(deg));
      expect(exact[0]).toEqual(on(10));
      expect(exact[exact.length - 1]).toEqual(on(deg));
      const off = (path: { x: number; y: number }[]) =>
        path.map((p) => Math.abs(Math.hypot(p.x - center.x, p.y - center.y) - radius)).sort((a, b) => a - b);
      const quickOff = off(quick);
      const exactOff = off(exact);
      expect(quickOff[Math.floor(quickOff.length * 0.95)]).toBeLessThan(2.5 * follower.factor);
      expect(exactOff[Math.floor(exactOff.length * 0.95)]).toBeLessThan(2.5);
      expect(exactOff[exactOff.length >> 1]).toBeLessThan(1.2);
    }
  });
  it('goes straight where there is nothing to follow', () => {
    const flat = edgeFollower(patchOf(new Uint8Array(40_000).fill(9), { width: 200, height: 200 }));
    const path = exactWay(flat, followedFrom(flat, { x: 20, y: 20 }), { x: 180, y: 20 });
    for (const { y } of path) expect(Math.abs(y - 20)).toBeLessThan(1.5);
  });
  it('works in a picture of one pixel, and refuses a point that is missing', () => {
    const one = edgeFollower(patchOf(Uint8Array.of(3), { width: 1, height: 1 }));
    expect(exactWay(one, followedFrom(one, { x: 0.5, y: 0.5 }), { x: 0.5, y: 0.5 })).toHaveLength(2);
    expect(() => followedFrom(one, { x: NaN, y: 0 })).toThrow('missing');
  });
});

it('the cheapest way is the cheapest: against all ways worked out by relaxing until nothing changes', () => {
  const random = seededRandom(8);
  const [width, height] = [9, 7];
  for (let round = 0; round < 20; round++) {
    const cost = Float32Array.from({ length: width * height }, () => 1 + 9 * random.uniform());
    const map = { left: 0, top: 0, width, height, cost };
    const least = new Float64Array(cost.length).fill(Infinity);
    least[0] = 0;
    for (let pass = 0; pass < cost.length; pass++)
      for (let at = 0; at < cost.length; at++)
        for (let to = 0; to < cost.length; to++) {
          const dx = Math.abs((at % width) - (to % width));
          const dy = Math.abs(Math.floor(at / width) - Math.floor(to / width));
          if (dx > 1 || dy > 1 || at === to) continue;
          least[to] = Math.min(least[to], least[at] + (Math.hypot(dx, dy) * (cost[at] + cost[to])) / 2);
        }
    const goal = width * height - 1 - Math.floor(random.uniform() * 5);
    const way = wayTo(cheapestWays(map, 0, goal), goal)!;
    let sum = 0;
    for (let i = 1; i < way.length; i++) {
      const dx = Math.abs((way[i] % width) - (way[i - 1] % width));
      const dy = Math.abs(Math.floor(way[i] / width) - Math.floor(way[i - 1] / width));
      sum += (Math.hypot(dx, dy) * (cost[way[i]] + cost[way[i - 1]])) / 2;
    }
    expect(sum).toBeCloseTo(least[goal], 4);
  }
});
