import { sct } from '../../../anatomy/code';
import { fittedCircle } from '../../../measurement/fit/circle';
import { circle } from '../../../measurement/round';
import { meanOf } from '../../../measurement/geometry';
import { roundPath, squared, unsquared } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** The circle that lies nearest to its points, by its diameter. */
export const circleLayer = layerKind({
  kind: 'circle',
  words: 'Circle',
  version: 1,
  many: true,
  schema: pointsSchema(3),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: ['First point on the circle', 'Second point', 'Third point'],
    further: 'Another point on the circle',
    drawn: ({ points }, aspect = 1) => {
      const fit = fittedCircle(points.map((point) => squared(point, aspect)));
      return {
        shapes: fit ? [roundPath(fit.center, fit.radius, fit.radius, 0, aspect)] : [{ kind: 'path', points }],
        wordsAt: fit ? unsquared(fit.center, aspect) : meanOf(points)
      };
    }
  },
  measure: {
    measured: ({ points }, scale) => circle(points, scale).diameter,
    concept: sct('81827009', 'Diameter'),
    coordinates: ({ points }) => ({ graphicType: 'MULTIPOINT', points: [...points] })
  }
});
