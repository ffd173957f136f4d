import { describe, expect, it } from 'vitest';
import type { CorneaWish } from '../phantom/eye/cornea';
import { type EyeTake, eyeTake, trueEdgeAt } from '../phantom/scenes/eyeTakes';
import { seededRandom } from '../random';
import type { Point } from '../raster/orientation';
import { type FoundRings, ringPoints, ringsIn } from './rings';
import { quillTarget as target } from './target';

function foundIn({ raster }: EyeTake): FoundRings {
  const found = ringsIn(raster, target);
  if (found.outcome === 'none') throw new Error(found.because);
  return found.rings;
}

/** Of the edges found on every fourth meridian, those that belong to another ring edge than they were counted as. */
function miscounted(shape: CorneaWish, take: EyeTake): { wrong: number; of: number } {
  const truly = trueEdgeAt(shape, take.pose, target);
  // Just outside the target's first and last edge nothing is counted.
  const points = ringPoints(foundIn(take)).filter(
    ({ edge, meridian }) => meridian % 4 === 0 && edge > 1 && edge < target.edges.length - 2
  );
  const wrong = points.filter(({ edge, image }) => !(Math.abs((truly(image) ?? NaN) - edge) < 0.5)).length;
  return { wrong, of: points.length };
}

describe('the count of rings', () => {
  it('is kept where the pupil’s edge crosses the innermost of them', () => {
    const shape: CorneaWish = {
      flatMm: 7.7623,
      steepMm: 7.2132,
      axisDeg: 94.3,
      q: -0.146,
      cone: { x: 0.183, y: 1.282, heightMm: 0.0341, widthMm: 1.011 }
    };
    const { wrong, of } = miscounted(shape, eyeTake(shape, [-12, 12], target, 71106));
    expect(of).toBeGreaterThan(2500);
    expect(wrong).toBe(0);
  });
  it('is taken up again behind lashes that lie along meridians', () => {
    const shape: CorneaWish = { flatMm: 7.97688, steepMm: 7.6591, axisDeg: 93.22, q: -0.2 };
    const { wrong, of } = miscounted(shape, eyeTake(shape, [-12, 12], target, 71606, { lashes: 60 }));
    expect(of).toBeGreaterThan(2300);
    expect(wrong / of).toBeLessThan(0.002);
  });
  it('is kept over gazes, cones and broken tear films, with random seeds', () => {
    const random = seededRandom(41);
    for (let i = 0; i < 6; i++) {
      const flatMm = 7.3 + random.uniform();
      const shape: CorneaWish = {
        flatMm,
        steepMm: flatMm - 0.6 * random.uniform(),
        axisDeg: 180 * random.uniform(),
        q: -0.4 * random.uniform(),
        cone:
          i % 2 === 0
            ? { x: random.normal() / 2, y: 1, heightMm: 0.03 * random.uniform(), widthMm: 1.1 }
            : undefined
      };
      const gaze = [24 * (random.uniform() - 0.5), 24 * (random.uniform() - 0.5)] as const;
      const { wrong, of } = miscounted(
        shape,
        eyeTake(shape, gaze, target, 900 + i, { tearBreak: 0.15 * (i % 3), lashes: 12 * i })
      );
      expect(wrong / of).toBeLessThan(0.002);
    }
  });
  it('has gaps where a lid hides rings, and nothing from the lid itself', () => {
    const shape: CorneaWish = { flatMm: 7.8, q: -0.2 };
    const take = eyeTake(shape, [0, 0], target, 33, { fault: 'lid' });
    const rings = foundIn(take);
    const above = ringPoints(rings).filter(
      ({ image }) =>
        image.y < rings.center.y - 2.6 * target.pxPerMm && Math.abs(image.x - rings.center.x) < 60
    );
    expect(above).toHaveLength(0);
    const { wrong, of } = miscounted(shape, take);
    expect(wrong / of).toBeLessThan(0.002);
  });
});

it('ring edges lie where the law of reflection puts them, to a few hundredths of their spacing', () => {
  const shape: CorneaWish = { flatMm: 7.9, steepMm: 7.6, axisDeg: 10 };
  const take = eyeTake(shape, [10, -6], target, 12);
  const truly = trueEdgeAt(shape, take.pose, target);
  const offs = ringPoints(foundIn(take)).flatMap(({ edge, meridian, image }) =>
    meridian % 8 === 0 && edge > 0 && edge < target.edges.length - 2
      ? [Math.abs((truly(image) ?? NaN) - edge)]
      : []
  );
  offs.sort((p, q) => p - q);
  expect(offs[Math.floor(offs.length * 0.5)]).toBeLessThan(0.01);
  expect(offs[Math.floor(offs.length * 0.98)]).toBeLessThan(0.1);
});

it('a picture of 12 bits has the rings of the same one in 8', () => {
  const take = eyeTake({ flatMm: 7.8 }, [0, 0], target, 71);
  const { raster } = take;
  const deep = { ...raster, bitsStored: 12, data: Uint16Array.from(raster.data, (value) => value * 16) };
  expect(ringsIn(deep, target)).toEqual(ringsIn(raster, target));
});

it('a picture of another size is refused, for its middle would be another', () => {
  const { raster } = eyeTake({ flatMm: 7.8 }, [0, 0], target, 72);
  const height = raster.height - 100;
  const cropped = { ...raster, height, data: raster.data.subarray(0, raster.width * height) };
  const found = ringsIn(cropped, target);
  expect(found.outcome === 'none' && found.because).toContain('1024 x 924');
  expect(ringsIn({ ...raster, channels: 3 }, target)).toMatchObject({
    because: expect.stringContaining('colours')
  });
});

it('edges on the white of the eye, where bright rings end the range, lie no further out for it', () => {
  const shape: CorneaWish = { flatMm: 8.3, q: -0.2 };
  const take = eyeTake(shape, [17, 0], target, 52);
  const truly = trueEdgeAt(shape, take.pose, target);
  const { data, width } = take.raster;
  const rings = foundIn(take);
  const isCutOff = ({ x, y }: Point, inwardPx: number) => {
    const away = Math.hypot(x - rings.center.x, y - rings.center.y);
    const share = 1 - inwardPx / away;
    const px = Math.floor(rings.center.x + (x - rings.center.x) * share);
    const py = Math.floor(rings.center.y + (y - rings.center.y) * share);
    return data[py * width + px] === 255;
  };
  const offs = ringPoints(rings).flatMap(({ edge, image }) => {
    const falls = edge % 2 === 1 && edge < target.edges.length - 2;
    const truth = falls && isCutOff(image, 3) && isCutOff(image, 4) ? truly(image) : null;
    return truth === null ? [] : [truth - edge];
  });
  const mean = offs.reduce((sum, off) => sum + off, 0) / offs.length;
  expect(offs.length).toBeGreaterThan(100);
  expect(Math.abs(mean)).toBeLessThan(0.012);
});
