import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { deviationAt, noiseCurve } from './noise';
import { patchOf } from './patch';

const width = 420;
const height = 300;
/** Steps of signal from left to right, with an edge between each, as a transfer shows them. */
function pictureOf(answer: (counts: number) => number) {
  const random = seededRandom(12);
  const data = new Uint16Array(width * height);
  for (let i = 0; i < data.length; i++) {
    const mean = 100 * (1 + Math.floor((i % width) / 60));
    data[i] = Math.max(0, answer(Math.max(1, mean + Math.sqrt(mean) * random.normal())));
  }
  return patchOf(data, { width, height });
}

describe('noise against grey', () => {
  it('of counted rays shown as they are goes with their root', () => {
    const curve = noiseCurve(pictureOf((counts) => 20 * counts))!;
    for (const counts of [150, 400, 650])
      expect(deviationAt(curve, 20 * counts) / (20 * Math.sqrt(counts))).toBeCloseTo(1, 0.6);
  });
  it('of their root is the same everywhere', () => {
    const curve = noiseCurve(pictureOf((counts) => 1000 * Math.sqrt(counts)))!;
    for (const counts of [150, 300, 500, 650])
      expect(Math.abs(deviationAt(curve, 1000 * Math.sqrt(counts)) / 500 - 1)).toBeLessThan(0.3);
  });
  it('of their logarithm falls', () => {
    const curve = noiseCurve(pictureOf((counts) => 5000 * Math.log(counts)))!;
    const [few, many] = [100, 700].map((counts) => deviationAt(curve, 5000 * Math.log(counts)));
    expect(few / many).toBeGreaterThan(2.2);
    expect(few / many).toBeLessThan(3.1);
  });
  it('is not told where rounding hides it, nor of next to no pixels', () => {
    expect(noiseCurve(pictureOf((counts) => counts / 200))).toBeNull();
    expect(noiseCurve(patchOf(new Uint8Array(100), { width: 10, height: 10 }))).toBeNull();
  });
});
