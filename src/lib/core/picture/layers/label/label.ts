import { z } from 'zod';
import { placeSchema, showPlaces } from '../../../anatomy/place';
import { placedPointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

const schema = z.strictObject({ at: placedPointSchema, place: placeSchema });
export type PlaceLabel = z.infer<typeof schema>;

/** Says which tooth or other place in the body is seen here. */
export const labelLayer = layerKind({
  kind: 'label',
  words: 'Place label',
  version: 1,
  many: true,
  schema,
  upcasters: {},
  placed: {
    pointNames: ['What is labelled'],
    pointsOf: ({ at }: PlaceLabel) => [at],
    withPoints: (body: PlaceLabel, [at]): PlaceLabel => ({ ...body, at }),
    says: ({ place }: PlaceLabel, notation) => showPlaces([place], notation),
    drawn: ({ at }: PlaceLabel) => ({ shapes: [], wordsAt: at })
  }
});
