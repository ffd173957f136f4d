import type { PlacedPoint } from '../../calibration/scale';
import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { edgeBetween } from '../edge/edgeBetween';
import { rootEnd } from '../edge/rootEnd';
import { roundNear } from '../edge/roundNear';
import { shaftMiddle } from '../edge/shaftMiddle';
import { distance, meanOf, nearestOnSegment } from '../geometry';
import type { GuideView } from './guide';
import { type Proposed, mostConfidence } from './proposed';
import type { Sharpening } from './sharpening';

/** A better place for a landmark that was pressed. */
export interface Sharpened extends Proposed {
  /** What was pressed when this was found: it counts for nothing once that has moved. */
  pressed: Point[];
  /** The outline that it is the middle of. */
  outline?: { center: Point; radiusPx: number };
  /** The outline that it lies on, and the axis of what that goes about. */
  path?: { outline: Point[]; axis: Point[] };
}

/** Heads are so large, as shares of the picture's shorter side. */
const headShares = { least: 0.02, most: 0.12 };
/** Seen on bodies of known truth: what is surer than this was right in 97 of 100 and more; what is not is left out. */
const round = { seen: 0.6, residualShare: 0.015, ahead: 0.3 };
const edge = { seen: 0.85, residualShare: 0.012, ahead: 0.2, mostMoved: 0.12 };
const root = { seen: 0.7, ahead: 0.05 };
/** The tip of a root is told to this share of the way to where the root begins, one standard deviation either way. */
const tipShare = 0.02;
/** And its middle to this share of half its width. */
const axisShare = 0.15;
const shaft = { seen: 0.85, mostMoved: 0.35, mostWider: 1.3 };
/** The middle of a round outline is told to this share of its radius, one standard deviation. */
const middleShare = 0.035;

/**
 * Landmarks of a view that rough presses tell where to look for, in pixels of the patch. An edge's ends are moved square to
 * it alone: where along it they lie stays as it was pressed, and so does how surely.
 *
 * @param placed landmarks by their keys
 * @param patch the picture in square pixels, whichever way it stands
 */
export function sharpenedBy(
  view: GuideView,
  placed: Readonly<Record<string, PlacedPoint>>,
  patch: Patch
): Record<string, Sharpened> {
  const all: Record<string, Sharpened> = {};
  for (const each of view.sharpens ?? []) {
    if (each.kind === 'round') {
      const press = placed[each.landmark];
      const found = press && middleOfRound(press, patch);
      if (found) all[each.landmark] = found;
    } else if (each.kind === 'root') {
      Object.assign(all, endOfRoot(each, placed, patch));
    } else {
      const [a, b] = each.ends.map((key) => placed[key]);
      const found = a && b && (each.kind === 'edge' ? onEdge : inShaft)([a, b], patch);
      each.ends.forEach((key, i) => {
        if (found) all[key] = found[i];
      });
    }
  }
  return all;
}

const plain = ({ x, y }: Point): Point => ({ x, y });
const sure = (confidence: number) => Math.min(mostConfidence, confidence);

function middleOfRound(press: PlacedPoint, patch: Patch): Sharpened | null {
  const shorter = Math.min(patch.width, patch.height);
  const radii = { least: Math.max(4, headShares.least * shorter), most: headShares.most * shorter };
  if (radii.most <= radii.least) return null;
  const found = roundNear(patch, press, radii);
  if (
    !found ||
    found.seen < round.seen ||
    found.residualPx > round.residualShare * found.radiusPx ||
    found.ahead < round.ahead
  )
    return null;
  const { center, radiusPx } = found;
  return {
    ...center,
    uncertaintyPx: Math.max(1, middleShare * radiusPx),
    confidence: sure(0.7 + 0.5 * found.ahead),
    pressed: [plain(press)],
    outline: { center, radiusPx }
  };
}

/** The tip, and landmarks along the root moved square to its axis onto that. */
function endOfRoot(
  { above, tip, along = [] }: Extract<Sharpening, { kind: 'root' }>,
  placed: Readonly<Record<string, PlacedPoint>>,
  patch: Patch
): Record<string, Sharpened> {
  const press = placed[tip];
  const upper = above.flatMap((key) => placed[key] ?? []);
  if (!press || upper.length < above.length) return {};
  const from = meanOf(upper);
  const found = rootEnd(patch, from, press);
  if (!found || found.seen < root.seen || found.ahead < root.ahead) return {};
  const pressed = [press, ...upper].map(plain);
  const confidence = sure(0.6 + 0.4 * found.seen);
  const path = { outline: found.outline, axis: found.middle };
  const all: Record<string, Sharpened> = {
    [tip]: {
      ...found.tip,
      uncertaintyPx: Math.max(1, tipShare * distance(press, from)),
      confidence,
      pressed,
      path
    }
  };
  for (const key of along) {
    const at = placed[key];
    const moved = at && ontoLine(at, found.middle);
    // What lies outside of the root was meant for something else.
    if (moved && distance(at, moved) < found.halfPx)
      all[key] = {
        ...moved,
        uncertaintyPx: Math.max(at.uncertaintyPx, axisShare * found.halfPx),
        confidence,
        pressed: [plain(at), ...pressed],
        path
      };
  }
  return all;
}
/** The nearest place on a line of points; null where that is one of its ends. */
function ontoLine(at: Point, line: readonly Point[]): Point | null {
  const nearest = line
    .slice(1)
    .map((b, i) => nearestOnSegment(at, line[i], b))
    .reduce((one, other) => (distance(at, other) < distance(at, one) ? other : one));
  const isEnd = [line[0], line[line.length - 1]].some((end) => distance(end, nearest) === 0);
  return isEnd ? null : nearest;
}

type Ends = readonly [PlacedPoint, PlacedPoint];

function onEdge(presses: Ends, patch: Patch): Sharpened[] | null {
  const [a, b] = presses;
  const found = edgeBetween(patch, presses);
  const apart = Math.hypot(b.x - a.x, b.y - a.y);
  if (
    !found ||
    found.seen < edge.seen ||
    found.residualPx > edge.residualShare * apart ||
    found.ahead < edge.ahead ||
    farthest(presses, found.ends) > edge.mostMoved * apart
  )
    return null;
  return moved(presses, found.ends, found.seen * (0.8 + 0.4 * found.ahead));
}

function inShaft(presses: Ends, patch: Patch): Sharpened[] | null {
  const [a, b] = presses;
  const apart = Math.hypot(b.x - a.x, b.y - a.y);
  // Another bone within reach hides the sides: nearer ones are looked for then.
  const found = shaftReaches
    .map((reach) => shaftMiddle(patch, presses, reach * apart))
    .find((each) => each !== null && each.seen >= shaft.seen);
  if (!found) return null;
  const [least, most] = [Math.min(...found.widthsPx), Math.max(...found.widthsPx)];
  if (most > shaft.mostWider * least || farthest(presses, found.ends) > shaft.mostMoved * least) return null;
  return moved(presses, found.ends, found.seen);
}
/** The sides of a shaft lie within such shares of the way between its presses. */
const shaftReaches = [0.5, 0.35, 0.25];

const farthest = (from: Ends, to: readonly Point[]) =>
  Math.max(...from.map(({ x, y }, i) => Math.hypot(to[i].x - x, to[i].y - y)));
const moved = (presses: Ends, ends: readonly Point[], confidence: number): Sharpened[] =>
  ends.map(({ x, y }, i) => ({
    x,
    y,
    uncertaintyPx: presses[i].uncertaintyPx,
    confidence: sure(confidence),
    pressed: presses.map(plain)
  }));
