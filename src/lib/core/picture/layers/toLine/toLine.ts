import { localCode } from '../../../anatomy/code';
import { middleOf } from '../../../measurement/geometry';
import { distanceToLine } from '../../../measurement/measures';
import { footOn, line } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** How far a point is from a line, square to it, also beyond the line's ends. */
export const toLineLayer = layerKind({
  kind: 'to line',
  words: 'Distance to a line',
  version: 1,
  many: true,
  schema: pointsSchema(3, 3),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: ['The point', 'The line, one end', 'The line, other end'],
    drawn: ({ points: [point, a, b] }, aspect = 1) => {
      const foot = footOn(point, a, b, aspect);
      return {
        shapes: [line(a, b), ...(foot ? [line(point, foot), line(foot, middleOf(a, b), true)] : [])],
        wordsAt: foot ? middleOf(point, foot) : point
      };
    }
  },
  measure: {
    measured: ({ points }, scale) => distanceToLine(points, scale),
    concept: localCode('Distance to a line'),
    coordinates: ({ points }) => ({ graphicType: 'MULTIPOINT', points: [...points] })
  }
});
