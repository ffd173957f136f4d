import type { GuideSet } from '../../picture/guideSets';
import type { GuideInReport } from './measurementReport';

/** What a report of one picture tells of a doing: the landmarks on it, and the results that follow from them alone. */
export function guideInReport(set: GuideSet, pictureId: string): Omit<GuideInReport, 'trackingUid'> | null {
  const on = [...set.views].find(([, { picture }]) => picture.pictureId === pictureId);
  const view = set.guide.views.find(({ key }) => key === on?.[0]);
  if (!on || !view) return null;
  const { points } = on[1].body;
  const placed = view.landmarks.filter(({ key }) => points[key]);
  if (placed.length === 0) return null;
  return {
    guide: { key: set.guide.key, version: set.guide.version, name: set.guide.name },
    view: { key: view.key, name: view.name },
    landmarks: placed.map(({ key, name }) => ({ key, name, point: points[key] })),
    results: set.results.flatMap((result) => {
      const { formula } = result;
      const own = formula.needs.map((key) => points[key.slice(view.key.length + 1)]);
      const here = formula.needs.every((key, i) => key.startsWith(`${view.key}.`) && own[i]);
      if (result.outcome !== 'value' || !here) return [];
      return [{ key: formula.key, name: formula.name, value: result.value, from: own }];
    })
  };
}
