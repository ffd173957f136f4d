import type { Point } from '../raster/orientation';
import { outlinesAtLeast } from './contours';
import { type Coverage, places, stepMm } from './coverage';

const sides = [
  'right',
  'below right',
  'below',
  'below left',
  'left',
  'above left',
  'above',
  'above right'
] as const;

/** A stretch of the cornea where no ring was seen. */
export interface MissingArea {
  /** Of the cornea out to the limbus. */
  share: number;
  /** Its middle and outlines, mm about the eye's middle; to be filled by the even-odd rule. */
  middle: Point;
  outlines: Point[][];
  /** Where its middle lies in the picture; `all round` of one whose middle is the eye's and that leaves that out. */
  where: (typeof sides)[number] | 'middle' | 'all round';
}

/** Gaps smaller than this share of the cornea are not told. */
const leastShare = 0.002;
/** An area whose middle is no further out than this, mm, lies in the middle, or all round it. */
const middleMm = 1.5;

/** What a coverage lacks, in connected areas, the largest first. */
export function missingAreas(coverage: Coverage): MissingArea[] {
  const { side, covered, radiusMm } = coverage;
  const disc = [...places(radiusMm)];
  const mmAt = new Map(disc.map(({ at, x, y }) => [at, { x, y }]));
  const left = new Uint8Array(covered.length);
  for (const { at } of disc) left[at] = covered[at] === 0 ? 1 : 0;
  const out: MissingArea[] = [];
  for (const { at: start } of disc) {
    if (left[start] === 0) continue;
    const area = taken(left, side, start);
    const share = area.length / disc.length;
    if (share < leastShare) continue;
    const points = area.map((at) => mmAt.get(at)!);
    const middle = {
      x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
      y: points.reduce((sum, { y }) => sum + y, 0) / points.length
    };
    const mask = new Uint8Array(covered.length);
    for (const at of area) mask[at] = 1;
    const toMm = (at: number) => (at - (side - 1) / 2) * stepMm;
    const outlines = outlinesAtLeast(mask, side, 0.5).map((outline) =>
      outline.map(({ x, y }) => ({ x: toMm(x), y: toMm(y) }))
    );
    out.push({ share, middle, outlines, where: whereIs(middle, points) });
  }
  return out.sort((a, b) => b.share - a.share);
}

/** Takes an area out of what is left: all places that hang together with one. */
function taken(left: Uint8Array, side: number, start: number): number[] {
  const area: number[] = [];
  const open = [start];
  left[start] = 0;
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    area.push(at);
    const i = at % side;
    for (const next of [i > 0 ? at - 1 : -1, i < side - 1 ? at + 1 : -1, at - side, at + side]) {
      if (next < 0 || next >= left.length || left[next] === 0) continue;
      left[next] = 0;
      open.push(next);
    }
  }
  return area;
}

function whereIs(middle: Point, points: readonly Point[]): MissingArea['where'] {
  if (Math.hypot(middle.x, middle.y) >= middleMm) {
    const eighth = Math.round((4 * Math.atan2(middle.y, middle.x)) / Math.PI);
    return sides[(eighth + 8) % 8];
  }
  const nearest = Math.min(...points.map(({ x, y }) => Math.hypot(x, y)));
  return nearest < middleMm ? 'middle' : 'all round';
}
