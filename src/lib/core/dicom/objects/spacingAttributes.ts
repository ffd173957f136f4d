import type { Attributes } from '../dataset';
import type { FramesShape } from '../../picture/pictureView';
import type { ObjectFacts } from './objectFacts';

const calibrations = {
  calibrated: 'GEOMETRY',
  magnified: 'GEOMETRY',
  sensor: 'GEOMETRY',
  line: 'FIDUCIAL',
  marker: 'FIDUCIAL'
} as const;

/**
 * A known spacing always leaves with a picture: at the detector as Imager Pixel Spacing, in the plane of the anatomy as
 * Pixel Spacing with how it was calibrated (PS3.3 10.7.1). Where only pixels' shape is known, their aspect.
 */
export function spacingAttributes({ detectorSpacingMm, scale, pixels }: ObjectFacts): Attributes {
  const imager = detectorSpacingMm ?? undefined;
  if (!scale) return imager ? { ImagerPixelSpacing: imager } : { PixelAspectRatio: pixelAspectRatio(pixels) };
  const spacing = [scale.mmPerPixelY, scale.mmPerPixelX];
  if (scale.source === 'detector') return { ImagerPixelSpacing: imager ?? spacing };
  return {
    ImagerPixelSpacing: imager,
    PixelSpacing: spacing,
    PixelSpacingCalibrationType: calibrations[scale.source],
    PixelSpacingCalibrationDescription:
      `${scale.description}, relative uncertainty ${scale.relativeUncertainty.toPrecision(2)}`.slice(0, 64)
  };
}

/** Height to width of pixels that are not square, in whole numbers as DICOM writes it. */
export const pixelAspectRatio = ({ pixelAspect }: FramesShape): [number, number] | undefined =>
  pixelAspect === undefined ? undefined : [Math.round(1000 * pixelAspect), 1000];

/** The same for objects whose rows and columns have no detector: Pixel Spacing whatever the scale came from. */
export function plainSpacingAttributes(facts: ObjectFacts): Attributes {
  const { ImagerPixelSpacing, ...rest } = spacingAttributes(facts);
  if (rest.PixelSpacing !== undefined || ImagerPixelSpacing === undefined) return rest;
  return { PixelSpacing: ImagerPixelSpacing };
}
