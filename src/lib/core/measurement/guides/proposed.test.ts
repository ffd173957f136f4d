import { describe, expect, it } from 'vitest';
import { type FigureView, figurePhotograph } from '../../phantom/photo/figure';
import { anyFigure, figurePaints, onBody } from '../../phantom/photo/anyFigure';
import { eyePhotograph } from '../../phantom/foreign/eyePhotograph';
import { quillTarget } from '../../cornea/target';
import { straightAhead } from '../../phantom/eye/mirror';
import { ringImage } from '../../phantom/eye/ringImage';
import { seededRandom } from '../../random';
import { turnRaster } from '../../raster/turnRaster';
import { distalRadius } from './wrist';
import { eyeWidths } from './eye';
import { posture } from './posture';
import { proposedIn } from './proposed';

const viewOf = (from: FigureView) => posture.views.find(({ key }) => key === from)!;
describe('markers and plumb line in a photograph', () => {
  it.each(['front', 'right', 'left'] as const)(
    'from the %s are found in any colour, hardly ever taken for one another, each to a pixel',
    (from) => {
      const tally = { right: 0, wrong: 0, all: 0 };
      for (const [i, paint] of figurePaints.entries()) {
        const { wish, rollDeg } = anyFigure(700 + i);
        const { raster, known } = figurePhotograph(wish, from, rollDeg, paint);
        const found = proposedIn(viewOf(from), raster);
        for (const { key, beside } of viewOf(from).landmarks) {
          const truth = known[onBody(key, from)].imagePoint;
          const point = found[key];
          const hit = point && Math.hypot(point.x - truth.x, point.y - truth.y) < 1.5;
          if (beside) expect(hit, `${key} in paint ${i}`).toBe(true);
          else tally.all++;
          if (beside) continue;
          if (hit) tally.right++;
          else if (point) tally.wrong++;
        }
      }
      expect(tally.wrong / tally.all).toBeLessThan(0.04);
      // From the side the arm hangs over the hip.
      expect(tally.right / tally.all).toBeGreaterThan(from === 'front' ? 0.9 : 0.65);
    }
  );

  it('are none where nobody wears any: skin, cloth and wall give no landmark and no plumb line', () => {
    const { wish } = anyFigure(3);
    const skinned = { marker: [0.3, 0.38, 0.46], plumb: [0.7, 0.69, 0.68], wall: [1, 0.98, 0.94] } as const;
    const { raster } = figurePhotograph(wish, 'front', 0, {
      marker: [...skinned.marker],
      plumb: [...skinned.plumb],
      wall: [...skinned.wall]
    });
    expect(proposedIn(viewOf('front'), raster)).toEqual({});
  });

  it('are refused in words in a picture without colours, and in a view where nothing is looked for', () => {
    const { wish } = anyFigure(4);
    const { raster } = figurePhotograph(wish, 'front');
    const grey = { ...raster, channels: 1 as const };
    expect(() => proposedIn(viewOf('front'), grey)).toThrow('colour photograph');
    expect(() => proposedIn(distalRadius.views[0], raster)).toThrow('nothing is looked for');
  });

  it('in a photograph that lies on its side have no plumb line', () => {
    const { wish } = anyFigure(5);
    const { raster } = figurePhotograph(wish, 'front');
    const lying = turnRaster(raster, { quarterTurns: 1, mirrored: false });
    expect(Object.keys(proposedIn(viewOf('front'), lying))).not.toContain('plumb upper');
  });
});

describe('limbus and pupil', () => {
  const [view] = eyeWidths.views;
  it('are proposed where they are, rings or not about them, without a press', () => {
    for (const [irisMm, pupilMm] of [
      [5.6, 1.6],
      [6.1, 2.3]
    ]) {
      const { raster } = ringImage({
        cornea: { flatMm: 7.8 },
        pose: straightAhead,
        target: quillTarget,
        seed: 12,
        irisMm,
        pupilMm
      });
      const found = proposedIn(view, raster);
      const wide = (part: string) => found[`${part} right`].x - found[`${part} left`].x;
      expect(Math.abs(wide('limbus') / quillTarget.pxPerMm / (2 * irisMm * 0.99) - 1)).toBeLessThan(0.025);
      expect(Math.abs(wide('pupil') / quillTarget.pxPerMm / (2 * pupilMm * 1.06 * 0.99) - 1)).toBeLessThan(
        0.07
      );
    }
  });
  it('are proposed in eyes of any colour, size and place, drawn by formulas of their own, and in none that is shut', () => {
    let [told, right] = [0, 0];
    for (let seed = 40; seed < 45; seed++) {
      const eye = eyePhotograph(seededRandom(seed));
      const found = proposedIn(view, eye.raster);
      expect(proposedIn(view, eyePhotograph(seededRandom(seed), { eye: false }).raster)).toEqual({});
      if (!found['limbus right']) continue;
      told++;
      const off = (part: 'limbus' | 'pupil') =>
        (found[`${part} right`].x - found[`${part} left`].x) / (2 * eye[part].radiusPx) - 1;
      right += Number(Math.abs(off('limbus')) < 0.05 && Math.abs(off('pupil')) < 0.08);
    }
    expect(told).toBeGreaterThan(2);
    expect(right).toBeGreaterThanOrEqual(told - 1);
  });
  it('are none in a picture that holds no eye', () => {
    const random = seededRandom(2);
    const [width, height] = [500, 400];
    const data = Uint8Array.from({ length: width * height }, () => 120 + 12 * random.normal());
    const noise = { width, height, channels: 1 as const, bitsStored: 8, offset: 0, data };
    expect(proposedIn(view, noise)).toEqual({});
  });
});
