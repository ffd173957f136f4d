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

/** How far the bone lies from the marker's height, and how far the source is from the marker. */
export interface Apart {
  /** How much nearer the detector the bone lies than the marker, mm; below 0 it lies nearer the source. */
  mm: number;
  /** Standard uncertainties, mm. */
  uncertaintyMm: number;
  sourceToMarkerMm: number;
  sourceToMarkerUncertaintyMm: number;
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
 * A scale from a marker of known size. At the marker's own height unless it is said how far the bone lies `apart`: then
 * lengths are in the bone's plane, where a pixel is larger by the ratio of the two distances from the source.
 * Relative standard uncertainty by the GUM, 5.1: fit in the picture, the marker's tolerance (uniform), and height.
 * Worked value: a ball of 25 mm (tolerance 0.1) seen as 280 +- 0.2 px, 1140 mm from the source, the bone 50 mm nearer the
 * source: 25/280 * (1090/1140) = 0.085369 mm a pixel.
 * @throws RangeError for sizes that are not above 0, or a bone that would lie at the source or behind it
 */
export function scaleFromMarker(known: KnownMarker, seen: SeenMarker, apart?: Apart): BudgetedScale {
  if (!(known.sizeMm > 0 && Number.isFinite(known.sizeMm)))
    throw new RangeError(`a marker's size must be above 0 mm, got ${known.sizeMm}`);
  if (!(seen.sizePx > 0 && Number.isFinite(seen.sizePx)))
    throw new RangeError(`a marker in the picture must be larger than 0 pixels, got ${seen.sizePx}`);
  const contributions: Contribution[] = [
    { description: 'the edge of the marker in the picture', relative: seen.uncertaintyPx / seen.sizePx },
    { description: 'the size of the marker', relative: uniformWithin(known.toleranceMm) / known.sizeMm },
    ...(apart
      ? apartContributions(apart)
      : [{ description: 'the marker being at the height of the bone', relative: placementShare }])
  ];
  const mm = (known.sizeMm / seen.sizePx) * (apart ? 1 + apart.mm / apart.sourceToMarkerMm : 1);
  return {
    source: 'marker',
    mmPerPixelX: mm,
    mmPerPixelY: mm,
    relativeUncertainty: combined(contributions),
    description: known.description,
    contributions
  };
}

function apartContributions(apart: Apart): Contribution[] {
  const { mm, uncertaintyMm, sourceToMarkerMm, sourceToMarkerUncertaintyMm } = apart;
  const sourceToBoneMm = sourceToMarkerMm + mm;
  if (!(sourceToMarkerMm > 0 && sourceToBoneMm > 0))
    throw new RangeError(
      `the bone must lie between detector and source, got ${sourceToBoneMm} mm from the source`
    );
  return [
    { description: 'how far the bone lies from the marker', relative: uncertaintyMm / sourceToBoneMm },
    {
      description: 'how far the source is',
      relative: (Math.abs(mm) * sourceToMarkerUncertaintyMm) / sourceToMarkerMm / sourceToBoneMm
    }
  ];
}

/** Things beside a bone are imaged so many times larger than they are, where nobody measured how many. */
const usualMagnification = { least: 1, most: 1.3 };

/**
 * How far a marker is from the source: the detector's distance divided by the marker's magnification, or by what is usual
 * where that is not known. Standard uncertainties.
 * Worked value: a detector at 1150 +- 20 mm and a magnification of 1.15 +- 0.01: 1000 mm, relative
 * sqrt((20/1150)^2 + (0.01/1.15)^2) = 0.01944, so 19.4 mm.
 */
export function sourceToMarker(
  detector: { mm: number; uncertaintyMm: number },
  magnification: { value: number; uncertainty: number } | null
): Pick<Apart, 'sourceToMarkerMm' | 'sourceToMarkerUncertaintyMm'> {
  const { least, most } = usualMagnification;
  const by = magnification ?? { value: (least + most) / 2, uncertainty: uniformWithin((most - least) / 2) };
  const mm = detector.mm / by.value;
  return {
    sourceToMarkerMm: mm,
    sourceToMarkerUncertaintyMm:
      mm * Math.hypot(detector.uncertaintyMm / detector.mm, by.uncertainty / by.value)
  };
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
