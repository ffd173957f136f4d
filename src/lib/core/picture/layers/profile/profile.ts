import { middleOf } from '../../../measurement/geometry';
import { line } from '../drawnParts';
import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** The grey values along a line. */
export const profileLayer = layerKind({
  kind: 'profile',
  words: 'Profile',
  version: 1,
  many: true,
  schema: pointsSchema(2, 2),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: ['Start of the line', 'End of the line'],
    drawn: ({ points: [a, b] }) => ({ shapes: [line(a, b)], wordsAt: middleOf(a, b) })
  },
  samples: 'along'
});
