import { expect, it } from 'vitest';
import { seededRandom } from '../../../random';
import {
  type Orientation,
  mirrored,
  tilted,
  toImage,
  toOriented,
  turned,
  upright
} from '../../../raster/orientation';
import { cropBetween, cropSeen } from './crop';

const picture = { width: 400, height: 300 };

it('a crop is what lies between two points as they are seen, and goes with the picture when that is turned', () => {
  const crop = cropBetween({ x: 300, y: 50 }, { x: 100, y: 150 }, picture, upright)!;
  expect(cropSeen(crop, picture, upright)).toEqual({ left: 100, top: 50, width: 200, height: 100 });
  // A quarter turn clockwise: what was 300 high comes from the right.
  expect(cropSeen(crop, picture, turned(upright, 1))).toEqual({
    left: 150,
    top: 100,
    width: 100,
    height: 200
  });
  expect(cropSeen(crop, picture, mirrored(upright))).toEqual({ left: 100, top: 50, width: 200, height: 100 });
});

it('a crop of a tilted picture is itself again in that tilt, and holds all its corners in any other', () => {
  const random = seededRandom(17);
  for (let i = 0; i < 60; i++) {
    let orientation: Orientation = tilted(turned(upright, i), 80 * random.uniform() - 40);
    if (i % 2) orientation = mirrored(orientation);
    const size = { ...picture, pixelAspect: i % 3 ? 1 : 1.4 };
    const point = () => ({ x: 100 + 200 * random.uniform(), y: 100 + 100 * random.uniform() });
    const [a, b] = [point(), point()];
    const crop = cropBetween(a, b, size, orientation);
    if (!crop) continue;
    const seen = cropSeen(crop, size, orientation)!;
    for (const side of ['left', 'top', 'width', 'height'] as const)
      expect(seen[side]).toBeCloseTo(crop.window[side], 6);
    const other = tilted(orientation, 25);
    const around = cropSeen(crop, size, other)!;
    for (const image of [a, b]) {
      const { x, y } = toOriented(image, size, other);
      expect(x).toBeGreaterThan(around.left - 1e-6);
      expect(y).toBeGreaterThan(around.top - 1e-6);
      expect(x).toBeLessThan(around.left + around.width + 1e-6);
      expect(y).toBeLessThan(around.top + around.height + 1e-6);
    }
    const corner = toImage({ x: seen.left, y: seen.top }, size, orientation);
    expect(toOriented(corner, size, orientation).x).toBeCloseTo(seen.left, 6);
  }
});

it('a crop ends at the picture’s edge, and is none where there is too little of it to be seen', () => {
  const over = cropBetween({ x: -50, y: -20 }, { x: 60, y: 5000 }, picture, upright)!;
  expect(over.window).toEqual({ left: 0, top: 0, width: 60, height: 300 });
  expect(cropBetween({ x: 10, y: 10 }, { x: 200, y: 20 }, picture, upright)).toBeNull();
  expect(cropBetween({ x: 500, y: 10 }, { x: 600, y: 200 }, picture, upright)).toBeNull();
  // Of a picture that is smaller than it.
  expect(
    cropSeen(
      { window: { left: 390, top: 200, width: 50, height: 50 }, orientation: upright },
      { width: 64, height: 64 },
      upright
    )
  ).toBeNull();
});
