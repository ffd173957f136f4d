import { proposedIn } from '../src/lib/core/measurement/guides/proposed';
import { posture } from '../src/lib/core/measurement/guides/posture';
import { anyFigure, figurePaints, onBody } from '../src/lib/core/phantom/photo/anyFigure';
import { figurePhotograph } from '../src/lib/core/phantom/photo/figure';
import type { Truth } from './measuring';

/** Figures of each view, with seeds that nothing was tuned on. */
const figures = 25;
const firstSeed = 8101;
const nearPx = 2;

/** Landmarks proposed in posture photographs: how many are right, and of all that there are how many are proposed right. */
export function truthOfProposals(): Truth[] {
  return (['front', 'right', 'left'] as const).flatMap((from) => {
    const view = posture.views.find(({ key }) => key === from)!;
    let [right, proposed, all, lines] = [0, 0, 0, 0];
    for (let i = 0; i < figures; i++) {
      const { wish, rollDeg } = anyFigure(firstSeed + i);
      const { raster, known } = figurePhotograph(wish, from, rollDeg, figurePaints[i % figurePaints.length]);
      const found = proposedIn(view, raster);
      const isRight = (key: string) => {
        const truth = known[onBody(key, from)].imagePoint;
        return (
          found[key] !== undefined && Math.hypot(found[key].x - truth.x, found[key].y - truth.y) < nearPx
        );
      };
      for (const { key, beside } of view.landmarks) {
        if (beside) continue;
        all++;
        if (found[key]) proposed++;
        if (isRight(key)) right++;
      }
      if (view.vertical!.every(isRight)) lines++;
    }
    const name = `photographs from the ${from}`;
    return [
      { name: `${name}: proposed markers that are right`, right, of: proposed, must: 0.97 },
      // From the side an arm hangs over one marker of six.
      {
        name: `${name}: markers, hidden ones too, proposed right`,
        right,
        of: all,
        must: from === 'front' ? 0.9 : 0.7
      },
      { name: `${name}: plumb lines found`, right: lines, of: figures, must: 0.95 }
    ];
  });
}
