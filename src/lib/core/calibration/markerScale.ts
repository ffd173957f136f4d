import { type Contribution, combined, uniformWithin } from './budget';
import type { Scale } from './scale';

export interface KnownMarker {
  description: string;
  /** Its size as imaged: diameter, length or distance of lines, in mm, and the maker's tolerance (half width). */
  sizeMm: number;
  toleranceMm: number;
}

export interface SeenMarker {
  /** The same in image pixels, with its standard uncertainty. */
  sizePx: number;
  uncertaintyPx: number;
}

/** Where marker and bone lie between source and detector. */
export interface Heights {
  /** From the source to the detector, mm. */
  sourceToDetectorMm: number;
  /** Over the detector, mm, and how well that is known (standard uncertainty). */
  markerMm: number;
  markerUncertaintyMm: number;
  boneMm: number;
  boneUncertaintyMm: number;
}

/** A scale with the list of what its uncertainty is made of. */
export interface BudgetedScale extends Scale {
  contributions: Contribution[];
}

/**
 * How well a marker placed by hand at the height of the bone is at that height: half a centimetre either way at a
 * metre and more from the source, as a share of the size. Used where nobody says anything better.
 */
const placementShare = 0.005;

/**
 * A scale from a marker of known size. At the marker's own height unless `heights` are given: then lengths are in the
 * bone's plane, larger by the ratio of the two distances from the source, (S - bone) / (S - marker).
 * Relative standard uncertainty by the GUM, 5.1: fit in the picture, the marker's tolerance (uniform), and height.
 * Worked value: a ball of 25 mm (tolerance 0.1) seen as 280 +- 0.2 px at 10 mm over the detector, bone at 60 mm,
 * source at 1150 mm: 25/280 * (1090/1140) = 0.085369 mm a pixel.
 * @throws RangeError for sizes that are not above 0, or heights that are not between detector and source
 */
export function scaleFromMarker(known: KnownMarker, seen: SeenMarker, heights?: Heights): BudgetedScale {
  if (!(known.sizeMm > 0 && Number.isFinite(known.sizeMm)))
    throw new RangeError(`a marker's size must be above 0 mm, got ${known.sizeMm}`);
  if (!(seen.sizePx > 0 && Number.isFinite(seen.sizePx)))
    throw new RangeError(`a marker in the picture must be larger than 0 pixels, got ${seen.sizePx}`);
  const contributions: Contribution[] = [
    { description: 'the edge of the marker in the picture', relative: seen.uncertaintyPx / seen.sizePx },
    { description: 'the size of the marker', relative: uniformWithin(known.toleranceMm) / known.sizeMm }
  ];
  let ratio = 1;
  if (heights) {
    const marker = below(heights, heights.markerMm, 'marker');
    const bone = below(heights, heights.boneMm, 'bone');
    ratio = bone / marker;
    contributions.push(
      { description: 'the height of the marker', relative: heights.markerUncertaintyMm / marker },
      { description: 'the height of the bone', relative: heights.boneUncertaintyMm / bone }
    );
  } else
    contributions.push({
      description: 'the marker being at the height of the bone',
      relative: placementShare
    });
  const mm = (known.sizeMm / seen.sizePx) * ratio;
  return {
    source: 'marker',
    mmPerPixelX: mm,
    mmPerPixelY: mm,
    relativeUncertainty: combined(contributions),
    description: heights ? `${known.description}, brought to the height of the bone` : known.description,
    contributions
  };
}

function below({ sourceToDetectorMm }: Heights, mm: number, what: string): number {
  if (!(mm >= 0 && mm < sourceToDetectorMm))
    throw new RangeError(
      `the ${what} must lie between detector and source, got ${mm} mm of ${sourceToDetectorMm}`
    );
  return sourceToDetectorMm - mm;
}

/**
 * A scale from the known size of the sensor: at the sensor, so what lies before it is imaged larger than it is.
 * @param magnification of what is measured, 1 if it lies on the sensor; with its standard uncertainty
 * Worked value: 35.1 mm over 1755 pixels is 0.02 mm a pixel at the sensor.
 */
export function scaleFromSensor(
  sizeMm: { width: number; height: number },
  picture: { width: number; height: number },
  toleranceMm: number,
  magnification: { value: number; uncertainty: number } = { value: 1, uncertainty: 0.03 }
): BudgetedScale {
  if (!(sizeMm.width > 0 && sizeMm.height > 0))
    throw new RangeError(`a sensor's size must be above 0 mm, got ${sizeMm.width} x ${sizeMm.height}`);
  if (!(picture.width > 0 && picture.height > 0)) throw new RangeError('the picture has no pixels');
  if (!(magnification.value >= 1 && magnification.value < 10))
    throw new RangeError(`a magnification is 1 or more, got ${magnification.value}`);
  const shape = (sizeMm.width / sizeMm.height) * (picture.height / picture.width);
  if (Math.abs(shape - 1) > 0.05)
    throw new RangeError(
      `a sensor of ${sizeMm.width} x ${sizeMm.height} mm does not have the shape of a picture of ${picture.width} x ${picture.height}: cropped, turned or another sensor`
    );
  const contributions: Contribution[] = [
    {
      description: 'the size of the sensor',
      relative: uniformWithin(toleranceMm) / Math.max(sizeMm.width, sizeMm.height)
    },
    { description: 'the magnification', relative: magnification.uncertainty / magnification.value }
  ];
  return {
    source: 'sensor',
    mmPerPixelX: sizeMm.width / picture.width / magnification.value,
    mmPerPixelY: sizeMm.height / picture.height / magnification.value,
    relativeUncertainty: combined(contributions),
    description: 'the size of the sensor',
    contributions
  };
}
