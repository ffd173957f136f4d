import { closed } from '../drawnParts';
import { layerKind } from '../layerKind';
import { strokePart, strokeSchema } from '../strokeBody';

/** Drawn round something by hand; its ends join. */
export const outlineLayer = layerKind({
  kind: 'outline',
  words: 'Outline',
  version: 1,
  many: true,
  schema: strokeSchema(3),
  upcasters: {},
  placed: {
    ...strokePart,
    drawn: ({ way }) => ({ shapes: [closed(way)], wordsAt: way[0] })
  }
});
