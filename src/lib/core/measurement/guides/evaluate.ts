import type { PlacedPoint, Scale } from '../../calibration/scale';
import type { Point } from '../../raster/orientation';
import { type PlanePoint, type Value, inPlane, propagated } from '../measured';
import type { Formula, Guide } from './guide';

/** What has been placed in one view: landmarks, its scale, and which way is down where a plumb line tells. */
export interface PlacedView {
  points: Record<string, PlacedPoint>;
  scale: Scale | null;
  /** Direction of down in the picture; straight down where nothing says. */
  down?: Point;
}

export type GuideResult = { formula: Formula } & (
  | { outcome: 'value'; value: Value; standing: 'below' | 'within' | 'above' | null }
  | { outcome: 'missing'; points: string[] }
  | { outcome: 'cannot'; because: string }
);

/**
 * Every result of a guide whose points exist, with its ±; for the others, what is missing. Views are turned so that
 * down is down, and scaled each on its own. A result in mm needs a scale: without one it is given in pixels.
 */
export function evaluated(guide: Guide, views: Record<string, PlacedView>): GuideResult[] {
  const planes = new Map<string, { point: PlanePoint; view: string }>();
  for (const view of guide.views) {
    const placed = views[view.key];
    if (!placed) continue;
    for (const { key } of view.landmarks) {
      const point = placed.points[key];
      if (!point || !Number.isFinite(point.x + point.y)) continue;
      const [plane] = inPlane([point], placed.scale);
      planes.set(`${view.key}.${key}`, { point: upright(plane, placed.down), view: view.key });
    }
  }
  const formulas = [...guide.formulas, ...(guide.further?.((key) => planes.get(key)?.point) ?? [])];
  return formulas.map((formula) => resultOf(formula, planes, views));
}

function resultOf(
  formula: Formula,
  planes: Map<string, { point: PlanePoint; view: string }>,
  views: Record<string, PlacedView>
): GuideResult {
  const missing = formula.needs.filter((key) => !planes.has(key));
  if (missing.length > 0) return { formula, outcome: 'missing', points: missing };
  const used = formula.needs.map((key) => planes.get(key)!);
  const scales = [...new Set(used.map(({ view }) => view))].map((view) => views[view].scale);
  if (
    formula.power === 1 &&
    scales.length > 1 &&
    scales.some((scale) => scale === null) &&
    scales.some(Boolean)
  )
    return { formula, outcome: 'cannot', because: 'one of its views has no scale' };
  const scale = scales[0] ?? null;
  try {
    const value = propagated(
      used.map(({ point }) => point),
      (points) => formula.of((key) => points[formula.needs.indexOf(key)]),
      formula.power,
      scale
    );
    const unit = formula.power === 1 && !scale ? 'px' : formula.unit;
    return {
      formula,
      outcome: 'value',
      value: { ...value, unit },
      standing: standing(formula, value.value, unit)
    };
  } catch (error) {
    if (error instanceof RangeError) return { formula, outcome: 'cannot', because: error.message };
    throw error;
  }
}

function standing(
  { normal, unit }: Formula,
  value: number,
  given: string
): 'below' | 'within' | 'above' | null {
  if (!normal || unit !== given) return null;
  return value < normal.low ? 'below' : value > normal.high ? 'above' : 'within';
}

/** Turned about the origin so that `down` points down. Lengths and angles between points stay. */
function upright(point: PlanePoint, down: Point | undefined): PlanePoint {
  if (!down) return point;
  const length = Math.hypot(down.x, down.y);
  if (!(length > 0)) throw new RangeError('the plumb line has no length');
  const [c, s] = [down.y / length, down.x / length];
  return { x: c * point.x - s * point.y, y: s * point.x + c * point.y, u: point.u };
}
