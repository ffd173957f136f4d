import { closed, meanOf } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** The grey values inside an outline. */
export const regionLayer = layerKind({
  kind: 'region',
  words: 'Grey values',
  version: 1,
  many: true,
  schema: pointsSchema(3),
  upcasters: {},
  placed: {
    ...pointsPart,
    followsEdges: true,
    pointNames: ['First point of the outline', 'Second point', 'Third point'],
    further: 'Next point of the outline',
    drawn: ({ points }) => ({ shapes: [closed(points)], wordsAt: meanOf(points) })
  },
  samples: 'inside'
});
