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

/** Turns a point about the origin so that a view's own down points down. */
type Turn = (point: Point) => Point;

interface Held {
  point: PlanePoint;
  view: string;
  turned: Turn;
}

/** The ends of what hangs in a view, from above. */
type Vertical = [PlanePoint, PlanePoint];

/**
 * Every result of a guide whose points exist, with its ±; for the others, what is missing. Views are turned so that
 * down is down, and scaled each on its own. A result in mm needs a scale: without one it is given in pixels. A view whose
 * scale or plumb line tells nothing gives no results, and each says why.
 */
export function evaluated(guide: Guide, views: Record<string, PlacedView>): GuideResult[] {
  const planes = new Map<string, Held>();
  const spoilt = new Map<string, string>();
  const hanging = new Map<string, Vertical>();
  for (const { key: view, landmarks, vertical } of guide.views) {
    const placed = views[view];
    if (!placed) continue;
    try {
      const ends = (vertical ?? [])
        .flatMap((key) => placed.points[key] ?? [])
        .filter(({ x, y }) => Number.isFinite(x + y));
      if (ends.length === 2) hanging.set(view, inPlane(ends, placed.scale) as Vertical);
      const line = hanging.get(view);
      const turned = line ? turnBy(...line) : turnOf(placed);
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
    return because ? { formula, outcome: 'cannot', because } : resultOf(formula, planes, hanging, views);
  });
}

function resultOf(
  formula: Formula,
  planes: Map<string, Held>,
  hanging: Map<string, Vertical>,
  views: Record<string, PlacedView>
): GuideResult {
  const missing = formula.needs.filter((key) => !planes.has(key));
  if (missing.length > 0) return { formula, outcome: 'missing', points: missing };
  const used = formula.needs.map((key) => planes.get(key)!);
  const seen = [...new Set(used.map(({ view }) => view))];
  const scales = seen.map((view) => views[view].scale);
  if (
    formula.power === 1 &&
    scales.length > 1 &&
    scales.some((scale) => scale === null) &&
    scales.some(Boolean)
  )
    return { formula, outcome: 'cannot', because: 'one of its views has no scale' };
  if (formula.compares && scales.some((scale) => scale === null))
    return { formula, outcome: 'cannot', because: 'its views are compared, and one of them has no scale' };
  const scale = scales[0] ?? null;
  const inUse = formula.compares ? bothScales(scales.filter((each) => each !== null)) : scale;
  const index = new Map(formula.needs.map((key, i) => [key, i]));
  // What hangs was placed by somebody too: where it is off, all that is turned by it is.
  const lines = seen.flatMap((view) => hanging.get(view) ?? []);
  const lineAt = new Map(
    seen.filter((view) => hanging.has(view)).map((view, i) => [view, used.length + 2 * i])
  );
  try {
    // What the points say of themselves comes first: moved a little, they say the same.
    formula.of((key) => used[index.get(key)!].turned(used[index.get(key)!].point));
    const value = propagated(
      [...used.map(({ point }) => point), ...lines],
      (points) => {
        try {
          const turns = new Map(
            [...lineAt].map(([view, i]): [string, Turn] => [view, turnBy(points[i], points[i + 1])])
          );
          return formula.of((key) => {
            const { view, turned } = used[index.get(key)!];
            return (turns.get(view) ?? turned)(points[index.get(key)!]);
          });
        } catch (error) {
          if (error instanceof RangeError) return NaN;
          throw error;
        }
      },
      formula.compares ? 1 : formula.power,
      inUse
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

/** The uncertainty of a ratio of lengths has each picture's own scale in it. */
const bothScales = (scales: readonly Scale[]): Scale => ({
  ...scales[0],
  relativeUncertainty: Math.hypot(...scales.map((each) => each.relativeUncertainty))
});

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
function turnOf({ down, scale }: PlacedView): Turn {
  if (!down) return ({ x, y }) => ({ x, y });
  const along = { x: down.x * (scale?.mmPerPixelX ?? 1), y: down.y * (scale?.mmPerPixelY ?? 1) };
  return turnBy({ x: 0, y: 0 }, along);
}

/** So that what lies from one point of the plane to another points down. */
function turnBy(from: Point, to: Point): Turn {
  const along = { x: to.x - from.x, y: to.y - from.y };
  const length = Math.hypot(along.x, along.y);
  if (!(length > 0)) throw new RangeError('the plumb line has no length');
  const [c, s] = [along.y / length, along.x / length];
  return ({ x, y }) => ({ x: c * x - s * y, y: s * x + c * y });
}
