import { describe, expect, it } from 'vitest';
import { dicomUid, uuid7 } from './uuid7';

describe('uuid7', () => {
  it('gives the worked example of RFC 9562, appendix A.6', () => {
    const random = Uint8Array.from([0x0c, 0xc3, 0x18, 0xc4, 0xdc, 0x0c, 0x0c, 0x07, 0x39, 0x8f]);
    expect(uuid7(0x017f22e279b0, random)).toBe('017f22e2-79b0-7cc3-98c4-dc0c0c07398f');
  });
  it('sorts by time', () => {
    const low = new Uint8Array(10);
    const high = new Uint8Array(10).fill(255);
    expect(uuid7(1000, high) < uuid7(1001, low)).toBe(true);
  });
  it('refuses a time that does not fit and too few bytes', () => {
    expect(() => uuid7(2 ** 48, new Uint8Array(10))).toThrow(RangeError);
    expect(() => uuid7(1, new Uint8Array(9))).toThrow(RangeError);
  });
});

describe('dicomUid', () => {
  it('writes the UUID as one decimal number', () => {
    expect(dicomUid('f81d4fae-7dec-11d0-a765-00a0c91e6bf6')).toBe(
      '2.25.329800735698586629295641978511506172918'
    );
  });
  it('refuses what is no UUID', () => expect(() => dicomUid('abc')).toThrow(RangeError));
});
