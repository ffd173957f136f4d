import { z } from 'zod';
import { sct } from '../../../anatomy/code';
import { angle } from '../../../measurement/measures';
import type { Point } from '../../../raster/orientation';
import { placedPointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  points: z.tuple([placedPointSchema, placedPointSchema, placedPointSchema])
});

export type Angle = z.infer<typeof schema>;

/** The bow is drawn at this share of the shorter arm. */
const bowShare = 0.3;
const bowSteps = 16;

/** The angle at the second of three points. */
export const angleLayer = layerKind({
  kind: 'angle',
  words: 'Angle',
  version: 1,
  many: true,
  schema,
  upcasters: {},
  placed: {
    pointNames: ['First arm', 'Corner', 'Second arm'],
    pointsOf: (body) => [...body.points],
    withPoints: (_, [a, b, c]): Angle => ({ points: [a, b, c] }),
    made: ([a, b, c]): Angle => ({ points: [a, b, c] }),
    drawn: ({ points: [a, corner, b] }) => {
      const bow = bowOf(a, corner, b);
      return {
        shapes: [
          { kind: 'line', from: corner, to: a },
          { kind: 'line', from: corner, to: b },
          { kind: 'path', points: bow }
        ],
        wordsAt: bow[bow.length >> 1]
      };
    }
  },
  measure: {
    measured: (body, scale) => angle(body.points, scale),
    concept: sct('1483009', 'Angle'),
    coordinates: (body) => ({ graphicType: 'POLYLINE', points: [...body.points] })
  }
});

/** From one arm to the other by the shorter way. */
function bowOf(a: Point, corner: Point, b: Point): Point[] {
  const start = Math.atan2(a.y - corner.y, a.x - corner.x);
  const end = Math.atan2(b.y - corner.y, b.x - corner.x);
  const turn = Math.atan2(Math.sin(end - start), Math.cos(end - start));
  const arms = [a, b].map((p) => Math.hypot(p.x - corner.x, p.y - corner.y));
  const radius = bowShare * Math.min(...arms);
  return Array.from({ length: bowSteps + 1 }, (_, i) => {
    const at = start + (turn * i) / bowSteps;
    return { x: corner.x + radius * Math.cos(at), y: corner.y + radius * Math.sin(at) };
  });
}
