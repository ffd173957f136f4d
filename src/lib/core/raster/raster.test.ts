import { describe, expect, it } from 'vitest';
import { type Raster, assertRaster, bytesOf, samplesFrom } from './raster';

const sound: Raster = {
  width: 3,
  height: 2,
  channels: 1,
  bitsStored: 12,
  offset: 0,
  data: new Uint16Array(6)
};

describe('a raster', () => {
  it('that is sound is given back as it is', () => {
    expect(assertRaster(sound)).toBe(sound);
    const colour: Raster = { ...sound, channels: 3, bitsStored: 8, data: new Uint8Array(18) };
    expect(assertRaster(colour)).toBe(colour);
  });
  it('whose sizes and samples disagree is refused, with both', () => {
    expect(() => assertRaster({ ...sound, width: 4 })).toThrow('4 x 2 x 1 samples expected, got 6');
    expect(() => assertRaster({ ...sound, height: 0 })).toThrow('a picture needs a size, got 3 x 0');
    expect(() => assertRaster({ ...sound, width: NaN })).toThrow('needs a size');
  });
  it('of more bits than its samples can hold is refused', () => {
    expect(() => assertRaster({ ...sound, data: new Uint8Array(6) })).toThrow('16-bit');
    for (const bitsStored of [0, 17]) expect(() => assertRaster({ ...sound, bitsStored })).toThrow('1 to 16');
  });
});

describe('samples and bytes', () => {
  it('are little-endian words above 8 bits, wherever the bytes lie', () => {
    const held = Uint8Array.from([9, 0x34, 0x12, 0xff, 0x0f, 7]);
    for (const start of [1, 0]) {
      const bytes = start === 1 ? held.subarray(1, 5) : held.slice(1, 5);
      expect([...samplesFrom(bytes, 12)]).toEqual([0x1234, 0x0fff]);
    }
    expect(samplesFrom(held, 8)).toBe(held);
  });
  it('go there and back, also from the middle of something larger', () => {
    const data = Uint16Array.from([1, 2, 3, 40_000, 5, 6, 7, 8]).subarray(1, 7);
    const raster: Raster = { ...sound, bitsStored: 16, data };
    expect(bytesOf(raster)).toHaveLength(12);
    expect([...samplesFrom(bytesOf(raster), 16)]).toEqual([...data]);
  });
});
