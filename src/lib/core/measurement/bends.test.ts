import { expect, it } from 'vitest';
import { seededRandom } from '../random';
import { bends } from './bends';
import { distanceToSegment } from './geometry';

it('a way keeps its corners and no point of a straight stretch', () => {
  const way = Array.from({ length: 41 }, (_, i) => ({ x: Math.min(i, 20), y: Math.max(0, i - 20) }));
  expect(bends(way, 0.5)).toEqual([0, 20, 40]);
});

it('what is left lies within the tolerance of every point that was left out', () => {
  const random = seededRandom(8);
  for (let run = 0; run < 30; run++) {
    const way = Array.from({ length: 60 }, (_, i) => ({ x: i + random.uniform(), y: 8 * Math.sin(i / 5) }));
    const kept = bends(way, 0.7);
    for (let k = 1; k < kept.length; k++)
      for (let i = kept[k - 1]; i <= kept[k]; i++)
        expect(distanceToSegment(way[i], way[kept[k - 1]], way[kept[k]])).toBeLessThanOrEqual(0.7);
    expect(kept.length).toBeLessThan(50);
  }
});
