import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { srgbProfile } from './srgbProfile';

it('the profile is read by a colour engine, which finds sRGB’s colours in it', async () => {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-profile-'));
  const file = path.join(folder, 'srgb.icc');
  fs.writeFileSync(file, srgbProfile());
  const colours = Uint8Array.from({ length: 3 * 729 }, (_, i) => {
    const step = [1, 9, 81][i % 3];
    return (Math.floor(Math.floor(i / 3) / step) % 9) * 31.875;
  });
  const raw = { width: 27, height: 27, channels: 3 as const };
  const tagged = await sharp(colours, { raw }).withIccProfile(file).png().toBuffer();
  fs.rmSync(folder, { recursive: true });
  expect(Buffer.from((await sharp(tagged).metadata()).icc!).equals(Buffer.from(srgbProfile()))).toBe(true);
  // From its own sRGB to ours nothing changes but by rounding.
  const after = await sharp(tagged, { ignoreIcc: true }).raw().toBuffer();
  expect(Math.max(...after.map((value, i) => Math.abs(value - colours[i])))).toBeLessThan(3);
});
