import type { Formula, Guide } from './guide';
import { measureKinds } from './writtenMeasures';
import type { WrittenGuide, WrittenResult } from './writtenSchema';

/** A guide of the clinic's own as it goes along with every doing of it: what was asked for then stays known. */
export interface GuideWritten {
  /** The guide's own id, the same in all its versions. */
  key: string;
  version: number;
  written: WrittenGuide;
}

/**
 * A guide that a clinic wrote, done, drawn, measured and reported like those that ship.
 * @param given as it was read through its schema, which has seen to it that all landmarks exist
 */
export const guideWritten = ({ key, version, written }: GuideWritten): Guide => ({
  key,
  version,
  name: written.name,
  trade: written.trade,
  views: written.views.map((view) => ({
    key: view.key,
    name: view.name,
    lines: view.lines,
    ...(view.drawing ? { drawing: view.drawing } : {}),
    landmarks: view.landmarks.map((each) => ({
      key: each.key,
      name: each.name,
      where: each.where,
      onSchematic: { x: each.x, y: each.y }
    }))
  })),
  formulas: written.results.map(formulaWritten)
});

function formulaWritten({ key, name, measure, view, of, source, normal, mind }: WrittenResult): Formula {
  const kind = measureKinds[measure];
  const needs = of.map((landmark) => `${view}.${landmark}`);
  return {
    key,
    name,
    unit: kind.unit,
    power: kind.power,
    needs,
    of: (at) => kind.of(needs.map(at)),
    source,
    ...(normal ? { normal: { ...normal, source } } : {}),
    ...(mind ? { mind } : {})
  };
}
