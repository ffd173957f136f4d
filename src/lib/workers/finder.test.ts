import { afterEach, describe, expect, it, vi } from 'vitest';
import { posture } from '../core/measurement/guides/posture';
import { figurePhotograph } from '../core/phantom/photo/figure';
import type { PictureShape } from '../core/picture/pictureView';
import { type Orientation, toImage } from '../core/raster/orientation';
import { inverse, turnRaster } from '../core/raster/turnRaster';
import { Finder } from './finder';

const still = { leftMm: 0, frontMm: 0, rollDeg: 2, pitchDeg: 0 };
const figure = figurePhotograph({ seed: 6, head: still, chest: still, pelvis: still }, 'front', 1);
const ways: Orientation[] = [
  { quarterTurns: 0, mirrored: false },
  { quarterTurns: 1, mirrored: false },
  { quarterTurns: 3, mirrored: true }
];

afterEach(() => vi.unstubAllGlobals());

describe.each(ways)(
  'a photograph that stands upright once it is turned ($quarterTurns, $mirrored)',
  (seen) => {
    const stored = turnRaster(figure.raster, inverse(seen));
    const { width, height } = stored;
    const shape = { ...stored, pictureId: 'p', frames: 1, signed: false } as unknown as PictureShape;
    const answering = () =>
      vi.stubGlobal('fetch', async () => new Response(new Uint8Array(stored.data as Uint8Array)));
    const at = (name: string) => toImage(figure.known[name].imagePoint, { width, height }, seen);

    it('has its landmarks and its plumb line proposed where they lie as it was stored', async () => {
      answering();
      const finder = new Finder();
      const found = await finder.landmarks({ shape, orientation: seen }, posture.views[0]);
      const line = await finder.plumb({ shape, orientation: seen });
      for (const name of ['head right', 'chest left', 'pelvis right', 'plumb upper'])
        expect(Math.hypot(found[name].x - at(name).x, found[name].y - at(name).y), name).toBeLessThan(1.5);
      const [upper] = line!.ends;
      expect(Math.hypot(upper.x - at('plumb upper').x, upper.y - at('plumb upper').y)).toBeLessThan(1.5);
    });
  }
);

it('what can’t be fetched is said in words', async () => {
  vi.stubGlobal('fetch', async () => new Response('{"sentence":"It is gone."}', { status: 404 }));
  const { width, height } = figure.raster;
  const shape = { pictureId: 'p', width, height, channels: 3, bitsStored: 8 } as unknown as PictureShape;
  const standing = { shape, orientation: ways[0] };
  await expect(new Finder().landmarks(standing, posture.views[0])).rejects.toThrow('It is gone.');
});
