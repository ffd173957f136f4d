import type { Advice } from './adviceKind';

/** What a maker's device says of an exposure in its file (IEC 62494-1); each may be missing. */
export interface ExposureSaid {
  /** Exposure Index: proportional to the dose at the detector. */
  index?: number;
  /** Target Exposure Index: what it should have been for this view. */
  target?: number;
  /** Deviation Index: ten times the decimal logarithm of the one over the other. */
  deviation?: number;
}

/** Half and twice the dose that was wanted are so far off. */
const worthSaying = 3;
/** Beyond this a device does not know its target. */
const mostBelievable = 15;
/** The index and the deviation are rounded; further apart they contradict each other. */
const mostRounding = 0.6;

/**
 * How far the dose was from the one wanted, in steps of a tenth of a decade.
 * @returns null where the file doesn't say, says what can't be, or contradicts itself
 */
export function deviationSaid({ index, target, deviation }: ExposureSaid): number | null {
  const counted = index && target && index > 0 && target > 0 ? 10 * Math.log10(index / target) : null;
  const said = deviation !== undefined && Number.isFinite(deviation) ? deviation : null;
  if (counted !== null && said !== null && Math.abs(counted - said) > mostRounding) return null;
  const either = said ?? counted;
  return either !== null && Math.abs(either) <= mostBelievable ? either : null;
}

/** What is to be said of a dose that the device itself calls far off. */
export function adviceOfDevice(said: ExposureSaid): Advice | null {
  const off = deviationSaid(said);
  if (off === null || Math.abs(off) < worthSaying) return null;
  const times = 10 ** (Math.abs(off) / 10);
  const much = times < 9.5 ? times.toFixed(1).replace(/\.0$/, '') : Math.round(times).toString();
  const confidence = Math.min(0.97, 0.75 + 0.05 * Math.abs(off));
  return off < 0
    ? {
        kind: 'under-exposed',
        confidence,
        description: `Under-exposed by the device’s own index: ${much} times less than the dose that was wanted. Take it again if grain hides what matters.`
      }
    : {
        kind: 'over-exposed',
        confidence,
        description: `Over-exposed by the device’s own index: ${much} times the dose that was wanted. The picture may be good all the same.`
      };
}
