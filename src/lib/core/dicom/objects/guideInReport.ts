import type { Point } from '../../raster/orientation';
import type { GuideSet } from '../../picture/guideSets';
import type { GuideInReport, ImageInReport } from './measurementReport';

/**
 * What a report of one picture tells of a doing: the landmarks on it, the results that follow from them alone, and those that
 * follow from them together with landmarks on other pictures.
 *
 * @param imageOf where a report finds a picture; null for one that it can't point at
 */
export function guideInReport(
  set: GuideSet,
  pictureId: string,
  imageOf: (pictureId: string) => ImageInReport | null
): Omit<GuideInReport, 'trackingUid'> | null {
  const on = [...set.views].find(([, { picture }]) => picture.pictureId === pictureId);
  const view = set.guide.views.find(({ key }) => key === on?.[0]);
  if (!on || !view) return null;
  const { points } = on[1].body;
  const placed = view.landmarks.filter(({ key }) => points[key]);
  if (placed.length === 0) return null;
  const valued = set.results.flatMap((result) => {
    if (result.outcome !== 'value') return [];
    const { formula, value } = result;
    return [{ key: formula.key, name: formula.name, value, from: neededOf(set, formula.needs) }];
  });
  return {
    guide: { key: set.guide.key, version: set.guide.version, name: set.guide.name },
    view: { key: view.key, name: view.name },
    landmarks: placed.map(({ key, name }) => ({ key, name, point: points[key] })),
    results: valued.flatMap(({ from, ...result }) =>
      from.length === 1 && from[0].pictureId === pictureId ? [{ ...result, from: from[0].points }] : []
    ),
    across: valued.flatMap(({ from, ...result }) => {
      if (from.length < 2 || from.every((each) => each.pictureId !== pictureId)) return [];
      const images = from.flatMap((each) => {
        const image = imageOf(each.pictureId);
        return image ? [{ image, points: each.points }] : [];
      });
      return images.length === from.length ? [{ ...result, from: images }] : [];
    })
  };
}

/** The landmarks that a result needs, picture by picture, in its own order. */
function neededOf({ views }: GuideSet, needs: readonly string[]): { pictureId: string; points: Point[] }[] {
  const found = new Map<string, Point[]>();
  for (const [key, { picture, body }] of views) {
    const points = needs.flatMap((need) =>
      need.startsWith(`${key}.`) ? (body.points[need.slice(key.length + 1)] ?? []) : []
    );
    if (points.length > 0) found.set(picture.pictureId, points);
  }
  return [...found].map(([pictureId, points]) => ({ pictureId, points }));
}
