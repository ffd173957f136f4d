import { expect, it } from 'vitest';
import { seededRandom } from '../random';
import { regionsOf } from './regions';

/** Regions one after the other, by asking each pixel's neighbours until no more come. */
function byAsking(
  inside: (at: number) => boolean,
  width: number,
  height: number
): { x: number; y: number }[][] {
  const left = new Set(Array.from({ length: width * height }, (_, at) => at).filter(inside));
  const regions: { x: number; y: number }[][] = [];
  for (const start of [...left]) {
    if (!left.delete(start)) continue;
    const region = [start];
    for (const at of region) {
      const x = at % width;
      const beside = [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width];
      for (const next of beside) if (left.delete(next)) region.push(next);
    }
    regions.push(region.map((at) => ({ x: at % width, y: Math.floor(at / width) })));
  }
  return regions;
}

it('finds the regions of any mask, in the order in which rows meet them, with their moments', () => {
  const random = seededRandom(41);
  for (let k = 0; k < 60; k++) {
    const width = 1 + Math.floor(random.uniform() * 24);
    const height = 1 + Math.floor(random.uniform() * 24);
    const share = 0.2 + 0.6 * random.uniform();
    const mask = Array.from({ length: width * height }, () => random.uniform() < share);
    const found = regionsOf((at) => mask[at], width, height);
    const asked = byAsking((at) => mask[at], width, height);
    expect(
      found.map(({ pixels, left, top, right, bottom }) => [pixels, left, top, right, bottom]),
      `mask ${k}`
    ).toEqual(
      asked.map((region) => {
        const xs = region.map(({ x }) => x);
        const ys = region.map(({ y }) => y);
        return [region.length, Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
      })
    );
    found.forEach((region, i) => {
      const n = asked[i].length;
      const mean = (of: (p: { x: number; y: number }) => number) =>
        asked[i].reduce((sum, p) => sum + of(p), 0) / n;
      expect(region.meanX).toBeCloseTo(
        mean((p) => p.x),
        9
      );
      expect(region.meanY).toBeCloseTo(
        mean((p) => p.y),
        9
      );
      expect(region.varianceX).toBeCloseTo(mean((p) => (p.x - region.meanX) ** 2) + 1 / 12, 9);
      expect(region.varianceY).toBeCloseTo(mean((p) => (p.y - region.meanY) ** 2) + 1 / 12, 9);
      expect(region.covariance).toBeCloseTo(
        mean((p) => (p.x - region.meanX) * (p.y - region.meanY)),
        9
      );
    });
  }
});
