import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type Transfer, anyImaging, imaged } from './imaging';
import { markerPicture } from './markerPicture';
import { ballShape, barShape, discShape, draw, ringShape, without } from './shapes';

const size = 120;
const drawn = (shape: Parameters<typeof draw>[3]) => {
  const map = new Float32Array(size * size);
  draw(map, size, size, shape);
  return map;
};
/** Area that takes everything away, from what is lost altogether. */
const areaOf = (map: Float32Array) => map.reduce((sum, value) => sum + 1 - Math.exp(-value), 0);

describe('shapes', () => {
  it('cover the area that geometry gives', () => {
    const center = { x: 60.3, y: 59.6 };
    expect(areaOf(drawn(discShape(center, 50, 30)))).toBeCloseTo(Math.PI * 625, -1);
    expect(areaOf(drawn(discShape(center, 50, 30, 60)))).toBeCloseTo((Math.PI * 625) / 2, -1);
    expect(areaOf(drawn(ringShape(center, 60, 6, 40)))).toBeCloseTo(Math.PI * 60 * 6, -2);
    expect(areaOf(drawn(barShape({ x: 20, y: 30 }, { x: 90, y: 80 }, 8, 30)))).toBeCloseTo(
      8 * Math.hypot(70, 50),
      -1
    );
    const plate = without(discShape(center, 60, 30), [discShape(center, 20, 1)]);
    expect(areaOf(drawn(plate))).toBeCloseTo(Math.PI * (900 - 100), -1);
  });
  it('a ball takes away as much as the way through it is long', () => {
    const map = drawn(ballShape({ x: 60, y: 60 }, 80, 2));
    expect(map[60 * size + 60]).toBeCloseTo(2, 2);
    expect(map[60 * size + 84]).toBeCloseTo(2 * Math.sqrt(1 - (24.5 / 40) ** 2), 2);
  });
});

it.each([
  ['linear', (rays: number) => rays],
  ['root', (rays: number) => Math.sqrt(rays)],
  ['logarithmic', (rays: number) => 1 + Math.log(rays) / Math.log(40_000)]
] as [Transfer, (rays: number) => number][])(
  'greys of a %s picture go with the rays as it says',
  (transfer, answer) => {
    const imaging = anyImaging(transfer, seededRandom(1), {
      counts: 40_000,
      scatter: 0,
      lift: 0,
      grid: 0,
      readNoise: 0,
      window: { kind: 'whole' },
      bits: 16,
      bitsStored: 16,
      denseBright: false
    });
    for (const lost of [0, 0.5, 2]) {
      const map = new Float32Array(64 * 64).fill(lost);
      const { data } = imaged(map, 64, 64, imaging, seededRandom(2));
      const mean = Float64Array.from(data).reduce((a, b) => a + b, 0) / data.length / 65_535;
      expect(mean).toBeCloseTo(answer(Math.exp(-lost)) / 1.15, 2);
    }
  }
);

it('the same seed gives the same picture, another another', () => {
  const made = (seed: number) =>
    markerPicture(
      { transfer: 'curved', marker: 'disc', neighbours: 2, width: 200, height: 200 },
      seededRandom(seed)
    );
  expect(made(4)).toEqual(made(4));
  expect(made(4).raster.data).not.toEqual(made(5).raster.data);
});
