import { leastSquares, medianOf } from '../../measurement/fit/linear';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type Piece, longPieces } from './pieces';

export interface RulerMarker {
  kind: 'ruler';
  /** Pixels from one line to the next. */
  spacingPx: number;
  /** Standard uncertainty of it. */
  uncertaintyPx: number;
  /** The middles of the lines, in order. */
  lines: Point[];
  residualPx: number;
  confidence: number;
}

const leastLines = 4;
const alikeAngle = 0.09;
/** Lines may be this share of the spacing off their place. */
const offShare = 0.12;

/** A ruler's evenly spaced lines: parallel pieces whose places across them are whole steps apart. Null when there is none. */
export function findRuler(patch: Patch, bright = true): RulerMarker | null {
  const pieces = longPieces(patch, bright);
  let best: RulerMarker | null = null;
  for (const first of pieces) {
    const alike = pieces.filter(
      (piece) => turnedBy(piece.angle, first.angle) < alikeAngle && piece.widthPx < 2.5 * first.widthPx
    );
    const ruler = alike.length >= leastLines ? spaced(alike) : null;
    if (ruler && ruler.lines.length > (best?.lines.length ?? 0)) best = ruler;
  }
  return best;
}

function turnedBy(a: number, b: number): number {
  const by = Math.abs(a - b) % Math.PI;
  return Math.min(by, Math.PI - by);
}

function spaced(pieces: Piece[]): RulerMarker | null {
  const reference = pieces[0].angle;
  const angle = medianOf(
    pieces.map((piece) => {
      const by = piece.angle - reference;
      return reference + by - Math.PI * Math.round(by / Math.PI);
    })
  );
  const [nx, ny] = [-Math.sin(angle), Math.cos(angle)];
  const placed = pieces
    .map((piece) => ({ piece, at: piece.center.x * nx + piece.center.y * ny }))
    .sort((a, b) => a.at - b.at);
  const step = medianOf(placed.slice(1).map(({ at }, i) => at - placed[i].at));
  if (!(step > 2)) return null;
  // The longest run of neighbours that are one step apart.
  let run: typeof placed = [];
  let longest: typeof placed = [];
  for (const [i, each] of placed.entries()) {
    if (i > 0 && Math.abs(each.at - placed[i - 1].at - step) > 2 * offShare * step) run = [];
    run = [...run, each];
    if (run.length > longest.length) longest = run;
  }
  if (longest.length < leastLines) return null;
  const fit = leastSquares(
    longest.map((_, i) => [1, i]),
    longest.map(({ at }) => at)
  );
  if (!fit) return null;
  const offs = longest.map(({ at }, i) => at - fit[0] - fit[1] * i);
  const n = longest.length;
  const residual = Math.sqrt(offs.reduce((sum, off) => sum + off * off, 0) / Math.max(1, n - 2));
  const lever = Math.sqrt((n * (n * n - 1)) / 12);
  return {
    kind: 'ruler',
    spacingPx: fit[1],
    uncertaintyPx: Math.max(residual, 0.1) / lever,
    lines: longest.map(({ piece }) => piece.center),
    residualPx: residual,
    confidence:
      Math.min(1, Math.max(0, (n - 3) / 4)) * Math.min(1, Math.max(0, 1.2 - residual / (offShare * fit[1])))
  };
}
