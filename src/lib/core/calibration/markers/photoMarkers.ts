import { meanOf } from '../../measurement/geometry';
import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { regionsOf } from '../../raster/regions';

/** A round spot of one colour in a photograph. */
export interface Spot {
  center: Point;
  diameterPx: number;
  hueDeg: number;
  /** 0 to 1: how round and how full. */
  confidence: number;
}

/** Hues are told apart in so many classes; a spot's may spread over the classes beside its own. */
const hueClasses = 36;
const none = 255;
/** What is paler or darker has no colour worth the name. */
const leastSaturation = 0.4;
const leastValue = 0.22;
const leastPixels = 12;
/** A spot is at most so large, as a share of the picture's longer side. */
const mostAcross = 0.06;
const leastConfidence = 0.3;

/** The class of each pixel's hue, or none. */
function huesOf({ width, height, data }: Raster): Uint8Array {
  const out = new Uint8Array(width * height).fill(none);
  for (let i = 0; i < out.length; i++) {
    const [r, g, b] = [data[3 * i], data[3 * i + 1], data[3 * i + 2]];
    const high = Math.max(r, g, b);
    const span = high - Math.min(r, g, b);
    if (high < leastValue * 255 || span < leastSaturation * high) continue;
    const hue = 60 * (high === r ? (g - b) / span : high === g ? 2 + (b - r) / span : 4 + (r - g) / span);
    out[i] = Math.floor((((hue + 360) % 360) / 360) * hueClasses) % hueClasses;
  }
  return out;
}

/**
 * Round spots of any strong colour. Their middle is that of their pixels.
 * @throws RangeError when the picture has no colours
 */
export function colouredSpots(raster: Raster): Spot[] {
  const { width, height, channels } = raster;
  if (channels !== 3) throw new RangeError('coloured markers need a colour photograph');
  const hues = huesOf(raster);
  const counts = new Uint32Array(hueClasses);
  for (const hue of hues) if (hue !== none) counts[hue]++;
  const most = mostAcross * Math.max(width, height);
  const found: (Spot & { pixels: number })[] = [];
  for (let own = 0; own < hueClasses; own++) {
    const [before, after] = [(own + hueClasses - 1) % hueClasses, (own + 1) % hueClasses];
    if (counts[own] < leastPixels / 2) continue;
    const inside = (at: number) => hues[at] === own || hues[at] === before || hues[at] === after;
    for (const region of regionsOf(inside, width, height)) {
      if (region.pixels < leastPixels) continue;
      const across = region.right - region.left + 1;
      const down = region.bottom - region.top + 1;
      if (Math.max(across, down) > most) continue;
      const round = Math.min(across, down) / Math.max(across, down);
      const full = region.pixels / ((Math.PI / 4) * across * down);
      const confidence =
        Math.min(1, Math.max(0, (round - 0.4) / 0.4)) * Math.min(1, Math.max(0, (full - 0.5) / 0.35));
      if (confidence < leastConfidence) continue;
      found.push({
        center: { x: region.meanX + 0.5, y: region.meanY + 0.5 },
        diameterPx: Math.sqrt((4 * region.pixels) / Math.PI),
        hueDeg: ((own + 0.5) * 360) / hueClasses,
        confidence,
        pixels: region.pixels
      });
    }
  }
  const standing = found.filter((spot) => contrast(raster, spot) >= leastContrast);
  // One spot is seen by neighbouring classes: by that one best which has most of it.
  const spots: Spot[] = [];
  for (const { pixels: _, ...spot } of standing.toSorted((a, b) => b.pixels - a.pixels))
    if (spots.every((other) => apart(other, spot) > 0.5 * (other.diameterPx + spot.diameterPx)))
      spots.push(spot);
  return spots;
}

/** Of 255: what is stuck on differs from what it is stuck on, freckles and folds hardly do. */
const leastContrast = 55;

/** How far the colour of a spot is from that of what lies around it, the largest difference of red, green and blue. */
function contrast({ width, height, data }: Raster, { center, diameterPx }: Spot): number {
  const [inside, around] = [new Float64Array(4), new Float64Array(4)];
  const reach = Math.ceil(1.1 * diameterPx + 1);
  const [inner, from, to] = [0.35 * diameterPx, 0.7 * diameterPx + 1, 1.1 * diameterPx + 1];
  for (let y = Math.max(0, Math.floor(center.y) - reach); y < Math.min(height, center.y + reach); y++)
    for (let x = Math.max(0, Math.floor(center.x) - reach); x < Math.min(width, center.x + reach); x++) {
      const off = Math.hypot(x + 0.5 - center.x, y + 0.5 - center.y);
      const sums = off <= inner ? inside : off >= from && off <= to ? around : null;
      if (!sums) continue;
      const at = 3 * (y * width + x);
      for (let c = 0; c < 3; c++) sums[c] += data[at + c];
      sums[3]++;
    }
  if (inside[3] === 0 || around[3] === 0) return 0;
  return Math.max(...[0, 1, 2].map((c) => Math.abs(inside[c] / inside[3] - around[c] / around[3])));
}

const apart = (a: Spot, b: Spot) => Math.hypot(a.center.x - b.center.x, a.center.y - b.center.y);
const hueOff = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

export interface PlumbLine {
  upper: Point;
  lower: Point;
  /** Direction of down in the picture, unit length. */
  down: Point;
  lengthPx: number;
  confidence: number;
}

/** Of the picture's height that a plumb line's balls hang apart, at least. */
const leastLength = 0.25;
/** Nobody holds a camera askew by more than this, across to down. */
const mostLean = 0.2;
/** How much of a line between two balls must be seen as one. */
const leastSeen = 0.6;

/** Two balls alike, one below the other, with a line between them. Null where there are none, or two lines are as good. */
export function plumbLine(raster: Raster, spots: readonly Spot[] = colouredSpots(raster)): PlumbLine | null {
  const found: PlumbLine[] = [];
  for (const a of spots)
    for (const b of spots) {
      const [dx, dy] = [b.center.x - a.center.x, b.center.y - a.center.y];
      const lengthPx = Math.hypot(dx, dy);
      if (dy <= 0 || Math.abs(dx) > mostLean * dy || lengthPx < leastLength * raster.height) continue;
      const size = Math.min(a.diameterPx, b.diameterPx) / Math.max(a.diameterPx, b.diameterPx);
      if (size < 0.7 || hueOff(a.hueDeg, b.hueDeg) > 25) continue;
      const seen = lineSeen(raster, a, b);
      if (seen < leastSeen) continue;
      found.push({
        upper: a.center,
        lower: b.center,
        down: { x: dx / lengthPx, y: dy / lengthPx },
        lengthPx,
        confidence: Math.min(a.confidence, b.confidence) * Math.min(1, size * 1.15) * seen
      });
    }
  const [best, second] = found.toSorted((a, b) => b.confidence - a.confidence);
  return best && !(second && second.confidence > 0.9 * best.confidence) ? best : null;
}

/** Of the way from one ball to another, the share where it differs from what lies on both sides, which is alike. */
function lineSeen(raster: Raster, a: Spot, b: Spot): number {
  const { width, height, data } = raster;
  const length = apart(a, b);
  const [ux, uy] = [(b.center.x - a.center.x) / length, (b.center.y - a.center.y) / length];
  const grey = (x: number, y: number) => {
    const at =
      3 *
      (Math.min(height - 1, Math.max(0, Math.floor(y))) * width +
        Math.min(width - 1, Math.max(0, Math.floor(x))));
    return data[at] + data[at + 1] + data[at + 2];
  };
  const margin = 0.9 * Math.max(a.diameterPx, b.diameterPx);
  let [tried, seen] = [0, 0];
  for (let along = margin; along < length - margin; along += 4) {
    const [x, y] = [a.center.x + along * ux, a.center.y + along * uy];
    const across = (by: number) => grey(x + by * uy, y - by * ux);
    // A string bends by less than this.
    const profile = [-8, -7, -2, -1, 0, 1, 2, 7, 8].map(across);
    const left = (profile[0] + profile[1]) / 2;
    const right = (profile[7] + profile[8]) / 2;
    const off = Math.max(
      ...profile.slice(2, 7).map((each) => Math.min(Math.abs(each - left), Math.abs(each - right)))
    );
    tried++;
    if (off > 30 && off > 1.5 * Math.abs(left - right)) seen++;
  }
  return tried === 0 ? 0 : seen / tried;
}

/** A landmark that was found by itself, and how sure. */
export interface FoundMarker {
  point: Point;
  confidence: number;
}

export interface WantedMarker {
  key: string;
  onSchematic: Point;
  optional?: true;
}

/** Markers of one colour differ by no more than this in hue and in size. */
const sameHueDeg = 22;
const sameSize = 1.7;

/**
 * Markers that are stuck on: of all spots of one colour and size those that lie best as the landmarks do.
 * @param down of the picture, unit length
 */
export function stuckOn(
  spots: readonly Spot[],
  landmarks: readonly WantedMarker[],
  down: Point
): Record<string, FoundMarker> {
  const needed = landmarks.filter(({ optional }) => !optional);
  // An arm may hang over one of them.
  const seenSets = [
    landmarks,
    ...(needed.length < landmarks.length ? [needed] : []),
    ...[landmarks, needed].flatMap((all) => all.map((hidden) => all.filter((each) => each !== hidden)))
  ];
  const tried: { score: number; found: Record<string, FoundMarker> }[] = [];
  for (const seed of spots) {
    const alike = spots.filter(
      (each) =>
        hueOff(each.hueDeg, seed.hueDeg) <= sameHueDeg &&
        Math.max(each.diameterPx, seed.diameterPx) <= sameSize * Math.min(each.diameterPx, seed.diameterPx)
    );
    if (alike.length < 3) continue;
    for (const wanted of seenSets) {
      const { found, score } = assigned(alike, wanted, down);
      const over = Math.max(0, alike.length - wanted.length);
      tried.push({ score: score - 0.4 * over, found });
    }
  }
  const [best, ...others] = tried.toSorted((a, b) => b.score - a.score);
  if (!best || Object.keys(best.found).length < leastTold * needed.length) return {};
  // What is something else in a reading that is nearly as good is not told: with an arm over one, its neighbour may be it.
  const otherwise = (key: string, point: Point) =>
    others.some(({ score, found }) => {
      const asOther = Object.keys(found).some((each) => each !== key && found[each].point === point);
      if (asOther && score > asOtherGood * best.score) return true;
      return score > nearlyAsGood * best.score && found[key] !== undefined && found[key].point !== point;
    });
  const sure = Object.entries(best.found).filter(([key, { point }]) => !otherwise(key, point));
  return Object.fromEntries(sure);
}

const farthest = 0.3;
const nearlyAsGood = 0.9;
const asOtherGood = 0.8;
/** Fewer than this share of those that must be there may lie so by chance. */
const leastTold = 0.6;
/** People lean: how high something is tells more of what it is than how far across. */
const acrossCounts = 0.45;

/**
 * Which spot is which landmark: the landmarks' places laid over the spots, sized each way as fits, again with what was
 * told apart; pairs are taken nearest first. A landmark without a spot close to its place stays empty.
 */
function assigned(
  spots: readonly Spot[],
  landmarks: readonly WantedMarker[],
  down: Point
): { found: Record<string, FoundMarker>; score: number } {
  const there = unitBox(
    spots.map(({ center: { x, y } }) => ({
      x: down.y * x - down.x * y,
      y: down.x * x + down.y * y
    }))
  );
  let wanted = unitBox(landmarks.map(({ onSchematic }) => onSchematic));
  for (let round = 0; round < 3; round++) {
    const told = nearest(there, wanted);
    if (told.length < 3) break;
    wanted = refitted(there, wanted, told);
  }
  const pairs = nearest(there, wanted);
  const found = Object.fromEntries(
    pairs.map(({ i, k, off }) => [
      landmarks[k].key,
      { point: spots[i].center, confidence: spots[i].confidence * (1 - off / farthest / 2) }
    ])
  );
  return { found, score: Object.values(found).reduce((sum, { confidence }) => sum + confidence, 0) };
}

interface Pair {
  i: number;
  k: number;
  off: number;
}

function nearest(there: readonly Point[], wanted: readonly Point[]): Pair[] {
  const all = there
    .flatMap((spot, i) =>
      wanted.map((place, k) => ({
        i,
        k,
        off: Math.hypot(acrossCounts * (spot.x - place.x), spot.y - place.y)
      }))
    )
    .filter(({ off }) => off <= farthest)
    .toSorted((a, b) => a.off - b.off);
  const [usedSpots, usedPlaces] = [new Set<number>(), new Set<number>()];
  return all.filter(({ i, k }) => {
    if (usedSpots.has(i) || usedPlaces.has(k)) return false;
    usedSpots.add(i);
    usedPlaces.add(k);
    return true;
  });
}

/**
 * Places brought onto the spots that were told apart: up and down sized and shifted, across leaning as well, as a body
 * does.
 */
function refitted(there: readonly Point[], wanted: readonly Point[], pairs: readonly Pair[]): Point[] {
  const from = pairs.map(({ k }) => wanted[k]);
  const to = pairs.map(({ i }) => there[i]);
  const [a, b] = [meanOf(from), meanOf(to)];
  let [xx, xy, yy, xX, yX, yY] = [0, 0, 0, 0, 0, 0];
  for (const [n, point] of from.entries()) {
    const [x, y] = [point.x - a.x, point.y - a.y];
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xX += x * (to[n].x - b.x);
    yX += y * (to[n].x - b.x);
    yY += y * (to[n].y - b.y);
  }
  // A little towards no change: few places tell little.
  const stay = 0.02;
  const [p, q] = [xx + stay, yy + stay];
  const det = p * q - xy * xy;
  const size = ((xX + stay) * q - yX * xy) / det;
  const lean = (yX * p - (xX + stay) * xy) / det;
  const tall = (yY + stay) / q;
  return wanted.map(({ x, y }) => ({
    x: b.x + size * (x - a.x) + lean * (y - a.y),
    y: b.y + tall * (y - a.y)
  }));
}
function unitBox(points: readonly Point[]): Point[] {
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const wide = Math.max(...xs) - left || 1;
  const tall = Math.max(...ys) - top || 1;
  return points.map(({ x, y }) => ({ x: (x - left) / wide, y: (y - top) / tall }));
}
