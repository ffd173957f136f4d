import type { PlacedPoint } from '$core/calibration/scale';
import { bends } from '$core/measurement/bends';
import type { Point } from '$core/raster/orientation';
import { toScreen } from '$core/raster/view';
import { placedAt } from './placedAt';
import { type Placing, placeTool } from './place';
import { type Surface, type Tool, type Turn, nothingShown, stay } from './tool';

interface Stroking {
  /** The way so far, while the pointer is down. */
  way: PlacedPoint[] | null;
  /** Points placed by keys instead. */
  byKeys: Placing;
  message: string;
}

/** The pointer has to go so far for another point. */
const stepPx = 2;
/** What is left out of a way bends it less than this. */
const tolerancePx = 0.7;

/**
 * Draws a line in one go, from where the pointer goes down to where it is lifted. By keys it is led from point to point.
 * @param least points that make one
 */
export function strokeTool(words: string, least: number): Tool<Stroking> {
  const keys = placeTool(
    Array.from({ length: least }, (_, i) => (i === 0 ? `${words}, its start` : `${words}, next point`)),
    `${words}, next point`
  );
  const begin = (surface: Surface): Stroking => ({
    way: null,
    byKeys: keys.enter(surface),
    message: `Draw: ${words}`
  });
  const led = (state: Stroking, turn: Turn<Placing> | null): Turn<Stroking> | null =>
    turn && { state: { ...state, byKeys: turn.state }, deeds: turn.deeds };

  return {
    cursor: 'crosshair',
    enter: begin,
    pointer: (state, { phase, at }, surface) => {
      const point = placedAt(at, surface);
      if (phase === 'down') return stay({ ...begin(surface), way: [point] });
      if (!state.way) return stay(state);
      const last = state.way[state.way.length - 1];
      const way = screenDistance(last, point, surface) >= stepPx ? [...state.way, point] : state.way;
      if (phase === 'move') return stay({ ...state, way });
      const points = thinned(way, surface);
      if (points.length < least)
        return stay({ ...begin(surface), message: 'Too short: draw it in one go, without lifting.' });
      return { state: begin(surface), deeds: [{ kind: 'placed', points }] };
    },
    key: (state, act, surface) => led(state, keys.key(state.byKeys, act, surface)),
    cancel: (state, surface) =>
      state.way ? stay(begin(surface)) : led(state, keys.cancel(state.byKeys, surface)),
    complete: (state, surface) => led(state, keys.complete(state.byKeys, surface)),
    finish: (state, surface) => led(state, keys.finish!(state.byKeys, surface)),
    interrupted: (state, surface) => (state.way ? stay(begin(surface)) : stay(state)),
    shown: ({ way, byKeys, message }) => {
      if (way) return { ...nothingShown, draft: way, marks: [], message };
      const shown = keys.shown(byKeys);
      return shown.draft.length > 0 ? shown : { ...nothingShown, message };
    }
  };
}

function screenDistance(a: Point, b: Point, { view, stage }: Surface): number {
  const [from, to] = [toScreen(a, view, stage), toScreen(b, view, stage)];
  return Math.hypot(to.x - from.x, to.y - from.y);
}

/** A way without the points that hardly bend it as it is seen. */
function thinned(way: readonly PlacedPoint[], { view, stage }: Surface): PlacedPoint[] {
  const seen = way.map((point) => toScreen(point, view, stage));
  return bends(seen, tolerancePx).map((i) => way[i]);
}
