import { z } from 'zod';
import { insideMm } from '../print/paper';
import { type PictureKind, pictureKinds } from '../picture/pictureView';

/** Which picture a place takes. What is empty limits nothing. */
const newestWant = z.strictObject({
  kind: z.literal('newest'),
  /** By its name, so that a template means the same in another clinic. */
  category: z.string().trim().max(80),
  /** Key of a place in the body. */
  place: z.string().max(80),
  pictureKind: z.enum(pictureKinds).nullable()
});
const want = z.discriminatedUnion('kind', [
  newestWant,
  /** The newest kept view of the visit; of those that are called so where it has a name. */
  z.strictObject({ kind: z.literal('kept view'), name: z.string().trim().max(120) }),
  /** Somebody picks it for each letter. */
  z.strictObject({ kind: z.literal('picked'), pictureId: z.uuid().nullable() })
]);
export type PlaceWant = z.infer<typeof want>;

export const leastPlaceMm = 15;
export const mostPlaceHighMm = 220;
export const mostPlaces = 24;

const place = z.strictObject({
  id: z.uuid(),
  /** Where it lies in its row, from the row's upper left corner, and how large it is. Its caption stands under it. */
  xMm: z.number().min(0).max(insideMm),
  yMm: z.number().min(0).max(mostPlaceHighMm),
  widthMm: z.number().min(leastPlaceMm).max(insideMm),
  heightMm: z.number().min(leastPlaceMm).max(mostPlaceHighMm),
  want,
  /** What is said under it; empty for what the picture is called and its day. */
  caption: z.string().max(200),
  drawn: z.boolean(),
  /** A picture that is older is told before the letter is made. */
  atMostMonths: z.number().int().min(1).max(240).nullable()
});
export type PicturePlace = z.infer<typeof place>;
export const picturePlaceSchema: z.ZodType<PicturePlace> = place;

/** Under each picture this much is kept for its caption. */
export const captionMm = 9;

/** How high a row of places is with the captions under them; places alone make it, so nothing is cut off. */
export const rowHeightMm = (places: readonly PicturePlace[]): number =>
  Math.max(leastPlaceMm, ...places.map(({ yMm, heightMm }) => yMm + heightMm)) + captionMm;

const kindWords: Record<PictureKind, string> = {
  radiograph: 'x-ray',
  photograph: 'photograph',
  ultrasound: 'ultrasound',
  rings: 'ring picture',
  other: 'picture'
};

/** What there is none of where a newest picture is wanted: "no x-ray of right wrist, filed under Referral". */
const newestOf = (
  { category, place, pictureKind }: Extract<PlaceWant, { kind: 'newest' }>,
  placeWords: (key: string) => string
): string =>
  [
    pictureKind ? kindWords[pictureKind] : 'picture',
    place ? ` of ${placeWords(place)}` : '',
    category ? `, filed under ${category}` : ''
  ].join('');

/** What stays empty, and why: "the chart has no x-ray of right wrist". */
export function noneWords(want: PlaceWant, placeWords: (key: string) => string): string {
  switch (want.kind) {
    case 'newest':
      return `the chart has no ${newestOf(want, placeWords)}`;
    case 'kept view':
      return want.name ? `the visit has no kept view “${want.name}”` : 'the visit has no kept view';
    case 'picked':
      return 'nobody has picked one yet';
  }
}

/** What a place takes, in words: "the newest x-ray of right wrist, filed under Referral". @param placeWords of a key */
export function wantWords(want: PlaceWant, placeWords: (key: string) => string): string {
  switch (want.kind) {
    case 'newest':
      return `the newest ${newestOf(want, placeWords)}`;
    case 'kept view':
      return want.name ? `the kept view “${want.name}”` : 'the newest kept view';
    case 'picked':
      return 'a picture that is picked for each letter';
  }
}
