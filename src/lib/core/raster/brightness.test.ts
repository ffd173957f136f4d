import { describe, expect, it } from 'vitest';
import { brightness } from './brightness';
import type { Raster } from './raster';

const shape = { width: 2, height: 1, bitsStored: 8, offset: 0 };

describe('brightness', () => {
  it('of a grey picture is its values, with its offset', () => {
    const grey: Raster = { ...shape, channels: 1, offset: -100, data: Uint8Array.of(7, 200) };
    expect([...brightness(grey).data]).toEqual([-93, 100]);
  });
  it('of a colour picture weighs green most and keeps white white', () => {
    const colour: Raster = { ...shape, channels: 3, data: Uint8Array.of(255, 255, 255, 0, 100, 0) };
    const { data } = brightness(colour);
    expect(data[0]).toBeCloseTo(255, 3);
    expect(data[1]).toBeCloseTo(58.7, 3);
    const green = brightness(colour, { left: 1, top: 0, width: 1, height: 1 });
    expect(green.data).toHaveLength(1);
    expect(green.data[0]).toBeCloseTo(58.7, 3);
  });
});
