import { describe, expect, it } from 'vitest';
import type { Scale } from '../calibration/scale';
import { seededRandom } from '../random';
import { scaleBar } from './scaleBar';

const scaleOf = (mmPerPixelX: number, source: Scale['source'] = 'line'): Scale =>
  ({ mmPerPixelX, mmPerPixelY: mmPerPixelX, source }) as Scale;

describe('a scale bar', () => {
  it('gives its worked value, and says where its length holds', () => {
    expect(scaleBar(scaleOf(0.1), 100)).toEqual({ lengthPx: 100, words: '10 mm' });
    expect(scaleBar(scaleOf(0.1, 'detector'), 100)?.words).toBe('10 mm at the detector');
  });
  it('counts pixels where nothing is known of millimetres', () => {
    expect(scaleBar(null, 130)).toEqual({ lengthPx: 100, words: '100 px' });
    expect(scaleBar(null, 0.5)).toBeNull();
    expect(scaleBar(scaleOf(0.1), NaN)).toBeNull();
  });
  it('is a round length that fits, and never less than two fifths of the room', () => {
    const random = seededRandom(4);
    for (let i = 0; i < 500; i++) {
      const mmPerPixel = 10 ** (3 * random.uniform() - 2.5);
      const most = 20 + 900 * random.uniform();
      const bar = scaleBar(scaleOf(mmPerPixel), most)!;
      expect(bar.lengthPx).toBeLessThanOrEqual(most * (1 + 1e-6));
      expect(bar.lengthPx).toBeGreaterThan(0.39 * most);
      expect(Number(bar.words.split(' ')[0]) / mmPerPixel).toBeCloseTo(bar.lengthPx, 6);
    }
  });
});
