import { halved } from '../../calibration/markers/reduced';
import type { Orientation, Point } from '../orientation';
import { type Patch, patchOfRaster } from '../patch';
import type { Raster } from '../raster';
import { likenessOf } from './alike';
import { cutOffOf } from './cutOff';
import { type ExposureNorm, levelsOf } from './levels';
import { motionOf } from './motion';

export const adviceKinds = [
  'nothing exposed',
  'under-exposed',
  'over-exposed',
  'clipped',
  'edge cut off',
  'moved',
  'lines missing',
  'same again',
  'turned'
] as const;
export type AdviceKind = (typeof adviceKinds)[number];

export interface Advice {
  kind: AdviceKind;
  /** 0 to 1. */
  confidence: number;
  /** What to say to the person at the chair: what was seen, and what to do. */
  description: string;
  /** The place it is about, in image points. */
  where?: Point[];
  /** For `moved`: how far, and along which direction, degrees clockwise from the rows. */
  motion?: { lengthPx: number; directionDeg: number };
  /** For `turned`: how the take has to be turned. */
  turn?: Orientation;
}

export interface AdviceWish {
  norm: ExposureNorm;
  /** An earlier take of the same slot, as stored. */
  earlier?: Raster;
}

/** Signs this clear are motion. */
const clearMotion = 2.5;
const reducedSidePx = 420;

/**
 * What is wrong with a take, the surest first; empty when nothing is seen to be. Advice only: a person decides. What is
 * told by one fault is not told again as another: a take with nothing on it is not under-exposed as well.
 */
export function adviceOn(raster: Raster, { norm, earlier }: AdviceWish): Advice[] {
  const levels = levelsOf(raster);
  const patch = patchOfRaster({ ...raster, offset: 0 });
  let small = patch;
  let factor = 1;
  while (Math.max(small.width, small.height) > reducedSidePx) {
    small = halved(small);
    factor *= 2;
  }
  const top = 2 ** raster.bitsStored - 1;
  if (isEmpty(small, top)) {
    if (levels.middle < 0.5) return exposureAdvice({ ...levels, atBottom: 1, dark: 0 }, norm, 0);
    return [
      {
        kind: 'nothing exposed',
        confidence: 0.98,
        description:
          'Nothing was exposed: no beam reached the sensor. Check tube and sensor, then take it again.'
      }
    ];
  }
  const out: Advice[] = [];
  const rows = levels.atBottom > norm.mostBlack ? 0 : missingRows(raster);
  if (rows > 0)
    out.push({
      kind: 'lines missing',
      confidence: 0.95,
      description: `${rows} lines of the picture are missing: the sensor or its cable dropped them.`
    });
  const cut = cutOffOf(small, levels.greatest * top, factor);
  if (cut && cut.confidence > 0.5)
    out.push({
      kind: 'edge cut off',
      confidence: cut.confidence,
      description: `The beam missed ${Math.round(100 * cut.share)} % of the sensor. Aim again if what is missing matters.`,
      where: cut.polygon
    });
  const cutShare = cut && cut.confidence > 0.5 ? cut.share : 0;
  out.push(...exposureAdvice(levels, norm, cutShare));
  const untold = out.some(({ kind }) => kind === 'over-exposed' || kind === 'lines missing');
  const motion = untold ? null : motionOf(patch);
  if (motion && motion.clear > clearMotion)
    out.push({
      kind: 'moved',
      confidence: Math.min(0.99, 0.5 + (motion.clear - clearMotion) / 6),
      description: `Blurred by motion over about ${Math.round(motion.lengthPx)} pixels. Take it again if edges matter.`,
      motion: { lengthPx: motion.lengthPx, directionDeg: motion.directionDeg }
    });
  if (earlier) out.push(...against(patchOfRaster({ ...earlier, offset: 0 }), patch));
  return out.sort((a, b) => b.confidence - a.confidence);
}

function exposureAdvice(levels: ReturnType<typeof levelsOf>, norm: ExposureNorm, cutShare: number): Advice[] {
  const flat = levels.atGreatest - cutShare;
  // Too little dose lifts all greys alike; a range that was too small stretches them, and the dark ones stay dark.
  const stretched = levels.dark < stretchedShare * levels.middle;
  if (levels.dark > norm.dark.high && !(stretched && flat > mostAtGreatest)) {
    const over = (levels.dark - norm.dark.high) / (1 - norm.dark.high);
    return [
      {
        kind: 'under-exposed',
        confidence: Math.min(0.99, 0.6 + 3 * over),
        description: 'Under-exposed: grainy and too light all over. More dose is needed for a clear picture.'
      }
    ];
  }
  if (levels.atBottom > norm.mostBlack) {
    const over = (levels.atBottom - norm.mostBlack) / (1 - norm.mostBlack);
    return [
      {
        kind: 'over-exposed',
        confidence: Math.min(0.99, 0.6 + over),
        description: 'Over-exposed: large parts are black and show nothing any more. Less dose is enough.'
      }
    ];
  }
  if (flat > mostAtGreatest && levels.middle > clippedMiddle)
    return [
      {
        kind: 'clipped',
        confidence: Math.min(0.97, 0.6 + flat),
        description:
          'The light parts are cut off at one grey and show nothing. The sensor’s range was set too small.'
      }
    ];
  return [];
}

/** Fillings and crowns are at the greatest value too, but seldom over so much of a picture that is light besides. */
const mostAtGreatest = 0.06;
const clippedMiddle = 0.47;
const stretchedShare = 0.45;

/** One grey with noise only: no part of a coarse picture differs from the others by more than this share of the range. */
const emptyShare = 0.02;

function isEmpty(small: Patch, top: number): boolean {
  let coarse = small;
  while (Math.max(coarse.width, coarse.height) > 24) coarse = halved(coarse);
  const sorted = Float32Array.from(coarse.data).sort();
  const low = sorted[Math.floor(sorted.length * 0.02)];
  const high = sorted[Math.floor((sorted.length - 1) * 0.98)];
  return high - low < emptyShare * top;
}

/** Rows, or columns, that are altogether black beside some that are not: not those that are burnt black by the dose. */
function missingRows({ width, height, data }: Raster): number {
  const count = (lines: number, length: number, at: (line: number, i: number) => number) => {
    const lit = Float64Array.from({ length: lines }, (_, line) => {
      let above = 0;
      for (let i = 0; i < length; i++) if (data[at(line, i)] > 0) above++;
      return above / length;
    });
    let missing = 0;
    for (let from = 0; from < lines; from++) {
      if (lit[from] > 0) continue;
      let to = from;
      while (to + 1 < lines && lit[to + 1] === 0) to++;
      if ((lit[from - 1] ?? 0) > 0.5 || (lit[to + 1] ?? 0) > 0.5) missing += to - from + 1;
      from = to;
    }
    return missing === lines ? 0 : missing;
  };
  return count(height, width, (y, x) => y * width + x) || count(width, height, (x, y) => y * width + x);
}

function against(earlier: Patch, take: Patch): Advice[] {
  const likeness = likenessOf(earlier, take);
  if (!likeness) return [];
  if (likeness.same)
    return [
      {
        kind: 'same again',
        confidence: Math.min(0.99, likeness.asItIs),
        description: 'This looks like the same picture a second time, not a new exposure.'
      }
    ];
  if (likeness.turn)
    return [
      {
        kind: 'turned',
        confidence: Math.min(0.95, likeness.atBest),
        description: likeness.turn.mirrored
          ? 'Probably mirrored, against the earlier take of this place.'
          : 'Probably turned, against the earlier take of this place.',
        turn: likeness.turn
      }
    ];
  return [];
}
