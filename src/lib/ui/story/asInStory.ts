import { type PictureView, lookOf, orientationOf } from '$core/picture/pictureView';
import type { StoryPicture } from '$core/visit/story';

/** A picture as the story shows it: as it is now, or as it was when it was put there. */
export const asInStory = (picture: PictureView, { as }: StoryPicture): PictureView =>
  as
    ? {
        ...picture,
        seq: as.seq,
        layers: { ...picture.layers, look: as.look, orientation: as.orientation }
      }
    : picture;

/** How a picture is seen now, to be kept. */
export const seenNow = (picture: PictureView): StoryPicture['as'] => ({
  seq: picture.seq,
  look: lookOf(picture),
  orientation: orientationOf(picture)
});
