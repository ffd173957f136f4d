import { type Plane, extreme } from './plane';

/** A connected piece of ink: a thin mark such as letters are made of. Sides count in pixels of its plane, right and bottom included. */
export interface Mark {
  left: number;
  top: number;
  right: number;
  bottom: number;
  pixels: number;
  /** Mean height of its ink over what lies around. */
  ink: number;
  /** Spread of that over the piece, as a share of it. */
  unevenness: number;
  /** Its edges' steepest step a pixel as a share of its ink, in the mean along its outline. */
  sharpness: number;
  /** The same by the picture in full resolution: what is burned in is crisp, however large it is. */
  crispness: number;
  /** Its ink over what is usual around it: how far it stands out from noise and texture. */
  standsOut: number;
  /** Mean width of its strokes. */
  stroke: number;
  /** Which fields of five by five over its box hold ink, as bits; only how far two differ is ever asked. */
  pattern: number;
}

/** Strokes wider than this are no letters of this level; a coarser level sees them. */
const widestStroke = 7;
/** A letter's height at one level. */
const [least, most] = [5, 30];
/** Where the half height of the tallest ink around decides. */
const around = 21;
const cellPx = 32;

/** The same mark in a picture whose rows became columns: what reads upwards or downwards then reads along. */
export const transposed = (mark: Mark): Mark => ({
  ...mark,
  left: mark.top,
  top: mark.left,
  right: mark.bottom,
  bottom: mark.right
});

/** What stands above everything as wide as a stroke can be (white top-hat). */
export function inkOf(plane: Plane): Plane {
  const size = widestStroke + 2;
  const opened = extreme(extreme(plane, size, false), size, true);
  const data = new Float32Array(plane.data.length);
  for (let i = 0; i < data.length; i++) data[i] = plane.data[i] - opened.data[i];
  return { ...plane, data };
}

/** What ink is usual in fields of some pixels: the median, at least a little. */
function usualInk(ink: Plane): { at: (x: number, y: number) => number } {
  const [columns, rows] = [Math.ceil(ink.width / cellPx), Math.ceil(ink.height / cellPx)];
  const medians = new Float32Array(columns * rows);
  let highest = 0;
  for (let i = 0; i < ink.data.length; i += 7) highest = Math.max(highest, ink.data[i]);
  const floor = Math.max(1e-6, 0.01 * highest);
  const values = new Float32Array((cellPx * cellPx) / 4);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      let count = 0;
      for (let y = row * cellPx; y < Math.min(ink.height, (row + 1) * cellPx); y += 2)
        for (let x = column * cellPx; x < Math.min(ink.width, (column + 1) * cellPx); x += 2)
          values[count++] = ink.data[y * ink.width + x];
      values.subarray(0, count).sort();
      // Dense writing covers up to half of a field, never two thirds.
      medians[row * columns + column] = Math.max(floor, values[Math.floor(0.6 * count)]);
    }
  return { at: (x, y) => medians[Math.floor(y / cellPx) * columns + Math.floor(x / cellPx)] };
}

/** Every piece of ink that may be a letter or part of one. */
export function marksOf(plane: Plane): Mark[] {
  const { width, height } = plane;
  if (width < 8 || height < 8) return [];
  const ink = inkOf(plane);
  const tallest = extreme(ink, around, true).data;
  const usual = usualInk(ink);
  const seen = new Uint8Array(width * height);
  const isInk = (i: number) => ink.data[i] > 0.5 * tallest[i];
  const marks: Mark[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] === 1 || !isInk(start)) continue;
    if (ink.data[start] < 3 * usual.at(start % width, Math.floor(start / width))) continue;
    const piece = pieceFrom(start, plane, isInk, seen);
    if (piece && piece.members.length >= 3) marks.push(markOf(piece, ink, usual));
  }
  return marks;
}

type Box = Pick<Mark, 'left' | 'right' | 'top' | 'bottom'>;
interface Piece {
  members: number[];
  box: Box;
}

/** The ink that touches, by sides or corners, what begins here; null for what no letter is as large as. */
function pieceFrom(
  start: number,
  { width, height }: Plane,
  isInk: (i: number) => boolean,
  seen: Uint8Array
): Piece | null {
  const members: number[] = [];
  const stack = [start];
  seen[start] = 1;
  let tooLarge = false;
  let [left, right, top, bottom] = [width, -1, height, -1];
  while (stack.length > 0) {
    const i = stack.pop()!;
    if (!tooLarge) members.push(i);
    const x = i % width;
    const y = (i - x) / width;
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
    tooLarge ||=
      Math.min(bottom - top, right - left) >= most || Math.max(bottom - top, right - left) >= 6 * most;
    for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
      for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const j = ny * width + nx;
        if (seen[j] === 1 || !isInk(j)) continue;
        seen[j] = 1;
        stack.push(j);
      }
  }
  return tooLarge ? null : { members, box: { left, right, top, bottom } };
}

/** Whether a piece is as tall as a letter of this level. */
export const isTall = ({ top, bottom }: Mark): boolean => bottom - top + 1 >= least && bottom - top < most;

function markOf({ members, box }: Piece, ink: Plane, usual: { at: (x: number, y: number) => number }): Mark {
  const { width, data } = ink;
  const [w, h] = [box.right - box.left + 1, box.bottom - box.top + 1];
  const own = new Set(members);
  let [sum, squares, edge, steps, crisp, pattern] = [0, 0, 0, 0, 0, 0];
  const counts = new Uint16Array(25);
  for (const i of members) {
    sum += data[i];
    squares += data[i] * data[i];
    const x = i % width;
    const y = (i - x) / width;
    counts[Math.floor((5 * (y - box.top)) / h) * 5 + Math.floor((5 * (x - box.left)) / w)]++;
    for (const [j, inside] of [
      [i - 1, x > 0],
      [i + 1, x < width - 1],
      [i - width, y > 0],
      [i + width, y < ink.height - 1]
    ] as const) {
      if (inside && own.has(j)) continue;
      edge++;
      if (!inside) continue;
      steps += Math.max(0, data[i] - data[j]);
      crisp += Math.max(ink.steps[i], ink.steps[j]);
    }
  }
  const n = members.length;
  const mean = sum / n;
  counts.forEach((count, i) => {
    if (count > (0.35 * w * h) / 25) pattern |= 1 << i;
  });
  return {
    ...box,
    pixels: n,
    ink: mean,
    unevenness: Math.sqrt(Math.max(0, squares / n - mean * mean)) / mean,
    sharpness: steps / Math.max(1, edge) / mean,
    crispness: crisp / Math.max(1, edge) / mean,
    standsOut: mean / usual.at((box.left + box.right) >> 1, (box.top + box.bottom) >> 1),
    stroke: (2 * n) / Math.max(1, edge / 1.1),
    pattern
  };
}
