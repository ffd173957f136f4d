import { afterEach, describe, expect, it, vi } from 'vitest';
import { EdgeGuide } from './edgeGuide';

/** A bright disc of radius 60 about (100, 100), as the server would send it. */
const shape = {
  pictureId: 'p',
  width: 200,
  height: 200,
  channels: 1 as const,
  bitsStored: 8,
  offset: 0,
  frames: 1
};
const disc = Uint8Array.from({ length: 40_000 }, (_, i) =>
  Math.hypot((i % 200) + 0.5 - 100, Math.floor(i / 200) + 0.5 - 100) < 60 ? 200 : 40
);
const answers = (answer: () => Response) =>
  vi.stubGlobal(
    'fetch',
    vi.fn(() => Promise.resolve(answer()))
  );
const onRim = (deg: number) => ({
  x: 100 + 60 * Math.cos((deg * Math.PI) / 180),
  y: 100 + 60 * Math.sin((deg * Math.PI) / 180)
});
afterEach(() => vi.unstubAllGlobals());

describe('an edge that is followed', () => {
  it('goes round a disc, nearly at once and exactly, from samples that are fetched once', async () => {
    answers(() => new Response(disc));
    const guide = new EdgeGuide();
    for (const [exact, most] of [
      [false, 4],
      [true, 1.2]
    ] as const) {
      const way = await guide.way(shape, 0, onRim(0), onRim(100), exact);
      expect(way.length).toBeGreaterThan(3);
      for (const { x, y } of way)
        expect(Math.abs(Math.hypot(x - 100, y - 100) - 60), `${exact}`).toBeLessThan(most);
    }
    expect(fetch).toHaveBeenCalledTimes(1);
  });
  it('of a picture that can’t be fetched says why', async () => {
    answers(() => new Response(JSON.stringify({ sentence: 'It is gone.' }), { status: 404 }));
    await expect(new EdgeGuide().way(shape, 0, onRim(0), onRim(90), true)).rejects.toThrow('It is gone.');
  });
});
