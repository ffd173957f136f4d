import { describe, expect, it } from 'vitest';
import { areaOf } from '../measurement/geometry';
import { type Coverage, places, stepMm } from './coverage';
import { missingAreas } from './missing';

const radiusMm = 5.75;

/** A coverage that lacks what is told. */
function lacking(isMissing: (x: number, y: number) => boolean): Coverage {
  const side = 2 * Math.ceil(radiusMm / stepMm) + 1;
  const covered = new Uint8Array(side * side);
  const all = [...places(radiusMm)];
  const have = all.filter(({ x, y }) => !isMissing(x, y));
  for (const { at } of have) covered[at] = 1;
  return { radiusMm, covered, side, share: have.length / all.length };
}

describe('missing areas', () => {
  it('are none where all is covered, and specks are not told', () => {
    expect(missingAreas(lacking(() => false))).toEqual([]);
    expect(missingAreas(lacking((x, y) => Math.hypot(x - 2, y) < 0.2))).toEqual([]);
  });
  it('are told apart, the largest first, with their sides, shares and outlines', () => {
    const areas = missingAreas(lacking((x, y) => y < -4 || Math.hypot(x - 3, y - 3) < 1));
    expect(areas.map(({ where }) => where)).toEqual(['above', 'below right']);
    const [above, spot] = areas;
    expect(above.share).toBeGreaterThan(spot.share);
    expect(spot.share).toBeCloseTo(1 / radiusMm ** 2, 2);
    expect(spot.middle.x).toBeCloseTo(3, 1);
    expect(spot.outlines).toHaveLength(1);
    expect(Math.abs(areaOf(spot.outlines[0]))).toBeCloseTo(Math.PI, 0);
    for (const { x, y } of spot.outlines[0])
      expect(Math.abs(Math.hypot(x - 3, y - 3) - 1)).toBeLessThan(0.15);
  });
  it('that go all round have a hole, and are told as such; one in the middle too', () => {
    const [round, ...others] = missingAreas(lacking((x, y) => Math.hypot(x, y) > 4.5));
    expect(others).toEqual([]);
    expect(round.where).toBe('all round');
    expect(round.outlines).toHaveLength(2);
    expect(missingAreas(lacking((x, y) => Math.hypot(x, y - 0.4) < 1))[0].where).toBe('middle');
  });
  it.each([
    [5, 0, 'right'],
    [0, 5, 'below'],
    [-3.5, 3.5, 'below left'],
    [-5, 0, 'left'],
    [3.5, -3.5, 'above right']
  ])('at %s, %s lies %s', (cx, cy, where) => {
    expect(missingAreas(lacking((x, y) => Math.hypot(x - cx, y - cy) < 0.7))[0].where).toBe(where);
  });
});
