import { z } from 'zod';
import { type Scale, scaleFromLine } from '../../../calibration/scale';
import { placedPointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

const finite = z.number().refine(Number.isFinite);
const ends = z.tuple([placedPointSchema, placedPointSchema]);

const schema = z
  .strictObject({
    from: z.literal('line'),
    ends,
    knownMm: finite.positive(),
    /** Standard uncertainty of the known length. */
    knownUncertaintyMm: finite.nonnegative(),
    /** Height of a pixel over its width. */
    aspect: finite.positive()
  })
  .refine(({ ends: [a, b] }) => Math.hypot(a.x - b.x, a.y - b.y) > 0, 'the two ends of the line coincide');
export type ScaleGiven = z.infer<typeof schema>;

const first = z.object({
  ends,
  knownMm: finite,
  knownUncertaintyMm: finite,
  mmPerPixelX: finite.positive(),
  mmPerPixelY: finite.positive()
});

/** How large a pixel is, given by a line over a known length. The scale itself follows from it and is not stored. */
export const scaleLayer = layerKind({
  kind: 'scale',
  words: 'Scale',
  version: 2,
  many: false,
  schema,
  upcasters: {
    1: (body) => {
      const { mmPerPixelX, mmPerPixelY, ...rest } = first.parse(body);
      return { from: 'line', ...rest, aspect: mmPerPixelY / mmPerPixelX };
    }
  },
  placed: {
    pointNames: ['First end', 'Second end'],
    pointsOf: (body) => [...body.ends],
    withPoints: (body, [a, b]): ScaleGiven => ({ ...body, ends: [a, b] }),
    drawn: ({ ends: [from, to] }) => ({
      shapes: [{ kind: 'line', from, to, dashed: true }],
      wordsAt: { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }
    })
  }
});

export const scaleGiven = (given: ScaleGiven): Scale =>
  scaleFromLine(given.ends, given.knownMm, given.knownUncertaintyMm, given.aspect);
