import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { PictureShape } from '../core/picture/pictureView';
import { Painter } from './painter';

/** Fits at half its size, so that the level that is fetched first is its level 1. */
const shape: PictureShape = {
  pictureId: 'p',
  width: 1024,
  height: 768,
  channels: 1,
  bitsStored: 8,
  offset: 0,
  frames: 1
};
const fits = 0.5;
const canvas = { getContext: () => ({}) } as unknown as OffscreenCanvas;

/** What the server was asked for; each answer comes when it is told to. */
let asked: { url: string; signal: AbortSignal; answer: (response: Response) => void }[] = [];
const level = (number: number) => new Response(new Uint8Array((1024 * 768) >> (2 * number)));
const levelsAsked = () => asked.map(({ url }) => /levels\/(\d)/.exec(url)![1]);
const soon = () => new Promise((done) => setTimeout(done));

beforeEach(() => {
  asked = [];
  vi.stubGlobal(
    'fetch',
    vi.fn(
      (url: string, { signal }: { signal: AbortSignal }) =>
        new Promise<Response>((answer, fail) => {
          asked.push({ url, signal, answer });
          signal.addEventListener('abort', () => fail(new DOMException('not wanted', 'AbortError')));
        })
    )
  );
});
afterEach(() => vi.unstubAllGlobals());

function painterWithViewport(): Painter {
  const painter = new Painter();
  painter.attach('v', canvas);
  return painter;
}

describe('what a stage is opened with', () => {
  it('is fetched once when it was being fetched ahead', async () => {
    const painter = painterWithViewport();
    const arrived = vi.fn();
    void painter.ahead(shape, fits);
    void painter.ahead(shape, fits);
    const opened = painter.open('v', shape, 0, fits, arrived);
    await soon();
    expect(levelsAsked()).toEqual(['1']);
    expect(arrived).not.toHaveBeenCalled();
    asked[0].answer(level(1));
    await soon();
    expect(arrived).toHaveBeenCalledTimes(1);
    expect(levelsAsked()).toEqual(['1', '0']);
    asked[1].answer(level(0));
    await opened;
    expect(arrived).toHaveBeenCalledTimes(2);
  });

  it('is fetched again when nothing came of fetching it ahead', async () => {
    const painter = painterWithViewport();
    const arrived = vi.fn();
    void painter.ahead(shape, fits);
    void painter.open('v', shape, 0, fits, arrived, false);
    asked[0].answer(new Response('{"sentence":"Not now."}', { status: 503 }));
    await soon();
    expect(levelsAsked()).toEqual(['1', '1']);
    asked[1].answer(level(1));
    await soon();
    expect(arrived).toHaveBeenCalledTimes(1);
  });

  it('is not shown where another picture is opened before it has come', async () => {
    const painter = painterWithViewport();
    const [first, second] = [vi.fn(), vi.fn()];
    void painter.ahead(shape, fits);
    void painter.open('v', shape, 0, fits, first);
    void painter.open('v', { ...shape, pictureId: 'q' }, 0, fits, second, false);
    await soon();
    asked[0].answer(level(1));
    asked[1].answer(level(1));
    await soon();
    expect(first).not.toHaveBeenCalled();
    expect(second).toHaveBeenCalledTimes(1);
    expect(asked.map(({ url }) => url.split('/')[3])).toEqual(['p', 'q']);
  });

  it('is told at once of what is held, and not fetched', async () => {
    const painter = painterWithViewport();
    const ahead = painter.ahead(shape, fits);
    asked[0].answer(level(1));
    await ahead;
    const arrived = vi.fn();
    await painter.open('v', shape, 0, fits, arrived, false);
    expect(arrived).toHaveBeenCalledTimes(1);
    expect(asked).toHaveLength(1);
  });
});
