import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../random';
import type { Raster } from '../../../raster/raster';
import { type Veils, agreed, maskedOf, masksSomething, noVeils, veiled, veiledFrames } from './veils';

const raster = (width: number, height: number, channels: 1 | 3 = 1): Raster => ({
  width,
  height,
  channels,
  bitsStored: 8,
  offset: 0,
  data: Uint8Array.from({ length: width * height * channels }, (_, i) => (i % 250) + 1)
});
const laid = (veils: Partial<Veils>): Veils => ({ ...noVeils, ...veils });

describe('veils', () => {
  it('mask exactly their pixels, in a copy', () => {
    const before = raster(8, 6);
    const kept = before.data.slice();
    const after = veiled(before, laid({ veils: [{ left: 2, top: 1, width: 3, height: 2 }] }), 0);
    expect(before.data).toEqual(kept);
    const zeros = [...after.data].flatMap((value, i) => (value === 0 ? [[i % 8, Math.floor(i / 8)]] : []));
    expect(zeros).toEqual([
      [2, 1],
      [3, 1],
      [4, 1],
      [2, 2],
      [3, 2],
      [4, 2]
    ]);
  });
  it('mask all colours of a pixel, end at the edge, and lie on their frames alone', () => {
    const picture = raster(5, 4, 3);
    const veils = laid({ veils: [{ left: 3, top: 2, width: 90, height: 90, frames: [1] }] });
    expect(veiled(picture, veils, 0).data).toEqual(picture.data);
    const zeros = [...veiled(picture, veils, 1).data].filter((value) => value === 0);
    expect(zeros).toHaveLength(2 * 2 * 3);
  });
  it('keep only a part of every frame', () => {
    const only = { left: 1, top: 1, width: 3, height: 2 };
    const frames = veiledFrames(raster(6, 5), [raster(6, 5).data, raster(6, 5).data], laid({ only }));
    for (const data of frames)
      data.forEach((value, i) => {
        const [x, y] = [i % 6, Math.floor(i / 6)];
        expect(value > 0, `${x} ${y}`).toBe(x >= 1 && x < 4 && y >= 1 && y < 3);
      });
  });
  it('leave nothing of what lies under them, whatever they are', () => {
    const random = seededRandom(4);
    const whole = (most: number) => Math.floor(random.uniform() * most);
    for (let round = 0; round < 200; round++) {
      const size = { width: 2 + whole(30), height: 2 + whole(30) };
      const veils = laid({
        veils: Array.from({ length: whole(4) }, () => ({
          left: whole(40),
          top: whole(40),
          width: 1 + whole(20),
          height: 1 + whole(20)
        })),
        only:
          random.uniform() < 0.3
            ? { left: whole(10), top: whole(10), width: 1 + whole(20), height: 1 + whole(20) }
            : null
      });
      const after = veiled(raster(size.width, size.height), veils, 0);
      const areas = maskedOf(veils, 0, size);
      after.data.forEach((value, i) => {
        const [x, y] = [i % size.width, Math.floor(i / size.width)];
        const under = areas.some(
          (area) =>
            x >= area.left && x < area.left + area.width && y >= area.top && y < area.top + area.height
        );
        expect(value === 0).toBe(under);
      });
    }
  });
  it('are something to be said of only where they mask anything', () => {
    expect([null, noVeils, laid({ looked: true })].map(masksSomething)).toEqual([false, false, false]);
    expect(masksSomething(laid({ only: { left: 0, top: 0, width: 1, height: 1 } }))).toBe(true);
  });
});

describe('veils of a series', () => {
  const box = (left: number, frame: number) => ({ left, top: 0, width: 10, height: 4, frame });
  it('stand once for all frames where these agree, and name their frames where not', () => {
    const found = [box(0, 0), box(1, 1), box(0, 2), box(50, 1)];
    expect(agreed(found, 3)).toEqual([
      { left: 0, top: 0, width: 11, height: 4 },
      { left: 50, top: 0, width: 10, height: 4, frames: [1] }
    ]);
  });
});
