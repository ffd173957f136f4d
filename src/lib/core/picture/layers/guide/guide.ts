import { z } from 'zod';
import type { PlacedPoint } from '../../../calibration/scale';
import { guides } from '../../../measurement/guides/all';
import type { Guide, GuideView } from '../../../measurement/guides/guide';
import { guideWritten } from '../../../measurement/guides/written';
import { writtenGuideSchema } from '../../../measurement/guides/writtenSchema';
import type { Shape } from '../../drawing';
import { placedPointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

const mostPoints = 120;
const schema = z.strictObject({
  /** The same for all pictures that one doing of a guide lies on. */
  set: z.string().min(1).max(64),
  guide: z.string().min(1).max(64),
  /** The version of the guide that it was done by. */
  version: z.number().int().positive(),
  /** Which of the guide's views this picture is. */
  view: z.string().min(1).max(64),
  /** Landmarks by their keys, in image pixels. */
  points: z
    .record(z.string().min(1).max(64), placedPointSchema)
    .refine((points) => Object.keys(points).length <= mostPoints, 'too many landmarks'),
  /** What a guide of the clinic's own asked for when it was done: it may be changed or dropped since. */
  written: writtenGuideSchema.optional()
});
export type GuidePoints = z.infer<typeof schema>;

type Done = Pick<GuidePoints, 'guide' | 'version' | 'written'>;
/** The guide that was done; null for one that this program does not have. */
export const guideDone = ({ guide, version, written }: Done): Guide | null =>
  written
    ? guideWritten({ key: guide, version, written })
    : (guides.find(({ key }) => key === guide) ?? null);

export const guideViewOf = (body: Done & Pick<GuidePoints, 'view'>): GuideView | null =>
  guideDone(body)?.views.find(({ key }) => key === body.view) ?? null;

/** Keys of what is placed, as the guide asks for them; what a guide no longer asks for comes last. */
function keysOf(body: GuidePoints): string[] {
  const asked = guideViewOf(body)?.landmarks.map(({ key }) => key) ?? [];
  const placed = Object.keys(body.points);
  return [...asked.filter((key) => key in body.points), ...placed.filter((key) => !asked.includes(key))];
}

/** Which landmark one of the points on a picture is, as `view.landmark`; undefined for none. */
export function landmarkOf(body: GuidePoints, index: number): string | undefined {
  const key = keysOf(body)[index];
  return key === undefined ? undefined : `${body.view}.${key}`;
}

/** Landmarks of a guide on one of its views. What follows from them is told for all its views together. */
export const guideLayer = layerKind<'guide', GuidePoints>({
  kind: 'guide',
  words: 'Guide',
  version: 2,
  many: true,
  schema,
  // Guides of a clinic's own came with the second.
  upcasters: { 1: (body) => body },
  confirms: true,
  joined: ({ from, kept, now }) => {
    // Another guide or view is another thing altogether.
    if (now.view !== kept.view || now.guide !== kept.guide || now.version !== kept.version) return now;
    const isSame = (a?: PlacedPoint, b?: PlacedPoint) =>
      a === b ||
      (a !== undefined &&
        b !== undefined &&
        a.x === b.x &&
        a.y === b.y &&
        a.uncertaintyPx === b.uncertaintyPx);
    const keys = [...new Set([...Object.keys(kept.points), ...Object.keys(now.points)])];
    const points = keys.flatMap((key) => {
      const point = isSame(now.points[key], from.points[key]) ? kept.points[key] : now.points[key];
      return point ? [[key, point] as const] : [];
    });
    return { ...now, points: Object.fromEntries(points) };
  },
  placed: {
    pointNames: [],
    further: 'Landmark',
    namesOf: (body) => {
      const landmarks = guideViewOf(body)?.landmarks ?? [];
      return keysOf(body).map((key) => landmarks.find((each) => each.key === key)?.name ?? key);
    },
    pointsOf: (body) => keysOf(body).map((key) => body.points[key]),
    withPoints: (body, points): GuidePoints => ({
      ...body,
      points: Object.fromEntries(keysOf(body).map((key, i) => [key, points[i]]))
    }),
    drawn: (body) => {
      const lines = (guideViewOf(body)?.lines ?? []).flatMap(([a, b]): Shape[] => {
        const [from, to]: (PlacedPoint | undefined)[] = [body.points[a], body.points[b]];
        return from && to ? [{ kind: 'line', from: { x: from.x, y: from.y }, to: { x: to.x, y: to.y } }] : [];
      });
      const [first] = keysOf(body);
      const at = first === undefined ? { x: 0, y: 0 } : body.points[first];
      return { shapes: lines, wordsAt: { x: at.x, y: at.y } };
    },
    says: (body) => guideDone(body)?.name ?? body.guide
  }
});
