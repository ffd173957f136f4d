import { type Look, windowOf, withWindow } from '$core/raster/look/look';
import type { Point } from '$core/raster/orientation';
import { type Tool, arrowWay, nothingShown, stay } from './tool';

type Windowing =
  | { phase: 'idle' }
  | { phase: 'dragging'; from: Point; look: Look; moved: boolean }
  | { phase: 'keys'; look: Look; by: Point };

/** The width changes by a share a pixel, so that narrow and wide windows feel alike. */
const widthPerPixel = 0.005;
const centerPerPixel = 0.003;
const keyPx = 8;
const keyPxWithShift = 40;

function changed(look: Look, dx: number, dy: number): Look {
  const window = windowOf(look);
  if (!window) return look;
  return withWindow(look, {
    width: Math.max(1, window.width * Math.exp(dx * widthPerPixel)),
    center: window.center + dy * window.width * centerPerPixel
  });
}

/** Widens the window along, and moves its middle down; a whole drag, or a key while it is held, is one act. */
export const windowTool: Tool<Windowing> = {
  cursor: 'default',
  enter: () => ({ phase: 'idle' }),
  pointer: (state, { phase, at }, { look }) => {
    if (phase === 'down') return stay({ phase: 'dragging', from: at, look, moved: false });
    if (state.phase !== 'dragging') return stay(state);
    const by = { x: at.x - state.from.x, y: at.y - state.from.y };
    const moved = state.moved || by.x !== 0 || by.y !== 0;
    const done = phase === 'up';
    return {
      state: done ? { phase: 'idle' } : { ...state, moved },
      deeds: moved ? [{ kind: 'look', look: changed(state.look, by.x, by.y), done }] : []
    };
  },
  key: (state, { key, shift }, { look }) => {
    const way = arrowWay(key);
    if (!way || state.phase === 'dragging') return null;
    const step = shift ? keyPxWithShift : keyPx;
    const before = state.phase === 'keys' ? state : { look, by: { x: 0, y: 0 } };
    const by = { x: before.by.x + way.x * step, y: before.by.y + way.y * step };
    return {
      state: { phase: 'keys', look: before.look, by },
      deeds: [{ kind: 'look', look: changed(before.look, by.x, by.y), done: false }]
    };
  },
  keyUp: (state) => finished(state),
  cancel: (state) => {
    if (state.phase === 'idle') return null;
    return { state: { phase: 'idle' }, deeds: [{ kind: 'look', look: state.look, done: false }] };
  },
  complete: (state) => (state.phase === 'keys' ? finished(state) : null),
  interrupted: (state) => {
    if (state.phase === 'keys') return finished(state);
    const deeds =
      state.phase === 'dragging' ? [{ kind: 'look' as const, look: state.look, done: false }] : [];
    return { state: { phase: 'idle' }, deeds };
  },
  shown: () => nothingShown
};

function finished(state: Windowing): {
  state: Windowing;
  deeds: { kind: 'look'; look: Look; done: boolean }[];
} {
  if (state.phase !== 'keys') return stay(state) as ReturnType<typeof finished>;
  const look = changed(state.look, state.by.x, state.by.y);
  return { state: { phase: 'idle' }, deeds: [{ kind: 'look', look, done: true }] };
}
