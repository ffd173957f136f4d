import { beforeAll, describe, expect, it } from 'vitest';
import { goesAlone, goingFirst, inTurn } from './turns';

/** Something that goes on until it is told to end. */
function lasting() {
  let end!: () => void;
  const done = new Promise<void>((resolve) => (end = resolve));
  return { done, end };
}
const soon = () => new Promise((done) => setTimeout(done, 5));

/** Exposures of other tests may have gone first a moment ago. */
beforeAll(() => inTurn(async () => {}));

describe('turns', () => {
  it('begin a few at a time, in the order they came, and all come to theirs', async () => {
    const works = Array.from({ length: 7 }, lasting);
    const begun: number[] = [];
    const all = works.map(({ done }, i) =>
      inTurn(() => {
        begun.push(i);
        return done;
      })
    );
    await soon();
    expect(begun).toEqual([0, 1, 2]);
    works[1].end();
    await soon();
    expect(begun).toEqual([0, 1, 2, 3]);
    for (const { end } of works) end();
    await Promise.all(all);
    expect(begun).toEqual([0, 1, 2, 3, 4, 5, 6]);
  });
  it('wait while something goes first, and one that fails keeps nobody waiting', async () => {
    const exposure = lasting();
    const first = goingFirst(() => exposure.done);
    let begun = 0;
    const refused = inTurn(async () => {
      begun += 1;
      throw new Error('no');
    });
    const after = inTurn(async () => ++begun);
    refused.catch(() => {});
    await soon();
    expect(begun).toBe(0);
    exposure.end();
    await first;
    await soon();
    expect(begun, 'the page that waits for the exposure draws it first').toBe(0);
    await expect(refused).rejects.toThrow('no');
    expect(await after).toBe(2);
    expect(await inTurn(async () => 'again')).toBe('again');
  });
  it('tell one that goes first whether anything goes beside it', async () => {
    const [one, other, small] = [lasting(), lasting(), lasting()];
    await soon();
    const first = goingFirst(() => one.done);
    expect(goesAlone()).toBe(true);
    const second = goingFirst(() => other.done);
    expect(goesAlone()).toBe(false);
    one.end();
    other.end();
    await Promise.all([first, second]);
    const preview = inTurn(() => small.done);
    expect(goesAlone()).toBe(false);
    small.end();
    await preview;
    expect(goesAlone()).toBe(true);
  });
});
