import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../core/random';
import { ahead } from './ahead';

const numbers = Array.from({ length: 12 }, (_, i) => i);

describe('working ahead', () => {
  it('gives back in order, however long each takes, and never has more at once than it may', async () => {
    const random = seededRandom(3);
    let [now, most] = [0, 0];
    const out = [];
    for await (const each of ahead(numbers, 3, async (one) => {
      most = Math.max(most, ++now);
      await new Promise((done) => setTimeout(done, 12 * random.uniform()));
      now -= 1;
      return one * one;
    }))
      out.push(each);
    expect(out).toEqual(numbers.map((one) => one * one));
    expect(most).toBe(3);
  });

  it('begins no more once nobody takes, and what fails then is nobody’s news', async () => {
    const begun: number[] = [];
    const work = async (one: number) => {
      begun.push(one);
      if (one > 0) throw new Error('later');
      return one;
    };
    for await (const each of ahead(numbers, 2, work)) if (each === 0) break;
    await new Promise((done) => setTimeout(done, 5));
    expect(begun).toEqual([0, 1]);
  });

  it('fails where one fails, after those before it', async () => {
    const taken: number[] = [];
    const all = ahead(numbers, 4, async (one) => {
      if (one === 2) throw new Error('the third');
      return one;
    });
    await expect(
      (async () => {
        for await (const each of all) taken.push(each);
      })()
    ).rejects.toThrow('the third');
    expect(taken).toEqual([0, 1]);
  });
});
