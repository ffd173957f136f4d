import { expect, it } from 'vitest';
import { mouth } from './dentition';
import { panoramic } from './panoramic';

it('a panoramic view unrolls the arch: teeth in order from right to left, upper above lower, magnified alike', () => {
  const { raster, known, magnification } = panoramic(mouth({ seed: 4, missing: [18] }), 1);
  const x = (tooth: number) => known[`${tooth} tip`].imagePoint.x;
  const y = (tooth: number) => known[`${tooth} tip`].imagePoint.y;
  const upper = [17, 16, 15, 14, 13, 12, 11, 21, 22, 23, 24, 25, 26, 27, 28];
  for (const [i, tooth] of upper.entries())
    if (i > 0) expect(x(tooth), `${tooth}`).toBeGreaterThan(x(upper[i - 1]));
  expect(known['18 tip']).toBeUndefined();
  expect(known['16 apex 1'].imagePoint.y).toBeLessThan(y(16));
  expect(known['36 apex 1'].imagePoint.y).toBeGreaterThan(y(36));
  expect((x(11) + x(21)) / 2).toBeCloseTo(raster.width / 2, -1.5);
  for (const tooth of [16, 11, 26, 36, 46]) {
    const { magnification: there, inPicture } = known[`${tooth} neck mesial`];
    expect(inPicture).toBe(true);
    expect(Math.abs(there / magnification - 1)).toBeLessThan(0.03);
  }
});
