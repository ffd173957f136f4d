import type { Point } from '../raster/orientation';

/**
 * How large an image pixel is. Millimetres are valid in one plane only, which the source says:
 * - `calibrated`: the file says its spacing is calibrated to the anatomy (PS3.3 10.7.1.3);
 * - `detector`: spacing on the detector; things nearer the source look larger, by a magnification nobody measured;
 * - `magnified`: detector spacing divided by the magnification that the file estimates;
 * - `line`: from a line drawn over a known length;
 * - `marker`: from something of known size in the picture;
 * - `sensor`: from the size of the sensor, divided by a magnification.
 */
export interface Scale {
  source: 'calibrated' | 'detector' | 'magnified' | 'line' | 'marker' | 'sensor';
  /** Along a row and along a column, in mm; both above 0. */
  mmPerPixelX: number;
  mmPerPixelY: number;
  /** Relative standard uncertainty of the two together, 0.01 is one in a hundred. */
  relativeUncertainty: number;
  /** In words, for the person who reads a length. */
  description: string;
}

/** Spacings as DICOM stores them: first between rows (vertical), then between columns (horizontal), in mm. */
export interface FileSpacing {
  pixelSpacing?: [number, number];
  pixelSpacingCalibration?: 'GEOMETRY' | 'FIDUCIAL';
  imagerPixelSpacing?: [number, number];
  magnification?: number;
}

const usable = (pair: [number, number] | undefined): pair is [number, number] =>
  pair !== undefined && pair.every((mm) => Number.isFinite(mm) && mm > 0 && mm < 100);

/** Two spacings that differ by less than this are the same number written twice. */
const sameSpacingShare = 0.001;

/** A file's calibrated spacing is taken to be good to this relative standard uncertainty when it does not say. */
const calibratedUncertainty = 0.005;
/** Pixel pitch of a detector: a part in a thousand. */
const detectorUncertainty = 0.001;
/** Somebody's estimate of the magnification. */
const magnificationUncertainty = 0.02;

/**
 * The scale that a file's own attributes give, or null when it has none that can be believed.
 * Pixel Spacing equal to Imager Pixel Spacing, without a calibration type, is detector spacing under another name
 * (PS3.3 10.7.1.3). Where the two contradict one another nobody knows which is right: there is no scale, and `doubt` says
 * why.
 */
export function scaleFromFile(file: FileSpacing): { scale: Scale | null; doubt: string | null } {
  const { pixelSpacing, imagerPixelSpacing, magnification } = file;
  const hasImager = usable(imagerPixelSpacing);
  if (usable(pixelSpacing)) {
    const same =
      hasImager &&
      pixelSpacing.every(
        (mm, i) => Math.abs(mm - imagerPixelSpacing[i]) <= sameSpacingShare * imagerPixelSpacing[i]
      );
    const calibrated = file.pixelSpacingCalibration !== undefined || (hasImager && !same);
    if (calibrated) {
      const contradiction = hasImager ? contradictionOf(pixelSpacing, imagerPixelSpacing) : null;
      if (contradiction) return { scale: null, doubt: contradiction };
      return {
        scale: made('calibrated', pixelSpacing, calibratedUncertainty, 'calibrated spacing from the file'),
        doubt: null
      };
    }
    if (!hasImager) {
      return {
        scale: made(
          'detector',
          pixelSpacing,
          detectorUncertainty,
          'spacing from the file, not said to be calibrated'
        ),
        doubt: null
      };
    }
  }
  if (!hasImager) {
    const named = pixelSpacing !== undefined || imagerPixelSpacing !== undefined;
    return { scale: null, doubt: named ? 'The spacing in the file can’t be right and is not used.' : null };
  }
  if (magnification !== undefined && magnification > 0) {
    if (magnification < 1 || magnification > 10) {
      return {
        scale: made('detector', imagerPixelSpacing, detectorUncertainty, 'spacing at the detector'),
        doubt: `The file names a magnification of ${magnification}, which can’t be right; lengths are at the detector.`
      };
    }
    const at = imagerPixelSpacing.map((mm) => mm / magnification) as [number, number];
    const u = Math.hypot(detectorUncertainty, magnificationUncertainty);
    return {
      scale: made('magnified', at, u, `detector spacing, magnification ${magnification} from the file`),
      doubt: null
    };
  }
  return {
    scale: made('detector', imagerPixelSpacing, detectorUncertainty, 'spacing at the detector'),
    doubt: null
  };
}

/** Nothing in front of a detector is imaged larger than this. */
const mostMagnification = 10;

/** Why a calibrated spacing and the detector's can't both be right, in words; null where they can. */
function contradictionOf(calibrated: [number, number], detector: [number, number]): string | null {
  const [rows, columns] = calibrated.map((mm, i) => detector[i] / mm);
  const advice = 'No lengths are given until you set the scale from a known length.';
  if (Math.min(rows, columns) < 1 - sameSpacingShare)
    return `The file contradicts itself: its calibrated spacing is larger than that of its detector, as if things were imaged smaller than they are. ${advice}`;
  if (Math.max(rows, columns) > mostMagnification)
    return `The file contradicts itself: its two spacings differ ${rows.toFixed(0)} times. ${advice}`;
  return null;
}

function made(
  source: Scale['source'],
  [rows, columns]: [number, number],
  u: number,
  description: string
): Scale {
  return { source, mmPerPixelX: columns, mmPerPixelY: rows, relativeUncertainty: u, description };
}

/** A point somebody placed, with the standard uncertainty of its place in image pixels, the same each way. */
export interface PlacedPoint extends Point {
  uncertaintyPx: number;
}

/** Steadiness of a hand or pointer on the screen, one standard deviation, in screen pixels. */
const handScreenPx = 1.5;
/** Nobody sees an edge in a radiograph better than this, however far it is enlarged. In image pixels. */
const edgeImagePx = 0.7;

/** How sure a point's place is when it was put there at this zoom (screen pixels per image pixel). */
export function placementUncertaintyPx(zoom: number): number {
  if (!(zoom > 0)) throw new RangeError(`zoom must be above 0, got ${zoom}`);
  return Math.hypot(edgeImagePx, handScreenPx / zoom);
}

/**
 * A scale from a line over a known length. Relative uncertainty by the GUM (ISO/IEC Guide 98-3, 5.1): the known
 * length's own and the two ends' placement along the line, both relative, in quadrature.
 * @param knownMm above 0 @param knownUncertaintyMm standard uncertainty of it, 0 or more
 * @param aspect height of a pixel over its width, 1 for square ones
 * @throws RangeError when the ends coincide or the length is not above 0
 * Worked value: ends 100 px apart placed to 1 px, 10 mm known to 0.05 mm: 0.1 mm/px, relative sqrt(0.005^2 + 2*0.01^2) = 0.015.
 */
export function scaleFromLine(
  ends: readonly [PlacedPoint, PlacedPoint],
  knownMm: number,
  knownUncertaintyMm: number,
  aspect = 1
): Scale {
  if (!(knownMm > 0) || !Number.isFinite(knownMm))
    throw new RangeError(`the known length must be above 0 mm, got ${knownMm}`);
  if (!(knownUncertaintyMm >= 0))
    throw new RangeError(`its uncertainty must be 0 mm or more, got ${knownUncertaintyMm}`);
  const dx = ends[1].x - ends[0].x;
  const dy = (ends[1].y - ends[0].y) * aspect;
  const px = Math.hypot(dx, dy);
  if (!(px > 0)) throw new RangeError('the two ends of the line coincide');
  const placement = Math.hypot(ends[0].uncertaintyPx, ends[1].uncertaintyPx) / px;
  const mm = knownMm / px;
  return {
    source: 'line',
    mmPerPixelX: mm,
    mmPerPixelY: mm * aspect,
    relativeUncertainty: Math.hypot(knownUncertaintyMm / knownMm, placement),
    description: `a line over ${knownMm} mm`
  };
}
