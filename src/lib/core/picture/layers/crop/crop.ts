import { z } from 'zod';
import {
  type Orientation,
  type Part,
  type Point,
  type Size,
  orientedSize,
  toImage,
  toOriented
} from '../../../raster/orientation';
import { partSchema, tiltedOrientationSchema } from '../../../raster/orientationSchema';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  /** What is shown, of the picture as it was turned then, in widths of a pixel. */
  window: partSchema,
  orientation: tiltedOrientationSchema
});
export type Crop = z.infer<typeof schema>;

/** The part of a picture that is shown, where that is not all of it. Nothing is cut off: it can be taken off again. */
export const cropLayer = layerKind<'crop', Crop>({
  kind: 'crop',
  words: 'Crop',
  version: 1,
  many: false,
  schema,
  upcasters: {}
});

/** Its corners in image points, in their order around it. */
export const cropCorners = ({ window, orientation }: Crop, picture: Size): Point[] => {
  const { left, top, width, height } = window;
  return [
    { x: left, y: top },
    { x: left + width, y: top },
    { x: left + width, y: top + height },
    { x: left, y: top + height }
  ].map((corner) => toImage(corner, picture, orientation));
};

/**
 * The part as the picture is turned now: the rectangle around it, as far as there is anything of the picture.
 * @returns null where nothing of it is left, as for a picture of another size
 */
export function cropSeen(crop: Crop, picture: Size, now: Orientation): Part | null {
  return partAround(
    cropCorners(crop, picture).map((corner) => toOriented(corner, picture, now)),
    orientedSize(picture, now)
  );
}

/** A crop to what lies between two image points, seen as the picture is turned; null where that is too little to see. */
export function cropBetween(a: Point, b: Point, picture: Size, orientation: Orientation): Crop | null {
  const corners = [a, b].map((point) => toOriented(point, picture, orientation));
  const window = partAround(corners, orientedSize(picture, orientation));
  return window && Math.min(window.width, window.height) >= leastCropPx ? { window, orientation } : null;
}

/** No side of a crop is shorter, in widths of a pixel. */
export const leastCropPx = 16;

/** The rectangle around points, as far as it lies in one from 0, 0; null where it does not. */
export function partAround(points: readonly Point[], { width, height }: Size): Part | null {
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)];
  const [left, top] = [Math.max(0, Math.min(...xs)), Math.max(0, Math.min(...ys))];
  const [right, bottom] = [Math.min(width, Math.max(...xs)), Math.min(height, Math.max(...ys))];
  return right > left && bottom > top ? { left, top, width: right - left, height: bottom - top } : null;
}
