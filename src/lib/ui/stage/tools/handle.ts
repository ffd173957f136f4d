import type { PlacedPoint } from '$core/calibration/scale';
import type { Point } from '$core/raster/orientation';
import { toScreen } from '$core/raster/view';
import { placedAt } from './placedAt';
import { type Deed, type Tool, type Turn, arrowWay, nothingShown, stay } from './tool';

/** One point of something on the picture. */
export interface Handle {
  id: string;
  index: number;
  points: PlacedPoint[];
}

type Held = { points: PlacedPoint[]; by: 'pointer' | 'keys' | null; grip: Point | null; moved: boolean };

const keyPx = 1;
const keyPxWithShift = 10;

/** Moves one point of what is on the picture already. A drag is one act, and so is a key while it is held. */
export function handleTool({ id, index, points: first }: Handle): Tool<Held> {
  const begin: Held = { points: first, by: null, grip: null, moved: false };
  const moved = (state: Held, to: PlacedPoint): Turn<Held> => {
    const points = state.points.map((point, i) => (i === index ? to : point));
    return { state: { ...state, points, moved: true }, deeds: [{ kind: 'moved', id, points, done: false }] };
  };
  const finished = ({ points, moved: was }: Held): Turn<Held> => ({
    state: { points, by: null, grip: null, moved: false },
    deeds: was ? [{ kind: 'moved', id, points, done: true }] : []
  });
  const left = (state: Held): Turn<Held> => {
    const deeds: Deed[] = state.moved ? [{ kind: 'left', id }] : [];
    return { state: begin, deeds };
  };

  return {
    cursor: 'move',
    enter: () => begin,
    pointer: (state, { phase, at }, surface) => {
      if (phase === 'down') {
        const on = toScreen(state.points[index], surface.view, surface.stage);
        return stay({ ...state, by: 'pointer', grip: { x: on.x - at.x, y: on.y - at.y } });
      }
      if (state.by !== 'pointer') return stay(state);
      if (phase === 'up') return finished(state);
      const grip = state.grip!;
      return moved(state, placedAt({ x: at.x + grip.x, y: at.y + grip.y }, surface));
    },
    key: (state, { key, shift }, surface) => {
      const way = arrowWay(key);
      if (!way || state.by === 'pointer') return null;
      // A picture point a press while it is enlarged, else a screen point.
      const step = (shift ? keyPxWithShift : keyPx) * Math.max(1, surface.view.zoom);
      const from = toScreen(state.points[index], surface.view, surface.stage);
      const to = placedAt({ x: from.x + way.x * step, y: from.y + way.y * step }, surface);
      return moved({ ...state, by: 'keys' }, to);
    },
    keyUp: (state) => (state.by === 'keys' ? finished(state) : stay(state)),
    cancel: (state) => (state.by ? left(state) : null),
    complete: (state) => (state.by === 'keys' ? finished(state) : null),
    interrupted: (state) => (state.by === 'keys' ? finished(state) : left(state)),
    shown: ({ points, by, moved: was }) =>
      by && was ? { ...nothingShown, magnified: points[index] } : nothingShown
  };
}
