import { guides } from '../src/lib/core/measurement/guides/all';
import { type PlacedView, evaluated } from '../src/lib/core/measurement/guides/evaluate';
import type { Guide } from '../src/lib/core/measurement/guides/guide';
import { type SeededRandom, seededRandom } from '../src/lib/core/random';
import type { Truth } from './measuring';

/** So many bodies of each guide, each with its landmarks placed so many times. */
const [bodies, placements] = [12, 40];
const sidePx = 900;
/** How far a body is from its drawing, and how far landmarks are placed from where they are, in pixels. */
const [bodySpreadPx, placedSpreadPx] = [9, 2];

function moved(views: Record<string, PlacedView>, spreadPx: number, random: SeededRandom) {
  return Object.fromEntries(
    Object.entries(views).map(([key, view]): [string, PlacedView] => [
      key,
      {
        ...view,
        points: Object.fromEntries(
          Object.entries(view.points).map(([name, { x, y }]) => [
            name,
            {
              x: x + spreadPx * random.normal(),
              y: y + spreadPx * random.normal(),
              uncertaintyPx: placedSpreadPx
            }
          ])
        )
      }
    ])
  );
}

const drawn = (guide: Guide): Record<string, PlacedView> =>
  Object.fromEntries(
    guide.views.map(({ key, landmarks }) => [
      key,
      {
        points: Object.fromEntries(
          landmarks.map(({ key: name, onSchematic: { x, y } }) => [
            name,
            { x: sidePx * x, y: sidePx * y, uncertaintyPx: placedSpreadPx }
          ])
        ),
        scale: null
      }
    ])
  );

/** Of landmarks placed with a known spread: how often a result's ± holds the one of where they truly are. */
export function truthOfGuides(): Truth[] {
  return guides.map((guide) => {
    let [inside, all] = [0, 0];
    for (let body = 0; body < bodies; body++) {
      const random = seededRandom(90_000 + 100 * guides.indexOf(guide) + body);
      const truth = moved(drawn(guide), bodySpreadPx, random);
      const values = new Map(
        evaluated(guide, truth).flatMap((each): [string, number][] =>
          each.outcome === 'value' ? [[each.formula.key, each.value.value]] : []
        )
      );
      for (let i = 0; i < placements; i++)
        for (const each of evaluated(guide, moved(truth, placedSpreadPx, random))) {
          const wanted = values.get(each.formula.key);
          if (each.outcome !== 'value' || wanted === undefined) continue;
          all++;
          if (Math.abs(each.value.value - wanted) <= each.value.plusMinus) inside++;
        }
    }
    return { name: `${guide.name}: truth within the stated ±`, right: inside, of: all, must: 0.93 };
  });
}
