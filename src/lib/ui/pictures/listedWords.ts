import { showPlaces } from '$core/anatomy/place';
import { projectionWords } from '$core/anatomy/projections';
import type { Notation } from '$core/anatomy/teeth';
import { type PictureKind, type PictureView, pictureName, placesOf } from '$core/picture/pictureView';
import { layerKindOf } from '$core/picture/layers/all';
import { countWords } from '../words';

export const kindWords: Record<PictureKind, string> = {
  radiograph: 'Radiograph',
  photograph: 'Photograph',
  ultrasound: 'Ultrasound',
  rings: 'Ring picture',
  other: 'Other picture'
};

/** What a picture is and shows, without what its name says already. */
export function underName(picture: PictureView, notation: Notation): string {
  const places = placesOf(picture);
  const projection = picture.slot ? projectionWords(picture.slot.projection) : '';
  return [
    pictureName(picture).toLowerCase().includes(projection) ? '' : projection,
    places.length > 0 ? showPlaces(places, notation) : 'linked to no place'
  ]
    .filter(Boolean)
    .join(', ');
}

/** What was made on a picture, counted by kind: "length, 2 angles". */
export function madeOn({ layers }: PictureView): string {
  const counts = new Map<string, number>();
  for (const { kind } of layers.items) {
    const words = layerKindOf(kind).words.toLowerCase();
    counts.set(words, (counts.get(words) ?? 0) + 1);
  }
  return [...counts]
    .map(([words, count]) => (count === 1 ? words : countWords(count, words, `× ${words}`)))
    .join(', ');
}
