import type { Point } from '../raster/orientation';

/**
 * Where values on a grid are at or above a level, by marching squares (Lorensen and Cline, 1987, in the plane): closed
 * outlines in grid steps from the first value, to be filled by the even-odd rule, so that holes are outlines too. Edges
 * lie in proportion between the values beside them; NaN is below every level, and outlines pass halfway to it.
 */
export function outlinesAtLeast(values: ArrayLike<number>, side: number, level: number): Point[][] {
  const at = (i: number, j: number) =>
    i < 0 || j < 0 || i >= side || j >= side ? NaN : values[j * side + i];
  const wide = side + 2;
  // From each crossed grid edge to the next, the higher side to the left.
  const next = new Map<number, number>();
  for (let j = -1; j < side; j++)
    for (let i = -1; i < side; i++) {
      const corners = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
      const inside = corners.map((value) => value >= level);
      const kind = inside.reduce((bits, is, k) => bits | (is ? 1 << k : 0), 0);
      if (kind === 0 || kind === 15) continue;
      // Two opposite corners: joined where the middle is high.
      const joined = corners.reduce((sum, value) => sum + value, 0) / 4 >= level;
      for (const [from, to] of waysThrough(inside, joined))
        next.set(edgeOf(i, j, from, wide), edgeOf(i, j, to, wide));
    }
  const out: Point[][] = [];
  for (const start of [...next.keys()]) {
    if (!next.has(start)) continue;
    const outline: Point[] = [];
    let edge = start;
    while (next.has(edge)) {
      outline.push(crossing(edge, wide, level, at));
      const to = next.get(edge)!;
      next.delete(edge);
      edge = to;
    }
    if (outline.length > 2) out.push(outline);
  }
  return out;
}

/** Sides of a cell: above, right, below, left. A way enters where inside begins on its left and leaves where it ends. */
function waysThrough(inside: readonly boolean[], joined: boolean): [number, number][] {
  const enters: number[] = [];
  const leaves: number[] = [];
  for (let k = 0; k < 4; k++) {
    const [here, there] = [inside[k], inside[(k + 1) % 4]];
    if (here && !there) enters.push(k);
    if (!here && there) leaves.push(k);
  }
  if (enters.length === 1) return [[enters[0], leaves[0]]];
  // Round each high corner by itself, or between the low ones when the high ones are joined.
  return enters.map((enter) => [enter, (enter + (joined ? 1 : 3)) % 4]);
}

function edgeOf(i: number, j: number, side: number, wide: number): number {
  const [x, y] = [side === 1 ? i + 2 : i + 1, side === 2 ? j + 2 : j + 1];
  return 2 * (y * (wide + 1) + x) + (side % 2);
}

function crossing(edge: number, wide: number, level: number, at: (i: number, j: number) => number): Point {
  const cell = edge >> 1;
  const [i, j] = [(cell % (wide + 1)) - 1, Math.floor(cell / (wide + 1)) - 1];
  const down = edge % 2;
  const [a, b] = [at(i, j), at(i + (1 - down), j + down)];
  const share = Number.isNaN(a) || Number.isNaN(b) ? 0.5 : (level - a) / (b - a);
  return { x: i + (1 - down) * share, y: j + down * share };
}
