import { describe, expect, it } from 'vitest';
import { turnRaster } from '../raster/turnRaster';
import { fourBitewings } from '../tray/fourBitewings';
import { bitewing, sensorHeightPx, sensorWidthPx } from './bitewing';

describe('bitewing', () => {
  const slot = fourBitewings.slots[0];
  const picture = bitewing(slot, 5);

  it('has the sensor’s size and gives the same bytes for the same seed', () => {
    expect([picture.width, picture.height]).toEqual([sensorWidthPx, sensorHeightPx]);
    expect(Buffer.from(bitewing(slot, 5).data.buffer).equals(Buffer.from(picture.data.buffer))).toBe(true);
    expect(Buffer.from(bitewing(slot, 6).data.buffer).equals(Buffer.from(picture.data.buffer))).toBe(false);
  });
  it('shows crowns brighter than the gap between the jaws once set upright', () => {
    const upright = turnRaster(picture, slot.orientation);
    const mean = (fromY: number, toY: number) => {
      let sum = 0;
      for (let y = fromY; y < toY; y++)
        for (let x = 300; x < 1400; x++) sum += upright.data[y * upright.width + x];
      return sum / ((toY - fromY) * 1100);
    };
    expect(mean(450, 550)).toBeGreaterThan(1.4 * mean(648, 655));
    expect(mean(750, 850)).toBeGreaterThan(1.4 * mean(648, 655));
  });
  it('is noisier with less exposure', () => {
    const spread = (exposure: number) => {
      const { data } = bitewing(slot, 5, exposure);
      let sum = 0;
      for (let i = 1; i < 200_000; i++) sum += (data[i] - data[i - 1]) ** 2;
      return Math.sqrt(sum / 200_000);
    };
    expect(spread(0.25)).toBeGreaterThan(1.6 * spread(1));
  });
});
