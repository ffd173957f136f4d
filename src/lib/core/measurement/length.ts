import type { PlacedPoint, Scale } from '../calibration/scale';
import { type Value, coverageFactor } from './measured';

/**
 * The straight distance between two placed points, in mm through a scale, else in image pixels.
 * Uncertainty by the GUM, 5.1.2: each end contributes its placement along the line, the scale its relative share of
 * the length. A length that is not well above its own placement gets a ± as large as itself, never less.
 * Worked value: (0,0)-(300,400) at 0.02 mm/px is 10 mm; ends to 1 px and a scale to 1 %: ± 2*sqrt(0.1^2 + 2*0.02^2) = 0.208 mm.
 * @throws RangeError when a point is missing or the scale is not above 0
 */
export function length(ends: readonly [PlacedPoint, PlacedPoint], scale: Scale | null): Value {
  const sx = scale?.mmPerPixelX ?? 1;
  const sy = scale?.mmPerPixelY ?? 1;
  if (!(sx > 0 && sy > 0)) throw new RangeError(`a scale must be above 0, got ${sx} and ${sy} mm per pixel`);
  const dx = (ends[1].x - ends[0].x) * sx;
  const dy = (ends[1].y - ends[0].y) * sy;
  const value = Math.hypot(dx, dy);
  if (!Number.isFinite(value)) throw new RangeError('a point of the length is missing');
  const alongX = value > 0 ? dx / value : Math.SQRT1_2;
  const alongY = value > 0 ? dy / value : Math.SQRT1_2;
  const perPixel = Math.hypot(alongX * sx, alongY * sy);
  const placement = Math.hypot(ends[0].uncertaintyPx, ends[1].uncertaintyPx) * perPixel;
  const fromScale = value * (scale?.relativeUncertainty ?? 0);
  return { value, unit: scale ? 'mm' : 'px', plusMinus: coverageFactor * Math.hypot(placement, fromScale) };
}
