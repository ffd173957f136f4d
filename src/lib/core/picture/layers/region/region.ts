import { layerKind } from '../layerKind';
import { outlinePart, pointsSchema } from '../pointsBody';

/** The grey values inside an outline. */
export const regionLayer = layerKind({
  kind: 'region',
  words: 'Grey values',
  version: 1,
  many: true,
  schema: pointsSchema(3),
  upcasters: {},
  placed: outlinePart,
  samples: 'inside'
});
