import { medianOf } from '../measurement/fit/linear';
import { type Progress, type LongWork, finished } from '../longWork';
import { type CorneaSheet, type TakeToJoin, joining } from './join';
import { turningMm } from './pose';
import type { CaptureQuality } from './quality';
import type { RingTarget } from './target';

/** Whether a take fits the others, and what to do about it. */
export interface TakeVerdict {
  /** Average distance of its own surface from that of the others, micrometres. */
  averageUm: number;
  again: boolean;
  /** Why, in words; empty where it fits. */
  because: string;
}

export interface JudgedSheet {
  /** Joined from the takes that fit. */
  sheet: CorneaSheet;
  /** Which takes those are, in the sheet's order. */
  joined: number[];
  verdicts: TakeVerdict[];
}

const leastAgreeing = 0.7;
/** A take this many times further off than the middle one, and by at least so many micrometres, does not belong. */
const furtherThan = 4;
const leastOffUm = 8;
const leastPercent = 55;
/** When more of them than this fit none of the rest, nobody can say which are right. */
const mostStrangers = 0.3;
const mostStrayedDeg = 6;
/** Fewer takes than this can't outvote one. */
const leastTakes = 4;

/**
 * Takes joined, those that don't fit the rest left out one by one, the worst first, and the rest joined again. One take
 * that was spoilt is named; when many disagree nobody can say which are right, and nothing is joined.
 * @throws RangeError when the takes are of two eyes or upside down, or none is left
 */
export const judgedSheet = (
  takes: readonly TakeToJoin[],
  qualities: readonly CaptureQuality[],
  target: RingTarget,
  told?: (progress: Progress) => void
): JudgedSheet => finished(judgingSheet(takes, qualities, target), told);

/** As `judgedSheet`, a round of joining a step; the count starts again when a take was left out. */
export function* judgingSheet(
  takes: readonly TakeToJoin[],
  qualities: readonly CaptureQuality[],
  target: RingTarget
): LongWork<JudgedSheet> {
  const leftOut = new Set<number>();
  const reasons = takes.map((_, i) =>
    qualities[i].percent < leastPercent
      ? `Capture quality ${qualities[i].percent} %. ${qualities[i].description}`
      : ''
  );
  const averages = takes.map(() => NaN);
  for (;;) {
    const kept = takes.map((_, i) => i).filter((i) => !leftOut.has(i));
    const strangers = takes.length - kept.length;
    if (kept.length === 0 || (strangers > 1 && strangers > mostStrangers * takes.length))
      throw new RangeError(
        'These takes don’t fit one another: they may be of two eyes, or of two patients. Nothing was joined.'
      );
    const sheet = yield* joining(
      kept.map((i) => takes[i]),
      target
    );
    if (strangers === 0 && isUpsideDown(takes, sheet))
      throw new RangeError(
        'The eye looked the other way in all of these takes: the pictures are upside down. Turn them, then join them.'
      );
    kept.forEach((i, k) => {
      averages[i] = sheet.takes[k].averageUm;
      const strayed = strayedDeg(takes[i], sheet.takes[k], sheet.surface.sphere.radiusMm);
      if (strayed > mostStrayedDeg)
        reasons[i] ||=
          `The eye looked ${Math.round(strayed)} degrees away from where it was asked to. Take it again if that side matters.`;
    });
    const worst = kept.length >= leastTakes ? worstOf(sheet) : null;
    if (worst === null)
      return {
        sheet,
        joined: kept,
        verdicts: takes.map((_, i) => ({
          averageUm: averages[i],
          again: reasons[i] !== '',
          because: reasons[i]
        }))
      };
    const taken = kept[worst.index];
    leftOut.add(taken);
    reasons[taken] ||= worst.because;
  }
}

/**
 * Where an eye looked by where its cornea's centre stood, degrees to the right and up: turns and shifts of a round thing
 * stand for one another, and only both together tell.
 */
function lookedDeg({ pose }: CorneaSheet['takes'][number], radiusMm: number): [number, number] {
  const lever = turningMm - radiusMm;
  return [((pose.right + pose.x / lever) * 180) / Math.PI, ((pose.up - pose.y / lever) * 180) / Math.PI];
}

/** Gazes that run against those that were asked for: the pictures were stored upside down. */
function isUpsideDown(takes: readonly TakeToJoin[], { takes: found, surface }: CorneaSheet): boolean {
  const along = takes.reduce((sum, { gazeRightDeg, gazeUpDeg }, i) => {
    const [right, up] = lookedDeg(found[i], surface.sphere.radiusMm);
    return sum + gazeRightDeg * right + gazeUpDeg * up;
  }, 0);
  return along < 0;
}

/** How far from where it was asked to an eye looked, degrees. */
function strayedDeg(
  { gazeRightDeg, gazeUpDeg }: TakeToJoin,
  found: CorneaSheet['takes'][number],
  radiusMm: number
) {
  const [right, up] = lookedDeg(found, radiusMm);
  return Math.hypot(right - gazeRightDeg, up - gazeUpDeg);
}

function worstOf({ takes }: CorneaSheet): { index: number; because: string } | null {
  const ordinary = medianOf(takes.map(({ averageUm }) => averageUm));
  let worst: { index: number; because: string; score: number } | null = null;
  takes.forEach(({ averageUm, agreeing }, index) => {
    const off = averageUm > Math.max(leastOffUm, furtherThan * ordinary) || Number.isNaN(averageUm);
    if (!off && agreeing >= leastAgreeing) return;
    const score = (Number.isNaN(averageUm) ? 1e6 : averageUm / Math.max(1, ordinary)) + 10 * (1 - agreeing);
    if (worst && worst.score >= score) return;
    const many = Math.round(100 * agreeing);
    worst = {
      index,
      score,
      because:
        agreeing < leastAgreeing
          ? `Only ${many} % of its rings agree with the other takes: the eye moved, or it is another eye. Take it again.`
          : `It lies ${Math.round(averageUm)} micrometres off the other takes: the eye moved or was out of focus. Take it again.`
    };
  });
  return worst;
}
