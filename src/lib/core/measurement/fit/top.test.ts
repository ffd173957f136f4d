import { expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { topBetween } from './top';

it('the top of a parabola is found from three of its values', () => {
  const random = seededRandom(5);
  for (let i = 0; i < 50; i++) {
    const at = random.uniform() - 0.5;
    const bend = 0.1 + random.uniform();
    const value = (x: number) => 7 - bend * (x - at) ** 2;
    expect(topBetween(value(-1), value(0), value(1))).toBeCloseTo(at, 9);
  }
  expect(topBetween(1, 3, 2)).toBeCloseTo(1 / 6, 12);
});
it('nothing is made of values that do not bend down, and the top stays beside the middle', () => {
  expect([topBetween(2, 2, 2), topBetween(3, 1, 2), topBetween(1, 2, 3)]).toEqual([0, 0, 0]);
  expect(topBetween(0, 2, 3)).toBe(0.5);
});
