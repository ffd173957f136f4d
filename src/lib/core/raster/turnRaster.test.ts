import { describe, expect, it } from 'vitest';
import { toOriented } from './orientation';
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
