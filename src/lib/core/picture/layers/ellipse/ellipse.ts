import { sct } from '../../../anatomy/code';
import { fittedEllipse } from '../../../measurement/fit/circle';
import { ellipse } from '../../../measurement/round';
import { meanOf } from '../../../measurement/geometry';
import { roundPath, squared, unsquared } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** The ellipse that lies nearest to its points, by its longest and its shortest diameter. */
export const ellipseLayer = layerKind({
  kind: 'ellipse',
  words: 'Ellipse',
  version: 1,
  many: true,
  schema: pointsSchema(5),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: ['First point on the ellipse', 'Second point', 'Third point', 'Fourth point', 'Fifth point'],
    further: 'Another point on the ellipse',
    drawn: ({ points }, aspect = 1) => {
      const fit = fittedEllipse(points.map((point) => squared(point, aspect)));
      return {
        shapes: fit
          ? [roundPath(fit.center, fit.radiusLong, fit.radiusShort, fit.angle, aspect)]
          : [{ kind: 'path', points }],
        wordsAt: fit ? unsquared(fit.center, aspect) : meanOf(points)
      };
    }
  },
  measure: {
    measured: ({ points }, scale) => ellipse(points, scale).longest,
    concept: sct('103339001', 'Long axis'),
    also: [
      {
        words: 'across',
        measured: ({ points }, scale) => ellipse(points, scale).shortest,
        concept: sct('103340004', 'Short axis')
      }
    ],
    coordinates: ({ points }) => ({ graphicType: 'MULTIPOINT', points: [...points] })
  }
});
