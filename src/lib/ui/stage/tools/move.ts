import type { Point } from '$core/raster/orientation';
import { panned } from '$core/raster/view';
import { type Tool, arrowWay, nothingShown, stay } from './tool';

type Moving = { last: Point | null };

const keyPx = 60;

/** Moves the picture under the window. */
export const moveTool: Tool<Moving> = {
  cursor: 'grab',
  enter: () => ({ last: null }),
  pointer: (state, { phase, at }, { view }) => {
    if (phase === 'down') return stay({ last: at });
    if (!state.last) return stay(state);
    const deeds = [{ kind: 'view' as const, view: panned(view, at.x - state.last.x, at.y - state.last.y) }];
    return { state: { last: phase === 'up' ? null : at }, deeds };
  },
  key: (state, { key }, { view }) => {
    const way = arrowWay(key);
    return way && { state, deeds: [{ kind: 'view', view: panned(view, -way.x * keyPx, -way.y * keyPx) }] };
  },
  cancel: () => null,
  complete: () => null,
  interrupted: () => stay({ last: null }),
  shown: () => nothingShown
};
