import { leastSquares, medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { floorFor } from './edgeModel';
import { type MarkerFound, darkest, judged } from './findRound';
import { type Piece, longPieces } from './pieces';

export interface BarMarker {
  kind: 'bar';
  ends: [Point, Point];
  lengthPx: number;
  /** Standard uncertainty of the length. */
  uncertaintyPx: number;
  confidence: number;
}

export interface BarSearch {
  lengthPx?: { least: number; most: number };
  bright?: boolean;
  hint?: { at: Point; withinPx: number };
}

/** What a bar's end can't be told better than, each. */
const endPx = 0.15;

/** Bars of metal: long pieces of one grey, with the end edges found to a part of a pixel. */
export function findBars(patch: Patch, search: BarSearch = {}): MarkerFound<BarMarker> {
  const bright = search.bright ?? true;
  const openBeam = darkest(patch);
  const found: BarMarker[] = [];
  for (const piece of longPieces(patch, bright)) {
    const { center } = piece;
    const { hint, lengthPx } = search;
    if (hint && Math.hypot(center.x - hint.at.x, center.y - hint.at.y) > hint.withinPx) continue;
    const bar = barOf(patch, piece, bright, openBeam);
    if (!bar) continue;
    if (lengthPx && (bar.lengthPx < lengthPx.least || bar.lengthPx > lengthPx.most)) continue;
    found.push(bar);
  }
  return judged(found);
}

function barOf(patch: Patch, piece: Piece, bright: boolean, openBeam: number): BarMarker | null {
  const axis = straightened(patch, piece, bright);
  const [c, s] = [Math.cos(axis.angle), Math.sin(axis.angle)];
  const half = piece.lengthPx / 2;
  const across = Math.max(0, piece.widthPx * 0.25);
  const reach = Math.max(6, piece.widthPx * 1.5);
  const step = 0.25;
  const profile = (end: 1 | -1): number[] =>
    Array.from({ length: Math.ceil((2 * reach) / step) }, (_, i) => {
      const along = end * (half - reach + i * step);
      const values = [-1, -0.5, 0, 0.5, 1].map((w) =>
        valueAt(patch, axis.center.x + along * c - w * across * s, axis.center.y + along * s + w * across * c)
      );
      return medianOf(values);
    });
  const ends: number[] = [];
  const steps: number[] = [];
  const inside = medianOf(
    Array.from({ length: 21 }, (_, i) => {
      const along = ((i - 10) / 10) * half * 0.7;
      return valueAt(patch, axis.center.x + along * c, axis.center.y + along * s);
    })
  );
  for (const end of [1, -1] as const) {
    const line = profile(end);
    const outside = medianOf(line.slice(-Math.ceil(reach / 3 / step)));
    const change = inside - outside;
    if (bright !== change > 0 || change === 0) return null;
    const level = outside + change * edgeLevel(Math.abs(change), inside, bright ? openBeam : undefined);
    let at = -1;
    for (let i = 1; i < line.length; i++)
      if ((line[i - 1] - level) * (line[i] - level) <= 0 && line[i] !== line[i - 1]) at = i;
    if (at < 0) return null;
    const share = (level - line[at - 1]) / (line[at] - line[at - 1]);
    ends.push(end * (half - reach + (at - 1 + share) * step));
    steps.push(Math.abs(change));
  }
  const lengthPx = ends[0] - ends[1];
  const alike = Math.min(...steps) / Math.max(...steps);
  const even = evenAlong(patch, axis, piece, c, s, Math.min(...steps));
  return {
    kind: 'bar',
    ends: ends.map((along) => ({ x: axis.center.x + along * c, y: axis.center.y + along * s })) as [
      Point,
      Point
    ],
    lengthPx,
    uncertaintyPx: Math.SQRT2 * endPx + 0.002 * piece.widthPx,
    confidence:
      Math.min(1, Math.max(0, (piece.filled - 0.5) / 0.22)) *
      Math.min(1, Math.max(0, piece.lengthPx / piece.widthPx / 2 - 1)) *
      Math.min(1, alike * 1.3) *
      even
  };
}

/** How high above the ground the edge stands on a logarithmic scale where half of the beam is let through. */
export function edgeLevel(step: number, plateau: number, openBeam: number | undefined): number {
  const floor = floorFor({ step, plateau }, openBeam);
  return Math.log((1 + floor) / (0.5 + floor)) / Math.log((1 + floor) / floor);
}

/** The piece's middle line, from the middles between its two long edges. */
function straightened(patch: Patch, piece: Piece, bright: boolean): { center: Point; angle: number } {
  const { center, angle, lengthPx, widthPx } = piece;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const reach = Math.max(4, widthPx * 1.2);
  const rows: number[][] = [];
  const offs: number[] = [];
  for (let i = -8; i <= 8; i++) {
    const along = (i / 8) * lengthPx * 0.4;
    let weight = 0;
    let moment = 0;
    const values: number[] = [];
    for (let w = -reach; w <= reach; w += 0.5)
      values.push(valueAt(patch, center.x + along * c - w * s, center.y + along * s + w * c));
    const ground = bright
      ? Math.max(values[0], values[values.length - 1])
      : Math.min(values[0], values[values.length - 1]);
    values.forEach((value, k) => {
      const over = Math.max(0, bright ? value - ground : ground - value);
      weight += over;
      moment += over * (-reach + k * 0.5);
    });
    if (weight > 0) {
      rows.push([1, along]);
      offs.push(moment / weight);
    }
  }
  const fit = rows.length > 4 ? leastSquares(rows, offs) : null;
  if (!fit) return { center, angle };
  const [off, slope] = fit;
  return { center: { x: center.x - off * s, y: center.y + off * c }, angle: angle + Math.atan(slope) };
}

/** 1 when the grey along the bar's middle hardly varies against the step at its ends, 0 when as much. */
function evenAlong(
  patch: Patch,
  axis: { center: Point },
  { lengthPx }: Piece,
  c: number,
  s: number,
  step: number
): number {
  const values = Array.from({ length: 31 }, (_, i) => {
    const along = ((i - 15) / 15) * lengthPx * 0.42;
    return valueAt(patch, axis.center.x + along * c, axis.center.y + along * s);
  });
  const middle = medianOf(values);
  const spread = medianOf(values.map((value) => Math.abs(value - middle))) * 1.4826;
  return Math.min(1, Math.max(0, 1.3 - (3 * spread) / step));
}
