import { type Size, orientedSize } from '../raster/orientation';
import { type PictureView, aspectOf, orientationOf, partOf } from './pictureView';

/** How large what is seen of a picture is: its part as it is turned, in widths of a pixel. */
export const seenSize = (view: PictureView): Size =>
  partOf(view) ??
  orientedSize({ width: view.width, height: view.height, pixelAspect: aspectOf(view) }, orientationOf(view));
