import { reducedTo } from '../reduced';
import { patchOfRaster } from '../patch';
import type { Raster } from '../raster';
import type { Advice, AdviceKind } from './adviceKind';
import { type Likeness, likenessOf } from './alike';
import { type CrownsExpected, crownsAstray } from './crowns';
import { cutOffOf } from './cutOff';
import { type Exposure, asShown, darkForLight, exposureOf, showsNothing } from './exposure';
import { type ExposureSaid, adviceOfDevice } from './exposureIndex';
import { type ExposureNorm, levelsOf } from './levels';
import { type SideExpected, sideAstray } from './leadLetters';
import { motionOf } from './motion';
import { type UsualDose, shareOfUsual } from './usualDose';

export interface AdviceWish {
  norm: ExposureNorm;
  /** False where dense parts are stored dark, as a file says (MONOCHROME1). */
  denseBright?: boolean;
  /** An earlier take, as stored, and whether it is one of the same view. */
  earlier?: Raster;
  earlierOfSameView?: boolean;
  /** For takes of teeth: where their crowns should be. */
  crowns?: CrownsExpected;
  /** For takes of what lies on one side of a body, with letters of lead: which side, and how the take is seen. */
  side?: SideExpected;
  /** What the device itself says of the dose. */
  exposureSaid?: ExposureSaid;
  /** What kept takes of this device and view show. It can add to what is told, and silences nothing. */
  usual?: UsualDose;
}

/** What is seen in a take. */
export interface Seen {
  advice: Advice[];
  /** Of its dose, see `Exposure`; null where the noise is too weak to be seen, or nothing is on it. */
  doseSpan: number | null;
}

/** Where one of these is told, where the crowns are can't be seen any more, or was told already. */
const hidesCrowns: ReadonlySet<AdviceKind> = new Set([
  'over-exposed',
  'lines missing',
  'same again',
  'turned'
]);

/** Signs this clear are motion. */
const clearMotion = 2.5;
const reducedSidePx = 420;
/** Rows of teeth and rims of bone have straight edges too, but not over this much of their outline. */
const clearCut = 0.82;

/** What is wrong with a take, see `seenIn`. */
export const adviceOn = (stored: Raster, wish: AdviceWish): Advice[] => seenIn(stored, wish).advice;

/**
 * What is wrong with a take, the surest first; empty when nothing is seen to be. Advice only: a person decides. What is
 * told by one fault is not told again as another: a take with nothing on it is not under-exposed as well.
 */
export function seenIn(stored: Raster, wish: AdviceWish): Seen {
  const {
    norm,
    denseBright = true,
    earlier,
    earlierOfSameView = true,
    crowns,
    side,
    exposureSaid,
    usual
  } = wish;
  const asDense = (picture: Raster) => (denseBright ? picture : darkForLight(picture));
  const raster = asDense(asShown(stored));
  const levels = levelsOf(raster);
  const patch = patchOfRaster({ ...raster, offset: 0 });
  const { small, factor } = reducedTo(patch, reducedSidePx);
  const top = 2 ** raster.bitsStored - 1;
  const exposure = exposureOf(raster, patch);
  if (showsNothing(patch, top)) {
    if (levels.atBottom > 0.5 && norm.mostBlack < 1)
      return {
        advice: exposureAdvice({ ...levels, atBottom: 1, dark: 0 }, norm, exposure, 0),
        doseSpan: null
      };
    return { advice: [nothingExposed], doseSpan: null };
  }
  const out: Advice[] = [];
  const rows = levels.atBottom > norm.mostBlack ? 0 : missingRows(raster);
  if (rows > 0)
    out.push({
      kind: 'lines missing',
      confidence: 0.95,
      description: `${rows} lines of the picture are missing: the sensor or its cable dropped them.`
    });
  const cut = cutOffOf(small, factor);
  if (cut && cut.confidence > clearCut)
    out.push({
      kind: 'edge cut off',
      confidence: cut.confidence,
      description: `The beam missed ${Math.round(100 * cut.share)} % of the sensor. Aim again if what is missing matters.`,
      where: cut.polygon
    });
  const cutShare = cut && cut.confidence > clearCut ? cut.share : 0;
  const ofGreys = exposureAdvice(levels, norm, exposure, cutShare);
  out.push(...ofDose(ofGreys.length > 0 ? ofGreys : lessThanUsual(exposure, usual), exposureSaid));
  const untold = out.some(({ kind }) => kind === 'over-exposed' || kind === 'lines missing');
  const motion = untold ? null : motionOf(patch);
  if (motion && motion.clear > clearMotion)
    out.push({
      kind: 'moved',
      confidence: Math.min(0.99, 0.5 + (motion.clear - clearMotion) / 6),
      description: `Blurred by motion over about ${Math.round(motion.lengthPx)} pixels. Take it again if edges matter.`,
      motion: { lengthPx: motion.lengthPx, directionDeg: motion.directionDeg }
    });
  if (earlier) {
    const likeness = likenessOf(patchOfRaster({ ...asDense(earlier), offset: 0 }), patch);
    if (likeness) out.push(...against(likeness, earlierOfSameView));
  }
  // What the beam missed is light like dense things, also where it is not sure enough to be told.
  const untouched = !cut && !out.some(({ kind }) => hidesCrowns.has(kind));
  const astray = crowns && untouched ? crownsAstray(small, crowns) : null;
  if (astray) out.push(astray);
  const isTurned = out.some(({ kind }) => kind === 'turned');
  const bySide = side && !untold && !isTurned ? sideAstray(patch, side) : null;
  if (bySide) out.push(bySide);
  return { advice: out.sort((a, b) => b.confidence - a.confidence), doseSpan: exposure.span };
}

const nothingExposed: Advice = {
  kind: 'nothing exposed',
  confidence: 0.98,
  description: 'Nothing was exposed: no beam reached the sensor. Check tube and sensor, then take it again.'
};

/** A take that is good by itself may be far from what this clinic keeps. */
function lessThanUsual({ span }: Exposure, usual: UsualDose | undefined): Advice[] {
  if (span === null || !usual) return [];
  const share = shareOfUsual(span, usual);
  if (share >= usual.leastShare) return [];
  return [
    {
      kind: 'under-exposed',
      confidence: Math.min(0.95, 0.6 + 0.5 * (1 - share / usual.leastShare)),
      description: `Grainier than what is kept here of this view: about ${5 * Math.max(1, Math.round(20 * share))} % of the usual dose.`
    }
  ];
}

/** What the picture shows of its dose stands; where it shows nothing of it, the device's own index is told. */
function ofDose(seen: Advice[], said: ExposureSaid | undefined): Advice[] {
  const byDevice = said && adviceOfDevice(said);
  const shown = seen.some(({ kind }) => kind === 'under-exposed' || kind === 'over-exposed');
  return byDevice && !shown ? [byDevice, ...seen] : seen;
}

/** What is less than so many steps of noise from thin to dense is hidden by grain, whatever the detector. */
const grainySpan = 26;
/** Ends of the range that so much of a picture lies at, and how much must lie close by for something to be cut off there. */
const mostAtEnd = 0.1;
const cutBeside = 0.035;

const under = (confidence: number): Advice => ({
  kind: 'under-exposed',
  confidence: Math.min(0.99, confidence),
  description: 'Under-exposed: grainy all over. More dose is needed for a clear picture.'
});
const over = (confidence: number): Advice => ({
  kind: 'over-exposed',
  confidence: Math.min(0.99, confidence),
  description: 'Over-exposed: large parts are black and show nothing any more. Less dose is enough.'
});
const clipped = (confidence: number): Advice => ({
  kind: 'clipped',
  confidence: Math.min(0.97, confidence),
  description:
    'The light parts are cut off at one grey and show nothing. The sensor’s range was set too small.'
});

/**
 * Dose from the greys where they can say it: a known device's logarithmic ones in a fixed window. Of all others from
 * noise against signal, and from what is cut off at the ends of the range.
 */
function exposureAdvice(
  levels: ReturnType<typeof levelsOf>,
  norm: ExposureNorm,
  { span, logarithmic, automatic, dark, light }: Exposure,
  cutShare: number
): Advice[] {
  const flat = levels.atGreatest - cutShare;
  // Where much is cut off, noise no longer tells how greys go with the rays.
  const cutOff = dark.share > 0.25 || light.share > 0.25;
  const ofDevice = norm.dark.high < 1 && !automatic && (logarithmic || cutOff);
  if (ofDevice) {
    // Too little dose lifts all greys alike; a range that was too small stretches them, and the dark ones stay dark.
    const stretched = levels.dark < stretchedShare * levels.middle;
    if (levels.dark > norm.dark.high && !(stretched && flat > mostAtGreatest))
      return [under(0.6 + (3 * (levels.dark - norm.dark.high)) / (1 - norm.dark.high))];
    if (levels.atBottom > norm.mostBlack)
      return [over(0.6 + (levels.atBottom - norm.mostBlack) / (1 - norm.mostBlack))];
    if (flat > mostAtGreatest && levels.middle > clippedMiddle) return [clipped(0.6 + flat)];
  }
  // Air may be burnt black, with little between it and what it surrounds; a body that is cut off has much there.
  const burnt = dark.share > mostAtEnd && dark.beside > cutBeside;
  if (levels.atBottom > 0 && burnt && (norm.mostBlack < 1 || dark.beside > 2 * cutBeside))
    return [over(0.6 + dark.share / 2)];
  if (light.share - cutShare > mostAtEnd && light.beside > cutBeside / 2)
    return [clipped(0.6 + light.share / 2)];
  if (!ofDevice && span !== null && span < grainySpan) return [under(0.6 + 0.4 * (1 - span / grainySpan))];
  return [];
}

/** Fillings and crowns are at the greatest value too, but seldom over so much of a picture that is light besides. */
const mostAtGreatest = 0.06;
const clippedMiddle = 0.47;
const stretchedShare = 0.45;

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

function against(likeness: Likeness, ofSameView: boolean): Advice[] {
  if (likeness.same)
    return [
      {
        kind: 'same again',
        confidence: Math.min(0.99, likeness.asItIs),
        description: 'This looks like the same picture a second time, not a new exposure.'
      }
    ];
  if (likeness.turn && ofSameView)
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
