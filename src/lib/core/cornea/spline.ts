import { rootMeanSquare } from '../measurement/fit/linear';
import type { NormalEquations } from './normalEquations';

/**
 * Bicubic B-splines on an even square grid (de Boor, 1978): a surface is a sum of bumps, each four cells wide, so that
 * any place depends on sixteen of them only and height, slope and curvature run on without a step.
 */
export interface Grid {
  /** Corner of the first cell, and the size of a cell, mm. */
  x: number;
  y: number;
  stepMm: number;
  /** Cells a side; there are three bumps more than that. */
  cells: number;
}

/** A grid over the square about a middle. */
export function gridOver(middle: { x: number; y: number }, reachMm: number, stepMm: number): Grid {
  const cells = Math.max(1, Math.ceil((2 * reachMm) / stepMm));
  const half = (cells * stepMm) / 2;
  return { x: middle.x - half, y: middle.y - half, stepMm, cells };
}

/** Bumps a side. */
export const sideOf = ({ cells }: Grid): number => cells + 3;
export const countOf = (grid: Grid): number => sideOf(grid) ** 2;
export const touching = 16;

/** Where a place lies in a grid: the first bump that reaches it, and the cubics of four bumps each way (values, slopes, second slopes). */
export interface Cell {
  first: number;
  across: Float64Array;
  down: Float64Array;
}

export const roomForCell = (): Cell => ({
  first: 0,
  across: new Float64Array(12),
  down: new Float64Array(12)
});

/** Beyond the grid the polynomials of its outermost cells go on. */
export function cellAt({ x: left, y: top, stepMm, cells }: Grid, x: number, y: number, out: Cell): void {
  const i = Math.min(cells - 1, Math.max(0, Math.floor((x - left) / stepMm)));
  const j = Math.min(cells - 1, Math.max(0, Math.floor((y - top) / stepMm)));
  cubic((x - left) / stepMm - i, stepMm, out.across);
  cubic((y - top) / stepMm - j, stepMm, out.down);
  out.first = j * (cells + 3) + i;
}

/** The sixteen bumps at one place: which they are in rising order, their values and slopes. */
export interface Bumps {
  which: Int32Array;
  value: Float64Array;
  dx: Float64Array;
  dy: Float64Array;
}

export const roomForBumps = (): Bumps => ({
  which: new Int32Array(touching),
  value: new Float64Array(touching),
  dx: new Float64Array(touching),
  dy: new Float64Array(touching)
});

export function bumpsOf({ first, across, down }: Cell, side: number, out: Bumps): void {
  for (let b = 0, k = 0; b < 4; b++)
    for (let a = 0; a < 4; a++, k++) {
      out.which[k] = first + b * side + a;
      out.value[k] = across[a] * down[b];
      out.dx[k] = across[4 + a] * down[b];
      out.dy[k] = across[a] * down[4 + b];
    }
}

/** Four cubic bumps at t of a cell, then their slopes and second slopes. */
function cubic(t: number, h: number, out: Float64Array): void {
  const s = 1 - t;
  out[0] = (s * s * s) / 6;
  out[1] = (4 + 3 * t * t * (t - 2)) / 6;
  out[2] = (4 + 3 * s * s * (s - 2)) / 6;
  out[3] = (t * t * t) / 6;
  out[4] = (-s * s) / (2 * h);
  out[5] = (t * (3 * t - 4)) / (2 * h);
  out[6] = (-s * (3 * s - 4)) / (2 * h);
  out[7] = (t * t) / (2 * h);
  out[8] = s / (h * h);
  out[9] = (3 * t - 2) / (h * h);
  out[10] = (3 * s - 2) / (h * h);
  out[11] = t / (h * h);
}

/** A sum of few bumps that ought to be small. */
export interface Wish {
  which: Int32Array;
  factors: Float64Array;
}

const third = [-1, 3, -3, 1];
const second = [1, -2, 1];
const first = [-1, 1];

/**
 * The third differences of a grid's bumps along both ways and across: where nothing was seen, keeping them small lets
 * the surface go on with the curvature it has.
 */
export function thirdDifferences(grid: Grid): Wish[] {
  const side = sideOf(grid);
  const out: Wish[] = [];
  for (const [along, down] of [
    [third, [1]],
    [second, first],
    [first, second],
    [[1], third]
  ])
    for (let j = 0; j + down.length <= side; j++)
      for (let i = 0; i + along.length <= side; i++) {
        const which = down.flatMap((_, b) => along.map((_, a) => (j + b) * side + i + a));
        const factors = down.flatMap((q) => along.map((p) => p * q));
        out.push({ which: Int32Array.from(which), factors: Float64Array.from(factors) });
      }
  return out;
}

/** Asks that third differences of the bumps stay small. */
export function holdSmooth(
  normal: NormalEquations,
  wishes: readonly Wish[],
  coefficients: Float64Array,
  sdMm: number
): void {
  for (const { which, factors } of wishes) {
    let now = 0;
    for (let k = 0; k < which.length; k++) now += factors[k] * coefficients[which[k]];
    normal.add(which, factors, which.length, -now, 1 / sdMm ** 2);
  }
}

/** How far a change of the coefficients moves the surface at a sample of places, root mean square, mm. */
export function movedBy(
  change: Float64Array,
  places: readonly { x: number; y: number }[],
  { grid, middle, reachMm }: { grid: Grid; middle: { x: number; y: number }; reachMm: number }
): number {
  const cell = roomForCell();
  const bumps = roomForBumps();
  const moves: number[] = [];
  for (let i = 0; i < places.length; i += 23) {
    const { x, y } = places[i];
    if (!(Math.hypot(x - middle.x, y - middle.y) < reachMm)) continue;
    cellAt(grid, x, y, cell);
    bumpsOf(cell, sideOf(grid), bumps);
    let move = 0;
    for (let k = 0; k < touching; k++) move += change[bumps.which[k]] * bumps.value[k];
    moves.push(move);
  }
  return rootMeanSquare(moves);
}
