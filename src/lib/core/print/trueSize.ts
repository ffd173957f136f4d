import { scaleInUse } from '../picture/pictureLayers';
import type { PictureView } from '../picture/pictureView';
import { seenSize } from '../picture/seenSize';
import type { SizeMm } from './paper';

export interface TrueSize extends SizeMm {
  /** How much that may be wrong, as a share: two standard uncertainties of the scale. */
  plusMinusShare: number;
  /** Where its millimetres are valid: at the detector, or at what was measured. */
  source: string;
}

/**
 * How large what a picture shows is, where it has a scale: the part of it that is seen, as it is turned; null without a
 * scale, for then nothing true can be printed.
 */
export function trueSize(view: PictureView): TrueSize | null {
  const scale = scaleInUse(view.layers, view.fileScale);
  if (!scale) return null;
  const seen = seenSize(view);
  return {
    width: seen.width * scale.mmPerPixelX,
    height: seen.height * scale.mmPerPixelX,
    plusMinusShare: 2 * scale.relativeUncertainty,
    source: scale.description
  };
}
