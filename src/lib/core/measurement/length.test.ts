import { describe, expect, it } from 'vitest';
import type { Scale } from '../calibration/scale';
import { seededRandom } from '../random';
import { inWords } from './inWords';
import { length } from './length';

const scale = (mm: number, u: number, mmY = mm): Scale => ({
  source: 'line',
  mmPerPixelX: mm,
  mmPerPixelY: mmY,
  relativeUncertainty: u,
  description: ''
});
const at = (x: number, y: number, uncertaintyPx = 1) => ({ x, y, uncertaintyPx });

describe('length', () => {
  it('gives the worked value', () => {
    const measured = length([at(0, 0), at(300, 400)], scale(0.02, 0.01));
    expect(measured.value).toBeCloseTo(10, 12);
    expect(measured.plusMinus).toBeCloseTo(2 * Math.sqrt(0.1 ** 2 + 2 * 0.02 ** 2), 12);
    expect(inWords(measured)).toBe('10.00 ± 0.21 mm');
  });
  it('says pixels where there is no scale', () => {
    expect(inWords(length([at(0, 0), at(300, 400)], null))).toBe('500.0 ± 2.8 px');
  });
  it('minds pixels that are not square', () => {
    expect(length([at(0, 0), at(3, 4)], scale(1, 0, 2)).value).toBeCloseTo(Math.hypot(3, 8), 12);
  });
  it('never claims certainty for coincident points', () => {
    expect(length([at(5, 5), at(5, 5)], scale(0.02, 0)).plusMinus).toBeGreaterThan(0);
  });
  it('refuses a zero scale and a missing point', () => {
    expect(() => length([at(0, 0), at(1, 1)], scale(0, 0))).toThrow(RangeError);
    expect(() => length([at(0, 0), at(NaN, 1)], null)).toThrow(/missing/);
  });
  it('covers the truth in about 95 of 100 cases and is not wider than it needs to be', () => {
    const random = seededRandom(11);
    const trueMm = 11.4;
    const mmPerPixel = 0.019;
    let covered = 0;
    const errors: number[] = [];
    const trials = 4000;
    let stated = 0;
    for (let i = 0; i < trials; i++) {
      const angle = random.uniform() * 2 * Math.PI;
      const px = trueMm / mmPerPixel;
      const guess = scale(mmPerPixel * (1 + 0.008 * random.normal()), 0.008);
      const u = 2.5;
      const measured = length(
        [
          at(random.normal() * u, random.normal() * u, u),
          at(Math.cos(angle) * px + random.normal() * u, Math.sin(angle) * px + random.normal() * u, u)
        ],
        guess
      );
      if (Math.abs(measured.value - trueMm) <= measured.plusMinus) covered++;
      errors.push(Math.abs(measured.value - trueMm));
      stated += measured.plusMinus / trials;
    }
    errors.sort((x, y) => x - y);
    expect(covered / trials).toBeGreaterThan(0.94);
    expect(stated).toBeLessThan(1.5 * errors[Math.floor(0.95 * trials)]);
  });
});

describe('inWords', () => {
  it('rounds to what the ± can bear', () => {
    expect(inWords({ value: 11.2345, unit: 'mm', plusMinus: 0.62 })).toBe('11.2 ± 0.6 mm');
    expect(inWords({ value: 652.4, unit: 'px', plusMinus: 41 })).toBe('652 ± 41 px');
    // Three tenths divided by a tenth is a little less than three in floating point.
    expect(inWords({ value: 12.4, unit: 'mm', plusMinus: 0.3 })).toBe('12.4 ± 0.3 mm');
    expect(inWords({ value: 1240, unit: 'mm', plusMinus: 0.03 })).toBe('1240.00 ± 0.03 mm');
  });
});
