import { type Value, coverageFactor } from '../measurement/measured';
import type { ClinicMarker } from './markerShape';
import type { RoundSearch } from './markers/findRound';
import type { Scale } from './scale';

/** Things beside a bone are imaged at most so many times larger than they are; a little less than once is detector error. */
const magnifications = { least: 0.97, most: 1.8 };

/**
 * How a clinic's round marker is looked for in a picture.
 * @param fileScale what the file says; at the detector it bounds how large the marker can be in the picture
 */
export function roundSearch(marker: ClinicMarker, fileScale: Scale | null): RoundSearch {
  if (marker.shape !== 'ball' && marker.shape !== 'disc')
    throw new RangeError(`a ${marker.shape} is not round`);
  const search: RoundSearch = { kind: marker.shape, diameterMm: marker.sizeMm };
  const diameterPx = sizesInPicture(marker, fileScale);
  return diameterPx ? { ...search, diameterPx } : search;
}

/** How large a marker can be in a picture, in pixels, where its file says anything. */
export function sizesInPicture(
  marker: ClinicMarker,
  fileScale: Scale | null
): { least: number; most: number } | null {
  if (!fileScale) return null;
  const px = marker.sizeMm / fileScale.mmPerPixelX;
  const bounds = fileScale.source === 'detector' ? magnifications : { least: 0.8, most: 1.25 };
  return { least: px * bounds.least, most: px * bounds.most };
}

/** Something of known size as it is seen in a picture, its standard uncertainty beside it. */
export interface SeenSize {
  sizePx: number;
  uncertaintyPx: number;
}

/** How many times larger than it is a marker is imaged, by the detector's own spacing; null where that is not known. */
export function magnificationOf(
  marker: Pick<ClinicMarker, 'name' | 'sizeMm' | 'toleranceMm'>,
  seen: SeenSize,
  fileScale: Scale | null
): Value | null {
  if (fileScale?.source !== 'detector') return null;
  const value = (seen.sizePx * fileScale.mmPerPixelX) / marker.sizeMm;
  const relative = Math.hypot(
    seen.uncertaintyPx / seen.sizePx,
    marker.toleranceMm / Math.sqrt(3) / marker.sizeMm,
    fileScale.relativeUncertainty
  );
  return { value, unit: '', plusMinus: coverageFactor * relative * value };
}

/** What a marker and the file say against each other, in words; null where they go together. */
export function contradiction(
  marker: Pick<ClinicMarker, 'name' | 'sizeMm' | 'toleranceMm'>,
  seen: SeenSize,
  fileScale: Scale | null
): string | null {
  const magnification = magnificationOf(marker, seen, fileScale);
  if (magnification && magnification.value + magnification.plusMinus < 1)
    return `By this ${marker.name} things would be imaged smaller than they are (${magnification.value.toFixed(3)} times): it may be another marker, or something else.`;
  if (fileScale?.source !== 'calibrated') return null;
  const byMarker = marker.sizeMm / seen.sizePx;
  const share = byMarker / fileScale.mmPerPixelX - 1;
  const either =
    coverageFactor * Math.hypot(fileScale.relativeUncertainty, seen.uncertaintyPx / seen.sizePx, 0.005);
  return Math.abs(share) > either
    ? `The file’s own calibrated spacing differs by ${(100 * Math.abs(share)).toFixed(1)} %: one of the two is wrong.`
    : null;
}
