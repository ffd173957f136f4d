import { localCode } from '../../../anatomy/code';
import { angleBetweenLines } from '../../../measurement/measures';
import { betweenLines, line } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** The smaller angle between two lines (as Cobb, 1948), wherever they would meet. */
export const twoLinesLayer = layerKind({
  kind: 'two lines',
  words: 'Angle of two lines',
  version: 1,
  many: true,
  schema: pointsSchema(4, 4),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: [
      'First line, one end',
      'First line, other end',
      'Second line, one end',
      'Second line, other end'
    ],
    drawn: ({ points }) => ({
      shapes: [
        line(points[0], points[1]),
        line(points[2], points[3]),
        line(
          betweenLines([points[0], points[1], points[0], points[1]]),
          betweenLines([points[2], points[3], points[2], points[3]]),
          true
        )
      ],
      wordsAt: betweenLines(points)
    })
  },
  measure: {
    measured: ({ points }, scale) => angleBetweenLines(points, scale),
    concept: localCode('Angle between two lines'),
    coordinates: ({ points }) => ({ graphicType: 'MULTIPOINT', points: [...points] })
  }
});
