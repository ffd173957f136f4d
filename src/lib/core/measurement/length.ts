import type { PlacedPoint, Scale } from '../calibration/scale';

export interface Measured {
  value: number;
  unit: 'mm' | 'px';
  /** Half the width of the interval that holds the true value in 95 of 100 cases (coverage factor 2). */
  plusMinus: number;
}

/** Coverage factor of the GUM (ISO/IEC Guide 98-3, 6.2.1) for about 95 %. */
const coverage = 2;

/**
 * The straight distance between two placed points, in mm through a scale, else in image pixels.
 * Uncertainty by the GUM, 5.1.2: each end contributes its placement along the line, the scale its relative share of
 * the length. A length that is not well above its own placement gets a ± as large as itself, never less.
 * Worked value: (0,0)-(300,400) at 0.02 mm/px is 10 mm; ends to 1 px and a scale to 1 %: ± 2*sqrt(0.1^2 + 2*0.02^2) = 0.208 mm.
 */
export function length(ends: readonly [PlacedPoint, PlacedPoint], scale: Scale | null): Measured {
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
  return { value, unit: scale ? 'mm' : 'px', plusMinus: coverage * Math.hypot(placement, fromScale) };
}

/**
 * A measured value in words, rounded to what its ± can bear: "11.23 ± 0.21 mm", "652 ± 4 px".
 * The ± keeps two digits while its first is 1 or 2, else one; the value the same number of decimals.
 */
export function inWords({ value, unit, plusMinus }: Measured): string {
  const decimals = decimalsFor(plusMinus);
  return `${value.toFixed(decimals)} ± ${plusMinus.toFixed(decimals)} ${unit}`;
}

function decimalsFor(plusMinus: number): number {
  if (!(plusMinus > 0)) return 2;
  const exponent = Math.floor(Math.log10(plusMinus));
  const first = Math.floor(plusMinus / 10 ** exponent);
  const digits = first <= 2 ? 1 : 0;
  return Math.max(0, Math.min(4, digits - exponent));
}
