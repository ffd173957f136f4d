import type { Patch } from '../../raster/patch';
import type { Spot } from './candidates';

/** Radii of the arcs that are looked for, in a level's own pixels: from one level to the next they double. */
const radiiPx = [4, 4.8, 5.7, 6.7, 7.8];
/** So much of a circle's edge must point at its middle. */
const leastShare = 0.34;
const mostALevel = 8;
/** An edge is this many times as steep as half of the picture is. */
const leastSteep = 4;

/**
 * Middles of round things of which a part is hidden, that no spot tells of: every place on an edge votes for the middles
 * that it could belong to, square to the edge on its bright side and on its dark side (Ballard, 1981).
 * @param factor full-size pixels on a side of one of the level's
 */
export function arcSpots(level: Patch, factor: number): Spot[] {
  const { width, height } = level;
  if (width < 9 || height < 9) return [];
  const edges = edgesOf(level);
  return [1, -1].flatMap((sign) => {
    const found: (Spot & { votes: number })[] = [];
    for (const radius of radiiPx) {
      const votes = votesFor(edges, width, height, sign * radius);
      const least = leastShare * 2 * Math.PI * radius;
      for (let y = 2; y < height - 2; y++)
        for (let x = 2; x < width - 2; x++) {
          const at = y * width + x;
          // Votes of one middle lie in neighbouring pixels.
          if (votes[at] === 0) continue;
          const sum = near(votes, at, width);
          if (sum < least || !isTop(votes, at, width)) continue;
          found.push({
            center: { x: (x + 0.5) * factor, y: (y + 0.5) * factor },
            radiusPx: radius * factor,
            // Which way alone: how much is seen once its edge is followed.
            contrast: sign,
            votes: sum / radius
          });
        }
    }
    found.sort((a, b) => b.votes - a.votes);
    const apart: Spot[] = [];
    for (const { votes: _votes, ...spot } of found) {
      if (apart.length >= mostALevel) break;
      const close = (other: Spot) =>
        Math.hypot(other.center.x - spot.center.x, other.center.y - spot.center.y) < 2.5 * factor;
      if (!apart.some(close)) apart.push(spot);
    }
    return apart;
  });
}

/** Places where the slope is steepest along its own way, and that way: x, y, and the unit vector uphill. */
function edgesOf({ data, width, height }: Patch): Float32Array {
  const steep = new Float32Array(data.length);
  const sampled: number[] = [];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      const [across, down] = [data[at + 1] - data[at - 1], data[at + width] - data[at - width]];
      steep[at] = Math.sqrt(across * across + down * down);
      if (at % 7 === 0) sampled.push(steep[at]);
    }
  const usual = Float32Array.from(sampled).sort()[sampled.length >> 1];
  const least = Math.max(1e-6, leastSteep * usual);
  const edges: number[] = [];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const at = y * width + x;
      const slope = steep[at];
      if (slope < least) continue;
      const u = (data[at + 1] - data[at - 1]) / slope;
      const v = (data[at + width] - data[at - width]) / slope;
      const along = Math.round(u) + Math.round(v) * width;
      if (slope < steep[at + along] || slope <= steep[at - along]) continue;
      edges.push(x, y, u, v);
    }
  return Float32Array.from(edges);
}

function votesFor(edges: Float32Array, width: number, height: number, radiusPx: number): Uint8Array {
  const votes = new Uint8Array(width * height);
  for (let i = 0; i < edges.length; i += 4) {
    const x = Math.round(edges[i] + radiusPx * edges[i + 2]);
    const y = Math.round(edges[i + 1] + radiusPx * edges[i + 3]);
    if (x >= 0 && y >= 0 && x < width && y < height) votes[y * width + x]++;
  }
  return votes;
}

function near(votes: Uint8Array, at: number, width: number): number {
  let sum = 0;
  for (const row of [at - width, at, at + width]) sum += votes[row - 1] + votes[row] + votes[row + 1];
  return sum;
}

function isTop(votes: Uint8Array, at: number, width: number): boolean {
  const here = near(votes, at, width);
  for (const by of [-width - 1, -width, -width + 1, -1]) if (near(votes, at + by, width) > here) return false;
  for (const by of [1, width - 1, width, width + 1]) if (near(votes, at + by, width) > here) return false;
  return true;
}
