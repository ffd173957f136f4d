import { z } from 'zod';
import { type Scale, scaleFromLine } from '../../../calibration/scale';
import { scaleFromMarker } from '../../../calibration/markerScale';
import { middleOf } from '../../../measurement/geometry';
import { placedPointSchema } from '../../placedPoint';
import { roundPath } from '../drawnParts';
import { layerKind } from '../layerKind';

const finite = z.number().refine(Number.isFinite);
const ends = z.tuple([placedPointSchema, placedPointSchema]);

const line = z
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

const marker = z.strictObject({
  from: z.literal('marker'),
  /** What it is called in the clinic, and its size with the half of the range this may have. */
  name: z.string().max(60),
  knownMm: finite.positive(),
  toleranceMm: finite.nonnegative(),
  center: z.strictObject({ x: finite, y: finite }),
  diameterPx: finite.positive(),
  /** Standard uncertainty of the diameter. */
  uncertaintyPx: finite.positive(),
  /** Height of a pixel over its width: the diameter is along a row. */
  aspect: finite.positive()
});

const schema = z.union([line, marker]);
export type ScaleGiven = z.infer<typeof schema>;

const first = z.object({
  ends,
  knownMm: finite,
  knownUncertaintyMm: finite,
  mmPerPixelX: finite.positive(),
  mmPerPixelY: finite.positive()
});

/**
 * How large a pixel is, given by a line over a known length or by a round marker. The scale itself follows from it and is
 * not stored.
 */
export const scaleLayer = layerKind({
  kind: 'scale',
  words: 'Scale',
  version: 3,
  many: false,
  schema,
  upcasters: {
    1: (body) => {
      const { mmPerPixelX, mmPerPixelY, ...rest } = first.parse(body);
      return { from: 'line', ...rest, aspect: mmPerPixelY / mmPerPixelX };
    },
    2: (body) => body
  },
  placed: {
    pointNames: ['First end', 'Second end'],
    pointsOf: (body: ScaleGiven) => (body.from === 'line' ? [...body.ends] : []),
    withPoints: (body: ScaleGiven, [a, b]): ScaleGiven =>
      body.from === 'line' ? { ...body, ends: [a, b] } : body,
    drawn: (body: ScaleGiven) => {
      if (body.from === 'line') {
        const [from, to] = body.ends;
        return { shapes: [{ kind: 'line', from, to, dashed: true }], wordsAt: middleOf(from, to) };
      }
      const { center, diameterPx, aspect } = body;
      const middle = { x: center.x, y: center.y * aspect };
      return {
        shapes: [{ ...roundPath(middle, diameterPx / 2, diameterPx / 2, 0, aspect), dashed: true }],
        wordsAt: { x: center.x + diameterPx / 2, y: center.y - diameterPx / 2 / aspect }
      };
    }
  }
});

export function scaleGiven(given: ScaleGiven): Scale {
  const { aspect, knownMm } = given;
  if (given.from === 'line') return scaleFromLine(given.ends, knownMm, given.knownUncertaintyMm, aspect);
  const { name, toleranceMm, diameterPx, uncertaintyPx } = given;
  const { source, mmPerPixelX, relativeUncertainty, description } = scaleFromMarker(
    { description: name, sizeMm: knownMm, toleranceMm },
    { sizePx: diameterPx, uncertaintyPx }
  );
  return { source, mmPerPixelX, mmPerPixelY: mmPerPixelX * aspect, relativeUncertainty, description };
}
