import { type PlacedPoint, placementUncertaintyPx } from '$core/calibration/scale';
import type { Point } from '$core/raster/orientation';
import { screenToImage } from '$core/raster/view';
import type { Surface } from './tool';

/** A point of the screen as a point placed on the picture, as surely as the zoom allows. */
export function placedAt(at: Point, { view, stage }: Surface): PlacedPoint {
  const { x, y } = screenToImage(at, view, stage);
  return { x, y, uncertaintyPx: placementUncertaintyPx(view.zoom) };
}
