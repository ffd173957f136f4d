import { expect, it } from 'vitest';
import { zernike } from '../../cornea/zernike';
import { seededRandom } from '../../random';
import { zernikeSum } from './zernikeSum';

it('Zernike terms in powers of x and y are what they are by radius and angle, all up to the sixth order', () => {
  const random = seededRandom(3);
  const radiusMm = 5.5;
  for (let index = 0; index < 28; index++) {
    const sum = zernikeSum([[index, 1]], radiusMm);
    for (let i = 0; i < 12; i++) {
      const [x, y] = [11 * (random.uniform() - 0.5), 11 * (random.uniform() - 0.5)];
      const truth = zernike(index, Math.hypot(x, y) / radiusMm, Math.atan2(-y, x));
      expect(sum(x, y).value).toBeCloseTo(truth, 8);
    }
  }
});

it('sums add up, and have their slopes', () => {
  const terms: [number, number][] = [
    [5, 3],
    [7, -2],
    [12, 1.5],
    [9, 0.5]
  ];
  const sum = zernikeSum(terms, 4);
  const h = 1e-5;
  for (const [x, y] of [
    [0, 0],
    [1.2, -0.7],
    [-3, 2]
  ]) {
    const { value, dx, dy } = sum(x, y);
    const apart = terms.reduce((all, [index, um]) => all + um * zernikeSum([[index, 1]], 4)(x, y).value, 0);
    expect(value).toBeCloseTo(apart, 10);
    expect(dx).toBeCloseTo((sum(x + h, y).value - sum(x - h, y).value) / (2 * h), 6);
    expect(dy).toBeCloseTo((sum(x, y + h).value - sum(x, y - h).value) / (2 * h), 6);
  }
  expect(zernikeSum([], 4)(1, 1)).toEqual({ value: 0, dx: 0, dy: 0 });
});
