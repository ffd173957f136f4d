import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Veil, type Veils, noVeils } from '$core/picture/layers/veils/veils';
import type { PictureView } from '$core/picture/pictureView';
import { type Found, VeilDesk } from './veilDesk.svelte';

const picture = { pictureId: 'p', width: 400, height: 300, layers: {} } as unknown as PictureView;
const veil = (left: number, more: Partial<Veil> = {}): Veil => ({
  left,
  top: 0,
  width: 50,
  height: 20,
  ...more
});
const found = (left: number, more: Partial<Found> = {}): Found => ({
  left,
  top: 10,
  width: 60,
  height: 20,
  reads: 'along',
  sure: 0.9,
  says: 'WAVECREST',
  saysSure: 0.9,
  ...more
});

/** What was asked of the server, and how each was answered. */
let asked: Veils[] = [];
let answer: (veils: Veils) => Promise<Response>;
let seq = 0;
const kept = () => Promise.resolve(Response.json({ seq: ++seq }));
beforeEach(() => {
  [asked, seq, answer] = [[], 0, kept];
  vi.stubGlobal('fetch', (_url: string, { body }: { body: string }) => {
    const { veils } = JSON.parse(body) as { veils: Veils };
    asked.push(veils);
    return answer(veils);
  });
});
afterEach(() => void vi.unstubAllGlobals());

describe('veils that are laid', () => {
  it('are seen at once and kept one after the other, in the order in which they were laid', async () => {
    const desk = new VeilDesk(picture);
    const let_: (() => void)[] = [];
    answer = () => new Promise<Response>((done) => let_.push(() => void kept().then(done)));
    const first = desk.add(veil(0));
    const second = desk.add(veil(100));
    expect(desk.veils.veils.map(({ left }) => left)).toEqual([0, 100]);
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    let_[0]();
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    let_[1]();
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect(asked.map(({ veils }) => veils.length)).toEqual([1, 2]);
  });

  it('are taken back where they could not be kept', async () => {
    const desk = new VeilDesk(picture);
    answer = () =>
      Promise.resolve(Response.json({ code: 'x', sentence: 'No.', next: 'Later.' }, { status: 409 }));
    expect(await desk.add(veil(0))).toBe(false);
    expect(desk.veils).toEqual(noVeils);
  });

  it('make whoever looked look again, and stay within the picture', async () => {
    const desk = new VeilDesk(picture);
    await desk.sayLooked();
    expect(desk.veils.looked).toBe(true);
    await desk.add({ left: -20, top: 280, width: 500, height: 90 });
    expect(desk.veils.looked).toBe(false);
    expect(desk.veils.veils).toEqual([{ left: 0, top: 280, width: 400, height: 20 }]);
    await desk.replace(0, veil(390));
    expect(desk.veils.veils[0]).toMatchObject({ left: 390, width: 10 });
    await desk.drop(0);
    expect(desk.veils.veils).toEqual([]);
  });

  it('are not undone by news that was fetched before they were kept', async () => {
    const desk = new VeilDesk(picture);
    seq = 6;
    const laying = desk.add(veil(0));
    desk.hear(null, 99);
    expect(desk.veils.veils).toHaveLength(1);
    await laying;
    desk.hear(null, 6);
    expect(desk.veils.veils).toHaveLength(1);
    desk.hear({ veils: [veil(1), veil(2)], only: null, looked: true }, 8);
    expect(desk.veils.veils).toHaveLength(2);
  });
});

describe('writing that was found', () => {
  it('is open until it is covered, on all of its frames, or lies outside what alone is kept', async () => {
    const desk = new VeilDesk(picture);
    desk.found = [found(0), found(200, { frames: [0, 1] })];
    expect(desk.open).toHaveLength(2);
    await desk.addAll([desk.found[0]]);
    expect(desk.open.map(({ left }) => left)).toEqual([200]);
    await desk.add({ left: 190, top: 0, width: 100, height: 40, frames: [0] });
    expect(desk.open).toHaveLength(1);
    await desk.add({ left: 190, top: 0, width: 100, height: 40, frames: [0, 1, 2] });
    expect(desk.open).toEqual([]);
    const other = new VeilDesk(picture);
    other.found = [found(0)];
    await other.keepOnly({ left: 0, top: 100, width: 400, height: 200 });
    expect(other.open).toEqual([]);
  });

  it('is masked with a rim, since letters have soft edges', async () => {
    const desk = new VeilDesk(picture);
    await desk.addAll([found(100)]);
    expect(desk.veils.veils).toEqual([{ left: 97, top: 7, width: 66, height: 26 }]);
  });
});
