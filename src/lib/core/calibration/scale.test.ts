import { describe, expect, it } from 'vitest';
import { placementUncertaintyPx, scaleFromFile, scaleFromLine } from './scale';

describe('scaleFromFile', () => {
  it('takes calibrated spacing as such, rows first', () => {
    const { scale, doubt } = scaleFromFile({
      pixelSpacing: [0.02, 0.018],
      pixelSpacingCalibration: 'FIDUCIAL',
      imagerPixelSpacing: [0.02, 0.02]
    });
    expect(scale).toMatchObject({ source: 'calibrated', mmPerPixelX: 0.018, mmPerPixelY: 0.02 });
    expect(doubt).toBeNull();
  });
  it('sees through detector spacing that is written as pixel spacing', () => {
    const { scale } = scaleFromFile({ pixelSpacing: [0.02, 0.02], imagerPixelSpacing: [0.02, 0.02] });
    expect(scale?.source).toBe('detector');
  });
  it('takes no scale from spacings that contradict one another, and says why', () => {
    for (const pixelSpacing of [
      [0.03, 0.03],
      [0.001, 0.001],
      [0.019, 0.0201]
    ] as [number, number][]) {
      const { scale, doubt } = scaleFromFile({ pixelSpacing, imagerPixelSpacing: [0.02, 0.02] });
      expect(scale, pixelSpacing.join()).toBeNull();
      expect(doubt).toMatch(/contradicts itself.*No lengths are given/);
    }
    const sound = scaleFromFile({ pixelSpacing: [0.016, 0.016], imagerPixelSpacing: [0.02, 0.02] });
    expect([sound.scale?.source, sound.doubt]).toEqual(['calibrated', null]);
  });
  it('divides by the magnification when the file names one', () => {
    const { scale } = scaleFromFile({ imagerPixelSpacing: [0.02, 0.02], magnification: 1.25 });
    expect(scale).toMatchObject({ source: 'magnified', mmPerPixelX: 0.016 });
  });
  it('does not believe an impossible magnification or spacing', () => {
    expect(scaleFromFile({ imagerPixelSpacing: [0.02, 0.02], magnification: 0.2 }).doubt).toMatch(
      /magnification/
    );
    expect(scaleFromFile({ pixelSpacing: [0, 0] })).toMatchObject({ scale: null });
    expect(scaleFromFile({ pixelSpacing: [NaN, 0.1] }).doubt).not.toBeNull();
    expect(scaleFromFile({})).toEqual({ scale: null, doubt: null });
  });
});

describe('scaleFromLine', () => {
  const end = (x: number, y: number) => ({ x, y, uncertaintyPx: 1 });
  it('gives the worked value', () => {
    const scale = scaleFromLine([end(0, 0), end(60, 80)], 10, 0.05);
    expect(scale.mmPerPixelX).toBeCloseTo(0.1, 12);
    expect(scale.relativeUncertainty).toBeCloseTo(0.015, 12);
  });
  it('minds pixels that are not square', () => {
    const scale = scaleFromLine([end(0, 0), end(0, 50)], 10, 0, 2);
    expect(scale.mmPerPixelY).toBeCloseTo(0.2, 12);
    expect(scale.mmPerPixelX).toBeCloseTo(0.1, 12);
  });
  it('refuses coincident ends and lengths that are none', () => {
    expect(() => scaleFromLine([end(1, 1), end(1, 1)], 10, 0)).toThrow(/coincide/);
    expect(() => scaleFromLine([end(0, 0), end(1, 1)], 0, 0)).toThrow(RangeError);
    expect(() => scaleFromLine([end(0, 0), end(1, 1)], NaN, 0)).toThrow(RangeError);
  });
});

describe('placementUncertaintyPx', () => {
  it('is worse when the picture is small on the screen, and never better than an edge can be seen', () => {
    expect(placementUncertaintyPx(0.25)).toBeCloseTo(Math.hypot(0.7, 6), 12);
    expect(placementUncertaintyPx(1000)).toBeCloseTo(0.7, 3);
  });
});
