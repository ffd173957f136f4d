import type { PlacedPoint } from '$core/calibration/scale';
import type { Point } from '$core/raster/orientation';
import { screenToImage, toScreen } from '$core/raster/view';
import { placedAt } from './placedAt';
import { type Surface, type Tool, type Turn, arrowWay, nothingShown, stay } from './tool';

export interface Placing {
  points: PlacedPoint[];
  /** How many points there were after each that was placed by hand; between them lie those of edges. */
  stops: number[];
  /** Where the next point would go; null while no pointer or key has said. */
  next: PlacedPoint | null;
  /** Where the finger or button went down, while it is down, and whether it has been dragged away from there. */
  pressed: { at: Point; point: PlacedPoint; dragged: boolean } | null;
  /** Whether the keys lead the point. */
  byKeys: boolean;
  /** Why the last press placed nothing. */
  refused: string;
}

/** A press and a lift further apart than this are a drag: they place two points. */
const dragPx = 6;
const keyPx = 1;
const keyPxWithShift = 10;

/** A press this near the last point means that one: nobody places two points there. For a finger as for a mouse. */
const samePx = 4;

/** How well an edge that is followed is found, one standard deviation, in image pixels. */
const followedUncertaintyPx = 1;

const none: Placing = { points: [], stops: [], next: null, pressed: null, byKeys: false, refused: '' };
const samePlace = 'That is where the last point lies: put this one elsewhere.';

/**
 * Places points one after the other: by a press each, or two by a drag from one to the other. By keys the arrows lead a
 * cross and Enter places it; Escape takes the last point back.
 * @param further what points beyond the named ones are called; then any number is taken until the person says that it is
 * done, or presses the last one again
 * @param follows whether edges can be followed from one point to the next
 */
export function placeTool(
  pointNames: readonly string[],
  further: string | null = null,
  follows = false
): Tool<Placing> {
  const count = pointNames.length;
  const nameOf = (i: number) => pointNames[i] ?? further ?? '';
  const enough = ({ points }: Placing) => further !== null && points.length >= count;
  const finished = ({ points }: Placing): Turn<Placing> => ({
    state: none,
    deeds: [{ kind: 'placed', points }]
  });

  const added = (
    state: Placing,
    point: PlacedPoint,
    surface: Surface,
    along: readonly Point[] = []
  ): Turn<Placing> => {
    const last = state.points.at(-1);
    if (last && isNear(last, point, surface)) {
      if (enough(state)) return finished(state);
      return stay({ ...state, pressed: null, refused: samePlace });
    }
    const followed = along.map(({ x, y }) => ({ x, y, uncertaintyPx: followedUncertaintyPx }));
    const points = [...state.points, ...followed, point];
    const stops = [...state.stops, points.length];
    const next = { ...state, points, stops, pressed: null, next: point, refused: '' };
    return further === null && next.points.length === count ? finished(next) : stay(next);
  };

  const moved = (state: Placing, at: Point, surface: Surface): Placing => {
    const { pressed } = state;
    const away = pressed !== null && Math.hypot(at.x - pressed.at.x, at.y - pressed.at.y) >= dragPx;
    const room = further !== null || state.points.length + 1 < count;
    const dragged = pressed?.dragged || (away && room);
    return {
      ...state,
      next: placedAt(at, surface),
      pressed: pressed && { ...pressed, dragged: dragged === true }
    };
  };

  return {
    cursor: 'crosshair',
    follows,
    enter: () => none,
    pointer: (state, { phase, at, along }, surface) => {
      if (phase === 'down') {
        const point = placedAt(at, surface);
        return stay({ ...state, pressed: { at, point, dragged: false }, next: point, byKeys: false });
      }
      const there = moved(state, at, surface);
      if (phase === 'move' || !there.pressed) return stay(there);
      const first = there.pressed.dragged ? added(there, there.pressed.point, surface).state : there;
      return added(first, there.next!, surface, along);
    },
    key: (state, { key, shift }, surface) => {
      const way = arrowWay(key);
      if (!way) return null;
      const { screen } = surface.stage;
      const from = state.next
        ? toScreen(state.next, surface.view, surface.stage)
        : { x: screen.width / 2, y: screen.height / 2 };
      const step = shift ? keyPxWithShift : keyPx;
      const next = placedAt({ x: from.x + way.x * step, y: from.y + way.y * step }, surface);
      return stay({ ...state, next, byKeys: true });
    },
    cancel: (state) => {
      if (state.points.length > 0)
        return stay({
          ...state,
          points: state.points.slice(0, state.stops.at(-2) ?? 0),
          stops: state.stops.slice(0, -1),
          pressed: null
        });
      return state.next || state.pressed ? stay(none) : null;
    },
    complete: (state, surface, along) => {
      const { screen } = surface.stage;
      if (!state.next) {
        const middle = screenToImage(
          { x: screen.width / 2, y: screen.height / 2 },
          surface.view,
          surface.stage
        );
        const next = { ...placedAt({ x: 0, y: 0 }, surface), ...middle };
        return stay({ ...state, next, byKeys: true });
      }
      return added(state, state.next, surface, along);
    },
    finish: (state) => (enough(state) ? finished(state) : null),
    interrupted: (state) => stay({ ...state, pressed: null, next: state.byKeys ? state.next : null }),
    shown: (state) => {
      const { points, next, pressed, byKeys, refused } = state;
      if (!next && points.length === 0) return { ...nothingShown, message: `Place: ${nameOf(0)}` };
      const led = [...(pressed?.dragged ? [pressed.point] : []), ...(next ? [next] : [])];
      return {
        draft: [...points, ...led],
        marks: [...state.stops.map((stop) => points[stop - 1]), ...led],
        magnified: pressed || byKeys ? next : null,
        message: refused || `Place: ${nameOf(points.length + (pressed?.dragged ? 1 : 0))}`,
        finishes: enough(state),
        begun: points.length > 0,
        from: points.at(-1) ?? null
      };
    }
  };
}

function isNear(a: Point, b: Point, { view, stage }: Surface): boolean {
  const [from, to] = [toScreen(a, view, stage), toScreen(b, view, stage)];
  return Math.hypot(to.x - from.x, to.y - from.y) < samePx;
}
