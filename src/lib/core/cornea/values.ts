import { type LensValues, lensValues } from './lens';
import { type Keratometry, belowOverAbove, keratometry, wavefrontOf, zernikeOf } from './maps';
import type { MeasuredCornea } from './measured';

/** What is told of a cornea in numbers. Uncertainties are standard ones. */
export interface CorneaValues {
  keratometry: Keratometry;
  flatUncertaintyD: number;
  steepUncertaintyD: number;
  /** How much stronger the lower half is than the upper, dioptres; NaN where one was not seen. */
  belowOverAboveD: number;
  lens: LensValues;
  /** Of the heights over 6 mm, micrometres, in OSA/ANSI order; null where not all of it was seen. */
  zernikeUm: number[] | null;
  /** Of the wavefront, likewise. */
  wavefrontUm: number[] | null;
}

/** Over which Zernike terms are told. */
export const zernikeDiameterMm = 6;
const roundDirections = 24;

export function corneaValues(cornea: MeasuredCornea): CorneaValues {
  const { heights, hasData } = cornea;
  const whole = seenAllRound(cornea, zernikeDiameterMm / 2);
  return {
    keratometry: keratometry(heights),
    flatUncertaintyD: cornea.uncertaintyOf((drawn) => keratometry(drawn).flatD),
    steepUncertaintyD: cornea.uncertaintyOf((drawn) => keratometry(drawn).steepD),
    belowOverAboveD: belowOverAbove(heights, hasData),
    lens: lensValues(cornea),
    zernikeUm: whole ? zernikeOf(heights, zernikeDiameterMm) : null,
    wavefrontUm: whole ? wavefrontOf(heights, zernikeDiameterMm) : null
  };
}

/** Whether rings were seen on circles half a millimetre apart out to a radius. */
function seenAllRound({ hasData }: MeasuredCornea, radiusMm: number): boolean {
  for (let r = radiusMm; r > 0; r -= 0.5)
    for (let k = 0; k < roundDirections; k++) {
      const a = (2 * Math.PI * k) / roundDirections;
      if (!hasData(r * Math.cos(a), r * Math.sin(a))) return false;
    }
  return true;
}
