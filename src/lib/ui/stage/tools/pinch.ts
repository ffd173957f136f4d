import type { Point } from '$core/raster/orientation';
import { type View, panned, zoomedAbout } from '$core/raster/view';
import type { Surface } from './tool';

/** Two fingers on the stage, by the pointer each is. */
export type Fingers = ReadonlyMap<number, Point>;

/** The view after one of two fingers has moved: what lies between them stays between them. */
export function pinched(
  fingers: Fingers,
  moved: number,
  to: Point,
  { view, stage }: Pick<Surface, 'view' | 'stage'>
): View {
  const before = fingers.get(moved);
  const other = [...fingers].find(([finger]) => finger !== moved)?.[1];
  if (!before || !other) return view;
  const spread = Math.hypot(before.x - other.x, before.y - other.y);
  const now = Math.hypot(to.x - other.x, to.y - other.y);
  const along = panned(view, (to.x - before.x) / 2, (to.y - before.y) / 2);
  if (spread === 0) return along;
  const middle = { x: (to.x + other.x) / 2, y: (to.y + other.y) / 2 };
  return zoomedAbout(along, middle, now / spread, stage.screen);
}
