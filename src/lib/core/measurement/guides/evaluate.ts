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
  | {
      outcome: 'value';
      value: Value;
      /** Against the normal range. */
      standing: 'below' | 'within' | 'above' | null;
      /** The step of a disease that it falls into, where the formula has steps. */
      stage: string | null;
    }
  | { outcome: 'missing'; points: string[] }
  | { outcome: 'cannot'; because: string }
);

interface Held {
  point: PlanePoint;
  view: string;
  /** Turned about the origin so that the view's own down points down. */
  turned: (point: Point) => Point;
}

/**
 * Every result of a guide whose points exist, with its ±; for the others, what is missing. Views are turned so that
 * down is down, and scaled each on its own. A result in mm needs a scale: without one it is given in pixels. A view whose
 * scale or plumb line tells nothing gives no results, and each says why.
 */
export function evaluated(guide: Guide, views: Record<string, PlacedView>): GuideResult[] {
  const planes = new Map<string, Held>();
  const spoilt = new Map<string, string>();
  for (const { key: view, landmarks } of guide.views) {
    const placed = views[view];
    if (!placed) continue;
    try {
      const turned = turnOf(placed);
      for (const { key } of landmarks) {
        const point = placed.points[key];
        if (!point || !Number.isFinite(point.x + point.y)) continue;
        planes.set(`${view}.${key}`, { point: inPlane([point], placed.scale)[0], view, turned });
      }
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      spoilt.set(view, error.message);
    }
  }
  const place = (key: string) => {
    const held = planes.get(key);
    return held?.turned(held.point);
  };
  const formulas = [...guide.formulas, ...(guide.further?.(place) ?? [])];
  return formulas.map((formula) => {
    const because = formula.needs.map((key) => spoilt.get(key.split('.')[0])).find(Boolean);
    return because ? { formula, outcome: 'cannot', because } : resultOf(formula, planes, views);
  });
}

function resultOf(
  formula: Formula,
  planes: Map<string, Held>,
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
  const index = new Map(formula.needs.map((key, i) => [key, i]));
  try {
    // What the points say of themselves comes first: moved a little, they say the same.
    formula.of((key) => used[index.get(key)!].turned(used[index.get(key)!].point));
    const value = propagated(
      used.map(({ point }) => point),
      (points) => {
        try {
          return formula.of((key) => used[index.get(key)!].turned(points[index.get(key)!]));
        } catch (error) {
          if (error instanceof RangeError) return NaN;
          throw error;
        }
      },
      formula.power,
      scale
    );
    const unit = formula.power === 1 && !scale ? 'px' : formula.unit;
    return {
      formula,
      outcome: 'value',
      value: { ...value, unit },
      standing: standing(formula, value.value, unit),
      stage: stage(formula, value.value, unit)
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
  const { low, high } = normal;
  return low !== null && value < low ? 'below' : high !== null && value > high ? 'above' : 'within';
}

function stage({ stages, unit }: Formula, value: number, given: string): string | null {
  if (!stages || unit !== given) return null;
  return stages.upTo.find((step) => value <= step.value)?.name ?? stages.beyond;
}

/** How a view's points are turned. Its down is given in pixels, which need not be square. */
function turnOf({ down, scale }: PlacedView): (point: Point) => Point {
  if (!down) return ({ x, y }) => ({ x, y });
  const along = { x: down.x * (scale?.mmPerPixelX ?? 1), y: down.y * (scale?.mmPerPixelY ?? 1) };
  const length = Math.hypot(along.x, along.y);
  if (!(length > 0)) throw new RangeError('the plumb line has no length');
  const [c, s] = [along.y / length, along.x / length];
  return ({ x, y }) => ({ x: c * x - s * y, y: s * x + c * y });
}
