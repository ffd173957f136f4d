import { medianOf } from '../../measurement/fit/linear';
import type { Point, Size } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type MaskRegion, regionsOf } from '../../raster/regions';
import { reducedTo } from '../../raster/reduced';
import { squareMeans } from './squareMeans';

/** A long bright (or dark) piece of a picture, as its moments tell: in pixels of the full picture. */
export interface Piece {
  center: Point;
  /** Direction of its longer side, radians from x towards y, -pi/2 to pi/2. */
  angle: number;
  lengthPx: number;
  widthPx: number;
  /** Share of the rectangle of that length and width that it fills. */
  filled: number;
}

const longestSidePx = 1600;
/** Pieces are told from what lies around them within this share of the picture's longer side. */
const aroundShare = 0.03;
/** A piece stands out by these shares of the greatest difference to what lies around: faint ones, then strong ones that touch something faint. */
const standsOut = [0.2, 0.5];
/** And by so many times what neighbouring pixels differ by. */
const overNoise = 4;

/** Greys from the picture's middle one (0) to its brightest: metal is among the last, whatever it lies on. */
const greyShares = [0.3, 0.45, 0.6, 0.75, 0.87, 0.95];

/** Looks for long pieces of a picture, bright and dark ones. */
export interface PieceFinder {
  /** Those that stand out from what lies around them, longest first. */
  standingOut: (bright: boolean) => Piece[];
  /** Those that are brighter (or darker) than one grey, from many greys: solid metal on anything fainter. */
  solid: (bright: boolean) => Piece[];
}

export function pieceFinder(full: Patch): PieceFinder {
  const { small: level, factor } = reducedTo(full, longestSidePx);
  const { width, height, data } = level;
  const stride = Math.max(1, Math.floor(data.length / mostSampled));
  const length = Math.floor(data.length / stride);
  const sorted = (values: Float32Array) => Float32Array.from({ length }, (_, i) => values[i * stride]).sort();
  /** The value with such a share of all below it (above it, where dark ones are wanted, all values taken negative). */
  const topOf = (values: Float32Array, bright: boolean, share: number) => {
    const at = Math.floor(length * share);
    return bright ? values[at] : -values[length - 1 - at];
  };
  const over = once(() => {
    const half = Math.max(4, Math.round(aroundShare * Math.max(width, height)));
    const around = squareMeans(data, width, height, half);
    const values = data.map((value, i) => value - around[i]);
    const noise = medianOf(
      Float32Array.from({ length: length - 1 }, (_, i) => Math.abs(data[i * stride + 1] - data[i * stride]))
    );
    return { values, inOrder: sorted(values), noise };
  });
  const greys = once(() => sorted(data));
  return {
    standingOut: (bright) => {
      if (width < 8 || height < 8) return [];
      const { values, inOrder, noise } = over();
      const top = topOf(inOrder, bright, 0.9992);
      if (!(top > 0)) return [];
      const least = standsOut.map((share) => Math.max(share * top, overNoise * noise));
      return piecesOver(values, bright, least, level, factor)
        .sort((a, b) => b.lengthPx - a.lengthPx)
        .slice(0, mostPieces);
    },
    solid: (bright) => {
      const middle = topOf(greys(), bright, 0.5);
      const top = topOf(greys(), bright, 0.9995);
      if (!(top > middle)) return [];
      const least = greyShares.map((share) => middle + share * (top - middle));
      return piecesOver(data, bright, least, level, factor);
    }
  };
}

function once<T>(work: () => T): () => T {
  let done: { value: T } | null = null;
  return () => (done ??= { value: work() }).value;
}

const mostSampled = 60_000;

/** Pieces that reach each of some values (taken negative, where dark ones are wanted), one that is the same at several of them once. */
function piecesOver(
  values: Float32Array,
  bright: boolean,
  all: readonly number[],
  { width, height }: Size,
  factor: number
): Piece[] {
  const pieces: Piece[] = [];
  for (const least of all)
    for (const region of regionsOf(
      bright ? (at) => values[at] >= least : (at) => values[at] <= -least,
      width,
      height
    )) {
      const piece = pieceOf(region, factor);
      if (piece && !pieces.some((other) => sameAs(other, piece))) pieces.push(piece);
    }
  return pieces;
}

const mostPieces = 300;

const sameAs = (a: Piece, b: Piece) =>
  Math.abs(a.center.x - b.center.x) + Math.abs(a.center.y - b.center.y) < 0.25 * a.widthPx + 1 &&
  Math.abs(a.lengthPx - b.lengthPx) < 0.2 * a.lengthPx;

function pieceOf(region: MaskRegion, factor: number): Piece | null {
  if (region.pixels < 6) return null;
  const { varianceX: a, varianceY: c, covariance: b } = region;
  const middle = (a + c) / 2;
  const half = Math.hypot((a - c) / 2, b);
  const lengthPx = Math.sqrt(12 * (middle + half));
  const widthPx = Math.sqrt(12 * Math.max(1e-9, middle - half));
  if (lengthPx < 1.8 * widthPx) return null;
  return {
    center: { x: (region.meanX + 0.5) * factor, y: (region.meanY + 0.5) * factor },
    angle: Math.atan2(2 * b, a - c) / 2,
    lengthPx: lengthPx * factor,
    widthPx: widthPx * factor,
    filled: region.pixels / (lengthPx * widthPx)
  };
}
