import { layerKind } from '../layerKind';
import { pointsPart, pointsSchema } from '../pointsBody';

/** Points at something. */
export const arrowLayer = layerKind({
  kind: 'arrow',
  words: 'Arrow',
  version: 1,
  many: true,
  schema: pointsSchema(2, 2),
  upcasters: {},
  placed: {
    ...pointsPart,
    pointNames: ['What it points at', 'Where it comes from'],
    drawn: ({ points: [tip, from] }) => ({
      shapes: [{ kind: 'line', from, to: tip, head: true }],
      wordsAt: from
    })
  }
});
