import { type Patch, type Window, cutOut, madeFor } from '../patch';

/**
 * Steps that look at one sample alone. All of them give 0 to 1 from the values or from what is 0 to 1 already.
 */
export type WindowFunction = 'linear' | 'linear exact' | 'sigmoid';

/**
 * Window and level by the formulas of DICOM PS3.3 C.11.2.1.2, from a value to 0..1.
 * linear: ((x - (c - 0.5)) / (w - 1) + 0.5), w at least 1; linear exact: (x - c) / w + 0.5, w above 0;
 * sigmoid: 1 / (1 + exp(-4 (x - c) / w)), w above 0.
 * Worked values: c=100, w=50: linear at 100 is 0.5 / 49 + 0.5 = 0.5102; exact 0.5; sigmoid at 125 is 1/(1+e^-2) = 0.8808.
 * @throws RangeError for a width that the function does not allow
 */
export function windowFunction(
  kind: WindowFunction,
  center: number,
  width: number
): (value: number) => number {
  if (!Number.isFinite(center)) throw new RangeError(`the window's centre must be a number, got ${center}`);
  const least = kind === 'linear' ? 1 : 0;
  if (!(Number.isFinite(width) && (kind === 'linear' ? width >= 1 : width > 0)))
    throw new RangeError(
      `a ${kind} window's width must be ${least ? 'at least 1' : 'above 0'}, got ${width}`
    );
  if (kind === 'sigmoid') return (value) => 1 / (1 + Math.exp((-4 * (value - center)) / width));
  const [middle, span] = kind === 'linear' ? [center - 0.5, width - 1] : [center, width];
  return (value) => {
    if (value <= middle - span / 2) return 0;
    if (value > middle + span / 2) return 1;
    return (value - middle) / span + 0.5;
  };
}

/**
 * A look-up table as DICOM stores it (PS3.3 C.11.2.1.1): values up to `first` take the first entry, values beyond the
 * last the last one. Between whole values the entries are interpolated. Entries are divided by `top` to give 0..1.
 */
export function tableFunction(
  first: number,
  entries: ArrayLike<number>,
  top: number
): (value: number) => number {
  if (entries.length < 1) throw new RangeError('a look-up table needs entries');
  if (!(top > 0)) throw new RangeError(`the table's top must be above 0, got ${top}`);
  const last = entries.length - 1;
  return (value) => {
    const place = Math.min(last, Math.max(0, value - first));
    const below = Math.floor(place);
    const above = Math.min(last, below + 1);
    return (entries[below] + (entries[above] - entries[below]) * (place - below)) / top;
  };
}

/** value to the power of 1 / gamma, on 0..1: above 1 lifts the dark half. Worked value: 0.25 at gamma 2 is 0.5. */
export function gammaFunction(gamma: number): (value: number) => number {
  if (!(gamma >= 0.1 && gamma <= 10)) throw new RangeError(`gamma must be 0.1 to 10, got ${gamma}`);
  return (value) => Math.min(1, Math.max(0, value)) ** (1 / gamma);
}

export function mapped(patch: Patch, each: (value: number) => number, window: Window = patch): Patch {
  const out = cutOut(patch, window, 0);
  for (let i = 0; i < out.length; i++) out[i] = each(out[i]);
  return madeFor(patch, window, out);
}
