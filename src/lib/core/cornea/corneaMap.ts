import type { Point } from '../raster/orientation';
import { outlinesAtLeast } from './contours';
import {
  axialPower,
  bestConic,
  bestSphere,
  corneaIndex,
  keratometricIndex,
  refractivePower,
  tangentialPower
} from './maps';
import type { MeasuredCornea } from './measured';

export type MapKind = 'axial' | 'tangential' | 'refractive' | 'over sphere' | 'over asphere';

/** Values on an even grid about the vertex, row by row from above left; NaN where nothing was seen. */
export interface CorneaMap {
  kind: MapKind;
  unit: 'D' | 'µm';
  /** What powers were worked out with; null for heights. */
  index: number | null;
  /** The sphere or asphere that heights count from, in words; null for powers. */
  over: string | null;
  stepMm: number;
  side: number;
  values: Float64Array;
}

/** Heights count from the body that fits best over this much of the middle. */
const fitMm = 8;

/** How far on towards the rim rings must have been seen for a curvature to be told: it needs slopes on both sides. */
const beyondMm = 0.25;

/** @param stepMm of the grid @param radiusMm how far it reaches from the vertex */
export function corneaMap(
  { heights, hasData }: MeasuredCornea,
  kind: MapKind,
  { stepMm = 0.1, radiusMm = 6 }: { stepMm?: number; radiusMm?: number } = {}
): CorneaMap {
  if (!(stepMm > 0 && radiusMm > stepMm))
    throw new RangeError(`a map of ${radiusMm} mm needs a step between 0 and that, got ${stepMm} mm`);
  const { value, unit, index, over } = told(kind, heights);
  const side = 2 * Math.floor(radiusMm / stepMm) + 1;
  const at = (i: number) => (i - (side - 1) / 2) * stepMm;
  const isTold = (x: number, y: number) => {
    if (kind !== 'tangential' || !hasData(x, y)) return hasData(x, y);
    const further = 1 + beyondMm / Math.max(beyondMm, Math.hypot(x, y));
    return hasData(x * further, y * further);
  };
  const values = new Float64Array(side * side);
  for (let j = 0; j < side; j++)
    for (let i = 0; i < side; i++) values[j * side + i] = isTold(at(i), at(j)) ? value(at(i), at(j)) : NaN;
  return { kind, unit, index, over, stepMm, side, values };
}

function told(
  kind: MapKind,
  heights: MeasuredCornea['heights']
): Pick<CorneaMap, 'unit' | 'index' | 'over'> & { value: (x: number, y: number) => number } {
  const power = (of: typeof axialPower, index: number) => ({
    unit: 'D' as const,
    index,
    over: null,
    value: (x: number, y: number) => of(heights, x, y, index)
  });
  switch (kind) {
    case 'axial':
      return power(axialPower, keratometricIndex);
    case 'tangential':
      return power(tangentialPower, keratometricIndex);
    case 'refractive':
      return power(refractivePower, corneaIndex);
    case 'over sphere': {
      const { radiusMm, elevationUm } = bestSphere(heights, fitMm);
      return { unit: 'µm', index: null, over: `sphere of ${radiusMm.toFixed(2)} mm`, value: elevationUm };
    }
    case 'over asphere': {
      const { apexRadiusMm, q, elevationUm } = bestConic(heights, fitMm);
      const over = `asphere of ${apexRadiusMm.toFixed(2)} mm, Q ${q.toFixed(2)}`;
      return { unit: 'µm', index: null, over, value: elevationUm };
    }
  }
}

/** Where a map is at or above a level: outlines in mm about the vertex, to be filled by the even-odd rule. */
export interface Contour {
  level: number;
  outlines: Point[][];
}

export function contoursOf({ side, stepMm, values }: CorneaMap, levels: readonly number[]): Contour[] {
  const toMm = (at: number) => (at - (side - 1) / 2) * stepMm;
  return levels.map((level) => ({
    level,
    outlines: outlinesAtLeast(values, side, level).map((outline) =>
      outline.map(({ x, y }) => ({ x: toMm(x), y: toMm(y) }))
    )
  }));
}
