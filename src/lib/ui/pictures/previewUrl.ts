import { turnWords } from '$core/raster/orientation';
import { type PictureView, orientationOf } from '$core/picture/pictureView';

/** The address of a small picture as it stands now. It names the step and the turn, so what it gives never changes. */
export function previewUrl(picture: PictureView): string {
  return `/api/pictures/${picture.pictureId}/preview?seq=${picture.seq}&turn=${turnWords(orientationOf(picture))}`;
}
