import { describe, expect, it } from 'vitest';
import { orientedSize, toImage, toOriented } from './orientation';
import { inverse, turnRaster } from './turnRaster';
import type { Raster } from './raster';

const source: Raster = {
  width: 5,
  height: 3,
  channels: 3,
  bitsStored: 8,
  offset: 0,
  data: Uint8Array.from({ length: 45 }, (_, i) => i)
};

describe('a tilted raster', () => {
  // Brightness that rises evenly along a row and down a column is the same wherever it is looked up.
  const [width, height] = [60, 40];
  const ramp: Raster = {
    width,
    height,
    channels: 1,
    bitsStored: 16,
    offset: 0,
    data: Uint16Array.from(
      { length: width * height },
      (_, i) => 500 * (i % width) + 700 * Math.floor(i / width) + 9
    )
  };
  it.each([
    [1, 17.5],
    [1.5, -31.2]
  ])('has at each place what lies there, with pixels %s times as tall as wide', (pixelAspect, tiltDeg) => {
    for (const quarterTurns of [0, 1, 2, 3] as const)
      for (const mirrored of [false, true]) {
        const orientation = { quarterTurns, mirrored, tiltDeg };
        const size = { width, height, pixelAspect };
        const seen = orientedSize(size, orientation);
        const turned = turnRaster(ramp, orientation, pixelAspect);
        expect([turned.width, turned.height]).toEqual([Math.round(seen.width), Math.round(seen.height)]);
        let outside = 0;
        for (let y = 0; y < turned.height; y++)
          for (let x = 0; x < turned.width; x++) {
            const at = {
              x: ((x + 0.5) * seen.width) / turned.width,
              y: ((y + 0.5) * seen.height) / turned.height
            };
            const p = toImage(at, size, orientation);
            const value = turned.data[y * turned.width + x];
            if (p.x < -0.01 || p.y < -0.01 || p.x > width + 0.01 || p.y > height + 0.01) {
              outside++;
              expect(value).toBe(0);
            } else if (p.x > 0.5 && p.y > 0.5 && p.x < width - 0.5 && p.y < height - 0.5)
              expect(Math.abs(value - (500 * (p.x - 0.5) + 700 * (p.y - 0.5) + 9))).toBeLessThan(1);
          }
        expect(outside).toBeGreaterThan(100);
      }
  });
});

describe('turnRaster', () => {
  for (const quarterTurns of [0, 1, 2, 3] as const) {
    for (const mirrored of [false, true]) {
      const orientation = { quarterTurns, mirrored };
      it(`puts every sample where it is shown: ${quarterTurns} turns${mirrored ? ', mirrored' : ''}`, () => {
        const turned = turnRaster(source, orientation);
        for (let y = 0; y < 3; y++) {
          for (let x = 0; x < 5; x++) {
            const p = toOriented({ x: x + 0.5, y: y + 0.5 }, source, orientation);
            const at = (Math.floor(p.y) * turned.width + Math.floor(p.x)) * 3;
            expect(turned.data[at + 1]).toBe(source.data[(y * 5 + x) * 3 + 1]);
          }
        }
      });
      it(`is undone by its inverse: ${quarterTurns} turns${mirrored ? ', mirrored' : ''}`, () => {
        expect(turnRaster(turnRaster(source, orientation), inverse(orientation))).toEqual(source);
      });
    }
  }
});
