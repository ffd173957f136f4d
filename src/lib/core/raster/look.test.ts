import { describe, expect, it } from 'vitest';
import { greyTable, pixelTable, windowed } from './look';

describe('windowed', () => {
  it('gives the worked values of PS3.3 C.11.2.1.2.1 for c=2048, w=4096', () => {
    expect(windowed(0, 2048, 4096)).toBe(0);
    expect(windowed(4095, 2048, 4096)).toBeCloseTo(1, 12);
    expect(windowed(2047.5, 2048, 4096)).toBe(0.5);
  });
  it('is a threshold at width 1', () => {
    expect(windowed(2047, 2048, 1)).toBe(0);
    expect(windowed(2048, 2048, 1)).toBe(1);
  });
  it('refuses a width below one', () => expect(() => windowed(1, 1, 0)).toThrow(RangeError));
  it('never falls while the value rises', () => {
    for (let x = 1; x < 300; x++) {
      expect(windowed(x, 120, 37)).toBeGreaterThanOrEqual(windowed(x - 1, 120, 37));
    }
  });
});

describe('tables', () => {
  it('inverts exactly', () => {
    const look = { window: { center: 128, width: 256 }, inverted: false };
    const plain = greyTable(look, 8);
    const inverted = greyTable({ ...look, inverted: true }, 8);
    expect(plain.every((v, i) => v + inverted[i] === 255)).toBe(true);
  });
  it('takes the offset of signed pictures into account', () => {
    const look = { window: { center: 0, width: 100 }, inverted: false };
    expect(greyTable(look, 12, -1024)[1024]).toBe(129);
  });
  it('packs opaque greys', () => expect(pixelTable(Uint8Array.of(0x12))[0]).toBe(0xff121212));
});
