import { gaussian } from '../../raster/filters/gaussian';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type MaskRegion, regionsOf } from '../../raster/regions';
import { halved } from './reduced';

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

const longestSidePx = 1000;
/** Pieces are told from what lies around them within this share of the picture's longer side. */
const aroundShare = 0.02;
/** A piece stands out by at least this share of the greatest difference to what lies around. */
const standsOut = 0.4;

/** Long pieces that stand out from what lies around them, longest first. */
export function longPieces(full: Patch, bright: boolean): Piece[] {
  let level = full;
  let factor = 1;
  while (Math.max(level.width, level.height) > longestSidePx) {
    level = halved(level);
    factor *= 2;
  }
  const { width, height } = level;
  if (width < 8 || height < 8) return [];
  const around = gaussian(level, Math.max(4, aroundShare * Math.max(width, height))).data;
  const over = level.data.map((value, i) => (bright ? value - around[i] : around[i] - value));
  const sorted = Float32Array.from(over.filter((_, i) => i % 7 === 0)).sort();
  const top = sorted[Math.floor(sorted.length * 0.9995)];
  const least = standsOut * top;
  if (!(least > 0)) return [];
  const pieces = regionsOf((at) => over[at] >= least, width, height).flatMap(
    (region) => pieceOf(region, factor) ?? []
  );
  return pieces.sort((a, b) => b.lengthPx - a.lengthPx);
}

function pieceOf(region: MaskRegion, factor: number): Piece | null {
  if (region.pixels < 8) return null;
  const { varianceX: a, varianceY: c, covariance: b } = region;
  const middle = (a + c) / 2;
  const half = Math.hypot((a - c) / 2, b);
  const lengthPx = Math.sqrt(12 * (middle + half));
  const widthPx = Math.sqrt(12 * Math.max(1e-9, middle - half));
  if (lengthPx < 2.5 * widthPx) return null;
  return {
    center: { x: (region.meanX + 0.5) * factor, y: (region.meanY + 0.5) * factor },
    angle: Math.atan2(2 * b, a - c) / 2,
    lengthPx: lengthPx * factor,
    widthPx: widthPx * factor,
    filled: region.pixels / (lengthPx * widthPx)
  };
}
