import { z } from 'zod';
import { type Scale, scaleFromLine } from '../../../calibration/scale';
import { scaleFromMarker } from '../../../calibration/markerScale';
import { middleOf } from '../../../measurement/geometry';
import { placedPointSchema, pointSchema } from '../../placedPoint';
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
  center: pointSchema,
  diameterPx: finite.positive(),
  /** Standard uncertainty of the diameter. */
  uncertaintyPx: finite.positive(),
  /** Height of a pixel over its width: the diameter is along a row. */
  aspect: finite.positive()
});

const other = z.strictObject({
  from: z.literal('picture'),
  /** The picture whose scale it is, and what that is called. */
  picture: z.string().max(60),
  name: z.string().max(120),
  source: z.enum(['line', 'marker']),
  mmPerPixel: finite.positive(),
  /** Relative standard uncertainty. */
  relativeUncertainty: finite.nonnegative(),
  /** Height of a pixel over its width. */
  aspect: finite.positive()
});

const schema = z.union([line, marker, other]);
export type ScaleGiven = z.infer<typeof schema>;

const first = z.object({
  ends,
  knownMm: finite,
  knownUncertaintyMm: finite,
  mmPerPixelX: finite.positive(),
  mmPerPixelY: finite.positive()
});

/**
 * How large a pixel is, given by a line over a known length, by a round marker, or taken over from another picture of the
 * same device and distance. The scale itself follows from it and is not stored.
 */
export const scaleLayer = layerKind({
  kind: 'scale',
  words: 'Scale',
  version: 4,
  many: false,
  schema,
  upcasters: {
    1: (body) => {
      const { mmPerPixelX, mmPerPixelY, ...rest } = first.parse(body);
      return { from: 'line', ...rest, aspect: mmPerPixelY / mmPerPixelX };
    },
    2: (body) => body,
    3: (body) => body
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
      // Nothing of it lies on this picture.
      if (body.from === 'picture') return { shapes: [], wordsAt: { x: 0, y: 0 } };
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
  const { aspect } = given;
  if (given.from === 'picture') {
    const { source, mmPerPixel, relativeUncertainty, name } = given;
    return {
      source,
      mmPerPixelX: mmPerPixel,
      mmPerPixelY: mmPerPixel * aspect,
      relativeUncertainty,
      description: `the scale of ${name}, which holds at the same distance`
    };
  }
  const { knownMm } = given;
  if (given.from === 'line') return scaleFromLine(given.ends, knownMm, given.knownUncertaintyMm, aspect);
  const { name, toleranceMm, diameterPx, uncertaintyPx } = given;
  const { source, mmPerPixelX, relativeUncertainty, description } = scaleFromMarker(
    { description: name, sizeMm: knownMm, toleranceMm },
    { sizePx: diameterPx, uncertaintyPx }
  );
  return { source, mmPerPixelX, mmPerPixelY: mmPerPixelX * aspect, relativeUncertainty, description };
}

/** A scale that was given to one picture, for another of the same device and distance. */
export const takenOver = (scale: Scale, picture: string, name: string): ScaleGiven => ({
  from: 'picture',
  picture,
  name: name.slice(0, 120),
  source: scale.source === 'marker' ? 'marker' : 'line',
  mmPerPixel: scale.mmPerPixelX,
  relativeUncertainty: scale.relativeUncertainty,
  aspect: scale.mmPerPixelY / scale.mmPerPixelX
});
