import { dcm } from '../../../anatomy/code';
import { smoothPath } from '../../../measurement/geometry';
import { curveLength } from '../../../measurement/measures';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** A length along a smooth curve through its points. */
export const curveLayer = layerKind({
  kind: 'curve',
  words: 'Curved length',
  version: 1,
  many: true,
  schema: pointsSchema(2),
  upcasters: {},
  placed: {
    ...pointsPart,
    followsEdges: true,
    pointNames: ['First point', 'Second point'],
    further: 'Next point',
    drawn: ({ points }) => ({
      shapes: [{ kind: 'path', points: smoothPath(points) }],
      wordsAt: points[points.length >> 1]
    })
  },
  measure: {
    measured: ({ points }, scale) => curveLength(points, scale),
    concept: dcm('121211', 'Path length'),
    coordinates: ({ points }) => ({ graphicType: 'POLYLINE', points: [...points] })
  }
});
