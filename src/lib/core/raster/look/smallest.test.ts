import { describe, expect, it } from 'vitest';
import type { Raster } from '../raster';
import { preparedForLevel, throughLook } from './levels';
import type { Look } from './look';
import { type Adding, starter } from './starters';

const kinds: Adding[] = ['local contrast', 'unsharp', 'smooth', 'median', 'keep edges', 'gamma', 'equalise'];
const shape = { channels: 1 as const, bitsStored: 8, offset: 0 };
const pictures: Raster[] = [
  { ...shape, width: 1, height: 1, data: Uint8Array.of(77) },
  { ...shape, width: 3, height: 1, data: Uint8Array.of(1, 200, 9) },
  { ...shape, width: 20, height: 30, data: new Uint8Array(600).fill(130) }
];

describe.each(kinds)('%s of the smallest pictures and of one grey', (kind) => {
  it('gives greys of the same size, before the window and behind it', () => {
    const window = { kind: 'window', center: 128, width: 256, by: 'linear' } as const;
    for (const picture of pictures)
      for (const look of [{ steps: [window, starter(kind)] }, { steps: [starter(kind), window] }] as Look[]) {
        const seen = throughLook(preparedForLevel(look, picture, 1));
        expect([seen.width, seen.height, seen.data.length]).toEqual([
          picture.width,
          picture.height,
          picture.width * picture.height
        ]);
      }
  });
});
