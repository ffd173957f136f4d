import { describe, expect, it } from 'vitest';
import { contradiction, magnificationOf, roundSearch, sizesInPicture } from './markerSearch';
import type { ClinicMarker } from './markerShape';
import type { Scale } from './scale';

const ball: ClinicMarker = { markerId: 'b', name: 'ball', shape: 'ball', sizeMm: 10, toleranceMm: 0.02 };
const scale = (source: Scale['source']): Scale => ({
  source,
  mmPerPixelX: 0.1,
  mmPerPixelY: 0.1,
  relativeUncertainty: 0.001,
  description: ''
});
const seen = (sizePx: number) => ({ sizePx, uncertaintyPx: 0.3 });

describe('a clinic’s marker in a picture', () => {
  it('is looked for between its own size at the detector and what magnifies it most', () => {
    const { diameterPx, kind } = roundSearch(ball, scale('detector'));
    expect(kind).toBe('ball');
    expect(diameterPx!.least).toBeGreaterThan(95);
    expect(diameterPx!.least).toBeLessThan(100);
    expect(diameterPx!.most).toBeCloseTo(180);
    expect(roundSearch(ball, null).diameterPx).toBeUndefined();
    expect(() => roundSearch({ ...ball, shape: 'length' }, null)).toThrow(RangeError);
    expect(() => roundSearch({ ...ball, shape: 'ruler' }, null)).toThrow(RangeError);
    expect(sizesInPicture({ ...ball, shape: 'bar' }, scale('calibrated'))).toEqual({ least: 80, most: 125 });
  });
  it('tells its magnification with a ±, where the detector’s spacing is known', () => {
    const found = magnificationOf(ball, seen(110), scale('detector'))!;
    expect(found.value).toBeCloseTo(1.1, 9);
    // 0.3 of 110, 0.02 / sqrt(3) of 10, and 0.001, twice.
    expect(found.plusMinus).toBeCloseTo(2.2 * Math.hypot(0.3 / 110, 0.00115470054, 0.001), 6);
    expect(magnificationOf(ball, seen(110), scale('calibrated'))).toBeNull();
  });
  it('that contradicts the file says so, and one that agrees does not', () => {
    expect(contradiction(ball, seen(95), scale('detector'))).toMatch(/smaller than they are/);
    expect(contradiction(ball, seen(99.9), scale('detector'))).toBeNull();
    expect(contradiction(ball, seen(110), scale('calibrated'))).toMatch(/differs by 9\.1 %/);
    expect(contradiction(ball, seen(100.5), scale('calibrated'))).toBeNull();
    expect(contradiction(ball, seen(70), null)).toBeNull();
  });
});
