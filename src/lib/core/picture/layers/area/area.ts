import { sct } from '../../../anatomy/code';
import { area } from '../../../measurement/measures';
import { layerKind } from '../layerKind';
import { outlinePart, pointsSchema } from '../pointsBody';

/** What lies inside an outline, whose last point joins the first. */
export const areaLayer = layerKind({
  kind: 'area',
  words: 'Area',
  version: 1,
  many: true,
  schema: pointsSchema(3),
  upcasters: {},
  placed: outlinePart,
  measure: {
    measured: ({ points }, scale) => area(points, scale),
    concept: sct('42798000', 'Area'),
    coordinates: ({ points }) => ({ graphicType: 'POLYLINE', points: [...points, points[0]] })
  }
});
