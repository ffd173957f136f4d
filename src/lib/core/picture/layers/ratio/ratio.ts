import { sct } from '../../../anatomy/code';
import { middleOf } from '../../../measurement/geometry';
import { ratio } from '../../../measurement/measures';
import { line } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** How long one line is against another: the first over the second. */
export const ratioLayer = layerKind({
  kind: 'ratio',
  words: 'Ratio',
  version: 1,
  many: true,
  schema: pointsSchema(4, 4),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: [
      'Upper line of the ratio, one end',
      'and its other end',
      'Lower line of the ratio, one end',
      'and its other end'
    ],
    drawn: ({ points: [a, b, c, d] }) => ({
      shapes: [line(a, b), line(c, d, true)],
      wordsAt: middleOf(a, b)
    })
  },
  measure: {
    measured: ({ points }, scale) => ratio(points, scale),
    concept: sct('118586006', 'Ratio'),
    coordinates: ({ points }) => ({ graphicType: 'MULTIPOINT', points: [...points] })
  }
});
