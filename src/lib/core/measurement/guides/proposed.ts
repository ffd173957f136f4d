import { colouredSpots, plumbLine, stuckOn } from '../../calibration/markers/photoMarkers';
import type { PlacedPoint } from '../../calibration/scale';
import { eyeParts, widthLandmarks } from '../../cornea/limbusPupil';
import { brightness } from '../../raster/brightness';
import type { Raster } from '../../raster/raster';
import type { GuideView } from './guide';

/** A landmark that the computer proposes; a person takes it or moves it. */
export interface Proposed extends PlacedPoint {
  /** 0 to 1. */
  confidence: number;
}

/** What is surer than this is worth a look. */
const leastConfidence = 0.25;
/** Nothing is told as surer: a person looks at each. */
export const mostConfidence = 0.95;
/** A spot's middle is told by so much of its width, one standard deviation. */
const middleShare = 0.06;

/**
 * Landmarks of a view that are found without anybody pointing, in image pixels: a plumb line's balls and markers of any
 * strong colour in a photograph that stands upright; limbus and pupil of an eye that looks at the camera.
 * @throws RangeError for a view in which nothing is looked for, or for markers in a picture without colours
 */
export function proposedIn(view: GuideView, raster: Raster): Record<string, Proposed> {
  switch (view.finds) {
    case 'plumb line and markers':
      return markersProposed(view, raster);
    case 'limbus and pupil':
      return eyeProposed(raster);
    default:
      throw new RangeError(`nothing is looked for in ${view.name}`);
  }
}

function markersProposed(view: GuideView, raster: Raster): Record<string, Proposed> {
  const spots = colouredSpots(raster);
  const line = plumbLine(raster, spots);
  const rest = line ? spots.filter(({ center }) => center !== line.upper && center !== line.lower) : spots;
  const found = stuckOn(
    rest,
    view.landmarks.filter(({ beside }) => !beside),
    line?.down ?? { x: 0, y: 1 }
  );
  const sizeOf = (at: { x: number; y: number }) => spots.find(({ center }) => center === at)?.diameterPx ?? 0;
  const proposed = (at: { x: number; y: number }, confidence: number): Proposed => ({
    x: at.x,
    y: at.y,
    uncertaintyPx: Math.max(0.5, middleShare * sizeOf(at)),
    confidence: Math.min(mostConfidence, confidence)
  });
  const all: Record<string, Proposed> = {};
  for (const [key, { point, confidence }] of Object.entries(found)) all[key] = proposed(point, confidence);
  if (line && view.vertical) {
    const [upper, lower] = view.vertical;
    all[upper] = proposed(line.upper, line.confidence);
    all[lower] = proposed(line.lower, line.confidence);
  }
  return Object.fromEntries(
    Object.entries(all).filter(([, { confidence }]) => confidence >= leastConfidence)
  );
}

/** An edge of iris or pupil is told by so much of its circle's radius at best, one standard deviation: tried on eyes by formulas. */
const edgeShares = { limbus: 0.028, pupil: 0.02 };

function eyeProposed(raster: Raster): Record<string, Proposed> {
  const parts = eyeParts(brightness(raster));
  if (!parts) return {};
  return Object.fromEntries(
    Object.entries(widthLandmarks(parts)).map(([key, { x, y }]) => {
      const part = key.startsWith('limbus') ? 'limbus' : 'pupil';
      const { radiusPx, residualPx, seen } = parts[part];
      const uncertaintyPx = Math.max(1, residualPx, edgeShares[part] * radiusPx);
      return [key, { x, y, uncertaintyPx, confidence: Math.min(mostConfidence, seen) }];
    })
  );
}
