import { z } from 'zod';
import { sct } from '../../../anatomy/code';
import { length } from '../../../measurement/length';
import { placedPointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

const ends = z.tuple([placedPointSchema, placedPointSchema]);
const schema = z.strictObject({ ends });
export type Length = z.infer<typeof schema>;

/** A straight distance between two points. The first version named its kind in the body too. */
export const lengthLayer = layerKind({
  kind: 'length',
  words: 'Length',
  version: 2,
  many: true,
  schema,
  upcasters: { 1: (body) => ({ ends: z.object({ ends }).parse(body).ends }) },
  placed: {
    pointNames: ['First end', 'Second end'],
    pointsOf: (body) => [...body.ends],
    withPoints: (_, [a, b]): Length => ({ ends: [a, b] }),
    made: ([a, b]): Length => ({ ends: [a, b] }),
    drawn: ({ ends: [from, to] }) => ({
      shapes: [{ kind: 'line', from, to }],
      wordsAt: { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }
    })
  },
  measure: {
    measured: (body, scale) => length(body.ends, scale),
    concept: sct('410668003', 'Length'),
    coordinates: (body) => ({ graphicType: 'POLYLINE', points: [...body.ends] })
  }
});
