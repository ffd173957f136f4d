import { colouredSpots, plumbLine, stuckOn } from '../../calibration/markers/photoMarkers';
import type { PlacedPoint } from '../../calibration/scale';
import type { Raster } from '../../raster/raster';
import type { GuideView } from './guide';

/** A landmark that the computer proposes; a person takes it or moves it. */
export interface Proposed extends PlacedPoint {
  /** 0 to 1. */
  confidence: number;
}

/** What is surer than this is worth a look. */
const leastConfidence = 0.25;
/** A spot's middle is told by so much of its width, one standard deviation. */
const middleShare = 0.06;

/**
 * Landmarks of a view that are found without anybody pointing, in image pixels: a plumb line's balls and markers of any
 * strong colour in a photograph that stands upright.
 * @throws RangeError for a view in which nothing is looked for, or a picture without colours
 */
export function proposedIn(view: GuideView, raster: Raster): Record<string, Proposed> {
  if (view.finds !== 'plumb line and markers') throw new RangeError(`nothing is looked for in ${view.name}`);
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
    confidence
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
