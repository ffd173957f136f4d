import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { regionsOf } from '../../raster/regions';

/** A colour of markers as a hue in degrees and how far a pixel's may lie from it. */
export interface MarkerColour {
  hueDeg: number;
  withinDeg: number;
  /** Least saturation and value, 0 to 1. */
  saturation: number;
  value: number;
}

export const stickOn: MarkerColour = { hueDeg: 52, withinDeg: 16, saturation: 0.45, value: 0.35 };
export const plumbBall: MarkerColour = { hueDeg: 2, withinDeg: 14, saturation: 0.6, value: 0.3 };

export interface PhotoMarker {
  center: Point;
  diameterPx: number;
  /** 0 to 1: how round and how full. */
  confidence: number;
}

const leastPixels = 12;

/**
 * Round spots of one colour in a photograph. Their middle is that of their pixels.
 * @throws RangeError when the picture has no colours
 */
export function colouredSpots(
  { width, height, channels, data }: Raster,
  colour: MarkerColour
): PhotoMarker[] {
  if (channels !== 3) throw new RangeError('coloured markers need a colour photograph');
  const matches = (at: number) => {
    const [r, g, b] = [data[3 * at], data[3 * at + 1], data[3 * at + 2]];
    const high = Math.max(r, g, b);
    const low = Math.min(r, g, b);
    if (high < colour.value * 255 || high - low < colour.saturation * high) return false;
    const span = high - low;
    const hue = 60 * (high === r ? (g - b) / span : high === g ? 2 + (b - r) / span : 4 + (r - g) / span);
    const off = Math.abs(((hue - colour.hueDeg + 540) % 360) - 180);
    return off <= colour.withinDeg;
  };
  const out: PhotoMarker[] = [];
  for (const region of regionsOf(matches, width, height)) {
    if (region.pixels < leastPixels) continue;
    const across = region.right - region.left + 1;
    const down = region.bottom - region.top + 1;
    const round = Math.min(across, down) / Math.max(across, down);
    const full = region.pixels / ((Math.PI / 4) * across * down);
    const confidence =
      Math.min(1, Math.max(0, (round - 0.4) / 0.4)) * Math.min(1, Math.max(0, (full - 0.5) / 0.35));
    out.push({
      center: { x: region.meanX + 0.5, y: region.meanY + 0.5 },
      diameterPx: Math.sqrt((4 * region.pixels) / Math.PI),
      confidence
    });
  }
  return out.sort((a, b) => b.confidence - a.confidence);
}

export interface PlumbLine {
  upper: Point;
  lower: Point;
  /** Direction of down in the picture, unit length. */
  down: Point;
  lengthPx: number;
  confidence: number;
}

/** Two balls of one size, one below the other: the pair that stands steepest and furthest apart. Null when there is none. */
export function plumbLine(raster: Raster): PlumbLine | null {
  const balls = colouredSpots(raster, plumbBall).filter(({ confidence }) => confidence > 0.5);
  let best: PlumbLine | null = null;
  for (const a of balls) {
    for (const b of balls) {
      const dy = b.center.y - a.center.y;
      const dx = b.center.x - a.center.x;
      if (dy <= 0 || Math.abs(dx) > 0.25 * dy) continue;
      const size = Math.min(a.diameterPx, b.diameterPx) / Math.max(a.diameterPx, b.diameterPx);
      const lengthPx = Math.hypot(dx, dy);
      if (size < 0.7 || lengthPx < 5 * a.diameterPx) continue;
      const confidence = Math.min(a.confidence, b.confidence) * Math.min(1, size * 1.15);
      if (best && best.lengthPx * best.confidence >= lengthPx * confidence) continue;
      best = {
        upper: a.center,
        lower: b.center,
        down: { x: dx / lengthPx, y: dy / lengthPx },
        lengthPx,
        confidence
      };
    }
  }
  return best;
}

/**
 * Which found spot is which landmark: both sets are brought to one frame (their own box), and pairs are taken nearest
 * first. A landmark without a spot close to its place stays empty.
 */
export function assigned(
  spots: readonly PhotoMarker[],
  landmarks: readonly { key: string; onSchematic: Point }[],
  down: Point
): Record<string, { point: Point; confidence: number }> {
  if (spots.length === 0 || landmarks.length === 0) return {};
  const turned = spots.map(({ center: { x, y } }) => ({
    x: down.y * x - down.x * y,
    y: down.x * x + down.y * y
  }));
  const there = unitBox(turned);
  const wanted = unitBox(landmarks.map(({ onSchematic }) => onSchematic));
  const pairs = there
    .flatMap((spot, i) =>
      wanted.map((place, k) => ({ i, k, off: Math.hypot(0.6 * (spot.x - place.x), spot.y - place.y) }))
    )
    .sort((a, b) => a.off - b.off);
  const out: Record<string, { point: Point; confidence: number }> = {};
  const usedSpots = new Set<number>();
  const usedPlaces = new Set<number>();
  for (const { i, k, off } of pairs) {
    if (off > farthest || usedSpots.has(i) || usedPlaces.has(k)) continue;
    usedSpots.add(i);
    usedPlaces.add(k);
    out[landmarks[k].key] = { point: spots[i].center, confidence: spots[i].confidence * (1 - off) };
  }
  return out;
}

const farthest = 0.35;

function unitBox(points: readonly Point[]): Point[] {
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const wide = Math.max(...xs) - left || 1;
  const tall = Math.max(...ys) - top || 1;
  return points.map(({ x, y }) => ({ x: (x - left) / wide, y: (y - top) / tall }));
}
