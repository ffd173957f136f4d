import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { gaussianByMeans, wideGaussian } from './smooth';

const [width, height] = [121, 97];
const spike = () => {
  const map = new Float32Array(width * height);
  map[48 * width + 60] = 1;
  return map;
};
function moments(map: Float32Array) {
  let [sum, x, y, xx, yy] = [0, 0, 0, 0, 0];
  map.forEach((value, i) => {
    const [px, py] = [i % width, Math.floor(i / width)];
    sum += value;
    x += value * px;
    y += value * py;
    xx += value * px * px;
    yy += value * py * py;
  });
  return { sum, x: x / sum, y: y / sum, varX: xx / sum - (x / sum) ** 2, varY: yy / sum - (y / sum) ** 2 };
}

describe('a Gaussian by running means', () => {
  it('spreads a point by its width, the same both ways, and loses nothing', () => {
    for (const sigma of [1.5, 3, 6.2]) {
      const map = spike();
      gaussianByMeans(map, width, height, sigma);
      const { sum, x, y, varX, varY } = moments(map);
      expect(sum).toBeCloseTo(1, 4);
      expect([x, y]).toEqual([expect.closeTo(60, 3), expect.closeTo(48, 3)]);
      expect(Math.abs(Math.sqrt(varX) - sigma)).toBeLessThan(0.12 * sigma);
      expect(varY).toBeCloseTo(varX, 2);
    }
  });
  it('leaves an even map even, up to its edges', () => {
    const map = new Float32Array(width * height).fill(3.25);
    gaussianByMeans(map, width, height, 9);
    for (const value of map) expect(value).toBeCloseTo(3.25, 4);
  });
  it('does nothing at width 0', () => {
    const map = spike();
    gaussianByMeans(map, width, height, 0);
    expect(map).toEqual(spike());
  });
});

describe('a wide Gaussian', () => {
  it('is close to the exact one', () => {
    const random = seededRandom(2);
    const map = Float32Array.from({ length: width * height }, () => random.uniform());
    const exact = map.slice();
    gaussianByMeans(exact, width, height, 14);
    const wide = wideGaussian(map, width, height, 14);
    for (let i = 0; i < exact.length; i++) expect(Math.abs(wide[i] - exact[i])).toBeLessThan(0.05);
  });
  it('gives a new map and leaves the old one', () => {
    const map = spike();
    wideGaussian(map, width, height, 20);
    expect(map).toEqual(spike());
  });
});
