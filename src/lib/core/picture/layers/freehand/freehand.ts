import { layerKind } from '../layerKind';
import { strokePart, strokeSchema } from '../strokeBody';

/** A line drawn by hand. */
export const freehandLayer = layerKind({
  kind: 'freehand',
  words: 'Freehand line',
  version: 1,
  many: true,
  schema: strokeSchema(2),
  upcasters: {},
  placed: {
    ...strokePart,
    drawn: ({ way }) => ({ shapes: [{ kind: 'path', points: way }], wordsAt: way[way.length - 1] })
  }
});
