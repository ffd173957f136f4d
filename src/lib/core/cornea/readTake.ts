import type { Raster } from '../raster/raster';
import { type Progress, type LongWork, finished } from '../longWork';
import { type Range, type TakeFit, fittingTake, unknownRange } from './fitTake';
import { asphericity, keratometry } from './maps';
import { takeHeights } from './measured';
import { type CaptureQuality, qualityOf } from './quality';
import { type FoundRings, ringsIn } from './rings';
import type { RingTarget } from './target';

/** What one picture of the instrument gave, or in words why it gave nothing. */
export type TakeRead =
  | { outcome: 'read'; rings: FoundRings; quality: CaptureQuality; fit: TakeFit }
  | { outcome: 'not read'; because: string };

/** Of its own target, what is left of a take is some hundredths of a micrometre, of cones behind lashes too. */
const mostRmsUm = 0.15;
const leastUsed = 0.75;

/**
 * From a ring picture to the cornea's shape. Nothing is made of a picture whose rings no eye could have mirrored from
 * this target.
 * @param range what the range finder said; without it radii and powers are much less sure
 */
export const readTake = (
  raster: Raster,
  target: RingTarget,
  range: Range = unknownRange,
  told?: (progress: Progress) => void
): TakeRead => finished(readingTake(raster, target, range), told);

/** As `readTake`, a round of the fit a step. */
export function* readingTake(
  raster: Raster,
  target: RingTarget,
  range: Range = unknownRange
): LongWork<TakeRead> {
  const found = ringsIn(raster, target);
  if (found.outcome === 'none') return { outcome: 'not read', because: found.because };
  const { rings } = found;
  const fit = yield* fittingTake(rings, target, range);
  if (fit.because === 'not determined')
    return notRead('Too few rings were seen to tell a surface. Take it again with the lids further open.');
  const used = fit.edges.filter((edge) => edge.used).length;
  const fits = fit.rmsUm <= mostRmsUm && used >= leastUsed * fit.edges.length;
  if (!fits || endsAllRound(rings, target) || !isCornea(fit))
    return notRead(
      `These rings are not those of the target “${target.name}”: another instrument’s picture, or the eye moved while it was taken. Nothing was made of it.`
    );
  return { outcome: 'read', rings, quality: qualityOf(rings, target), fit };
}

/**
 * Lids and the nose take rings away on one side. When one is seen all round and the next nowhere, the target that was
 * mirrored had no more: it was not this one.
 */
function endsAllRound({ radii, meridians }: FoundRings, { edges }: RingTarget): boolean {
  const shares = radii.map((ring) => ring.filter((r) => !Number.isNaN(r)).length / meridians);
  return shares.some((share, k) => k + 1 < edges.length && share > 0.85 && shares[k + 1] < 0.15);
}

/** Radii and asphericities outside these occur in no eye, healthy or not; a target misread as ours makes them. */
const radiiMm = { least: 4.5, most: 11 };
const mostAsphericity = 2.2;

function isCornea(fit: TakeFit): boolean {
  const heights = takeHeights(fit);
  const { flatMm, steepMm } = keratometry(heights);
  return steepMm > radiiMm.least && flatMm < radiiMm.most && Math.abs(asphericity(heights)) < mostAsphericity;
}

const notRead = (because: string): TakeRead => ({ outcome: 'not read', because });
