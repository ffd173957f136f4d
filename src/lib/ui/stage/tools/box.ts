import type { PlacedPoint } from '$core/calibration/scale';
import { screenToImage, toScreen } from '$core/raster/view';
import { type Placing, placeTool } from './place';
import type { Surface, Tool, Turn } from './tool';

interface Boxing {
  placing: Placing;
  /** The corners of the rectangle that is being drawn, once there are two. */
  corners: PlacedPoint[];
}

/** A rectangle as the screen has it, by two opposite corners: the same gestures as for two points. */
export function boxTool(cornerNames: readonly [string, string]): Tool<Boxing> {
  const two = placeTool(cornerNames);
  const wrapped = ({ state, deeds }: Turn<Placing>, surface: Surface): Turn<Boxing> => ({
    state: { placing: state, corners: cornersOf(state, surface) },
    deeds
  });
  const orNull = (turn: Turn<Placing> | null, surface: Surface) => turn && wrapped(turn, surface);
  return {
    cursor: two.cursor,
    enter: (surface) => ({ placing: two.enter(surface), corners: [] }),
    pointer: ({ placing }, act, surface) => wrapped(two.pointer(placing, act, surface), surface),
    key: ({ placing }, act, surface) => orNull(two.key(placing, act, surface), surface),
    cancel: ({ placing }, surface) => orNull(two.cancel(placing, surface), surface),
    complete: ({ placing }, surface) => orNull(two.complete(placing, surface), surface),
    interrupted: ({ placing }, surface) => wrapped(two.interrupted(placing, surface), surface),
    shown: ({ placing, corners }) => {
      const shown = two.shown(placing);
      return corners.length > 0
        ? { ...shown, draft: [...corners, corners[0]], marks: shown.marks ?? shown.draft }
        : shown;
    }
  };
}

function cornersOf({ points, pressed, next }: Placing, { view, stage }: Surface): PlacedPoint[] {
  const first = points[0] ?? (pressed?.dragged ? pressed.point : undefined);
  if (!first || !next) return [];
  const [a, b] = [first, next].map((point) => toScreen(point, view, stage));
  const at = (x: number, y: number): PlacedPoint => ({
    ...screenToImage({ x, y }, view, stage),
    uncertaintyPx: next.uncertaintyPx
  });
  return [at(a.x, a.y), at(b.x, a.y), at(b.x, b.y), at(a.x, b.y)];
}
