import { z } from 'zod';
import { type PlacedPoint, type Scale, scaleFromLine } from '../../../calibration/scale';
import { uniformWithin } from '../../../calibration/budget';
import { scaleFromMarker, sourceToMarker } from '../../../calibration/markerScale';
import { middleOf } from '../../../measurement/geometry';
import type { SeenSize } from '../../../calibration/markerSearch';
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

/** What somebody said of where the bone lies. */
const bone = z.strictObject({
  /** How much nearer the detector than the marker; below 0 nearer the source. Give or take so much. */
  apartMm: finite.min(-1000).max(1000),
  plusMinusMm: finite.nonnegative(),
  /** From the source to the detector, give or take so much. */
  sourceToDetectorMm: finite.min(100),
  sourcePlusMinusMm: finite.nonnegative(),
  /** How many times larger than it is the marker is imaged, where the detector's spacing is known. */
  magnification: z.strictObject({ value: finite.min(0.5), uncertainty: finite.nonnegative() }).nullable()
});
export type BoneHeight = z.infer<typeof bone>;

const marker = z
  .strictObject({
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
    aspect: finite.positive(),
    /** Nothing where nobody has said how high the bone lies. */
    bone: bone.optional()
  })
  .refine(
    ({ bone }) => !bone || sourceOf(bone).sourceToMarkerMm + bone.apartMm > 1,
    'the bone would lie at the source'
  );

/** A bar from end to end, or a ruler from its first line that is seen to its last. */
const longMarker = z
  .strictObject({
    from: z.literal('long marker'),
    name: z.string().max(60),
    /** From one end to the other, with the half of the range that may have. */
    knownMm: finite.positive(),
    toleranceMm: finite.nonnegative(),
    ends,
    aspect: finite.positive(),
    bone: bone.optional()
  })
  .refine(({ ends: [a, b] }) => Math.hypot(a.x - b.x, a.y - b.y) > 0, 'the two ends coincide')
  .refine(
    ({ bone }) => !bone || sourceOf(bone).sourceToMarkerMm + bone.apartMm > 1,
    'the bone would lie at the source'
  );

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

const schema = z.union([line, marker, longMarker, other]);
export type ScaleGiven = z.infer<typeof schema>;
export type RoundGiven = z.infer<typeof marker>;
export type LongGiven = z.infer<typeof longMarker>;
export type MarkerGiven = RoundGiven | LongGiven;

export const isMarker = (given: ScaleGiven | null): given is MarkerGiven =>
  given?.from === 'marker' || given?.from === 'long marker';

/** How large a marker is in the picture, in widths of a pixel. */
export function seenOf(given: MarkerGiven): SeenSize {
  if (given.from === 'marker') return { sizePx: given.diameterPx, uncertaintyPx: given.uncertaintyPx };
  const [a, b] = given.ends;
  return {
    sizePx: Math.hypot(b.x - a.x, (b.y - a.y) * given.aspect),
    uncertaintyPx: Math.hypot(a.uncertaintyPx, b.uncertaintyPx)
  };
}

const first = z.object({
  ends,
  knownMm: finite,
  knownUncertaintyMm: finite,
  mmPerPixelX: finite.positive(),
  mmPerPixelY: finite.positive()
});

/** The middle of a marker, and a point of its edge beside it. */
function markerPoints({ center, diameterPx, uncertaintyPx }: RoundGiven): PlacedPoint[] {
  const each = { uncertaintyPx: uncertaintyPx / 2 };
  return [
    { ...center, ...each },
    { x: center.x + diameterPx / 2, y: center.y, ...each }
  ];
}

/** A marker moved by its middle, or made larger or smaller by its edge: that is then as sure as the hand. */
function withMarkerPoints(body: RoundGiven, [middle, edge]: readonly PlacedPoint[]): RoundGiven {
  const { center, aspect } = body;
  const { x, y } = middle;
  if (x !== center.x || y !== center.y) return { ...body, center: { x, y } };
  const diameterPx = 2 * Math.hypot(edge.x - x, (edge.y - y) * aspect);
  return diameterPx > 0 ? { ...body, diameterPx, uncertaintyPx: 2 * edge.uncertaintyPx } : body;
}

/**
 * How large a pixel is, given by a line over a known length, by a marker that is round or long, or taken over from another
 * picture of the same device and distance. The scale itself follows from it and is not stored.
 */
export const scaleLayer = layerKind({
  kind: 'scale',
  words: 'Scale',
  version: 6,
  many: false,
  schema,
  upcasters: {
    1: (body) => {
      const { mmPerPixelX, mmPerPixelY, ...rest } = first.parse(body);
      return { from: 'line', ...rest, aspect: mmPerPixelY / mmPerPixelX };
    },
    2: (body) => body,
    3: (body) => body,
    4: (body) => body,
    5: (body) => body
  },
  placed: {
    pointNames: ['First end', 'Second end'],
    namesOf: ({ from }: ScaleGiven) => (from === 'marker' ? ['Middle', 'Edge'] : ['First end', 'Second end']),
    pointsOf: (body: ScaleGiven) => {
      if ('ends' in body) return [...body.ends];
      return body.from === 'marker' ? markerPoints(body) : [];
    },
    withPoints: (body: ScaleGiven, points): ScaleGiven => {
      if ('ends' in body) return { ...body, ends: [points[0], points[1]] };
      return body.from === 'marker' ? withMarkerPoints(body, points) : body;
    },
    drawn: (body: ScaleGiven) => {
      if ('ends' in body) {
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
  const { name, toleranceMm, bone } = given;
  const { source, mmPerPixelX, relativeUncertainty, description } = scaleFromMarker(
    { description: `${name}, ${boneWords(bone)}`, sizeMm: knownMm, toleranceMm },
    seenOf(given),
    bone && {
      mm: bone.apartMm,
      uncertaintyMm: uniformWithin(bone.plusMinusMm),
      ...sourceOf(bone)
    }
  );
  return { source, mmPerPixelX, mmPerPixelY: mmPerPixelX * aspect, relativeUncertainty, description };
}

const sourceOf = ({ sourceToDetectorMm, sourcePlusMinusMm, magnification }: BoneHeight) =>
  sourceToMarker({ mm: sourceToDetectorMm, uncertaintyMm: uniformWithin(sourcePlusMinusMm) }, magnification);

/** Where the bone lies, seen from the marker. */
export function boneWords(bone: BoneHeight | undefined): string {
  if (!bone) return 'taken to be at the height of the bone';
  const { apartMm, plusMinusMm } = bone;
  const about = plusMinusMm > 0 ? `, give or take ${plusMinusMm} mm` : '';
  if (apartMm === 0) return `at the height of the bone${about}`;
  return `the bone ${Math.abs(apartMm)} mm nearer the ${apartMm > 0 ? 'detector' : 'tube'}${about}`;
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
