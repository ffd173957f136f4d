import { describe, expect, it } from 'vitest';
import { type Progress, type LongWork, Stopped, finished, paced } from './longWork';

function* counting(to: number, begun?: () => void): LongWork<string> {
  begun?.();
  for (let done = 1; done <= to; done++) yield { done, of: to };
  return `counted to ${to}`;
}

describe('steps run at once', () => {
  it('give their result, and tell of each step', () => {
    const told: Progress[] = [];
    expect(finished(counting(3), (progress) => told.push(progress))).toBe('counted to 3');
    expect(told).toEqual([1, 2, 3].map((done) => ({ done, of: 3 })));
    expect(finished(counting(0))).toBe('counted to 0');
  });
  it('end where the telling throws', () => {
    let told = 0;
    const stop = ({ done }: Progress) => {
      told = done;
      if (done === 2) throw new Error('enough');
    };
    expect(() => finished(counting(5), stop)).toThrow('enough');
    expect(told).toBe(2);
  });
});

describe('steps with turns for others', () => {
  const turn = () => Promise.resolve();
  it('give their result after a turn for each', async () => {
    let turns = 0;
    const result = await paced(counting(4), { turn: async () => void turns++, wanted: () => true });
    expect(result).toBe('counted to 4');
    expect(turns).toBe(4);
  });
  it('two works take turns', async () => {
    const order: string[] = [];
    const work = (name: string) =>
      paced(counting(3), { turn, wanted: () => true, told: ({ done }) => order.push(`${name}${done}`) });
    await Promise.all([work('a'), work('b')]);
    expect(order).toEqual(['a1', 'b1', 'a2', 'b2', 'a3', 'b3']);
  });
  it('end once they are no longer wanted, and say so', async () => {
    let done = 0;
    const work = paced(counting(9), {
      turn,
      wanted: () => done < 3,
      told: (progress) => (done = progress.done)
    });
    await expect(work).rejects.toBeInstanceOf(Stopped);
    expect(done).toBe(3);
  });
  it('pass on what goes wrong in them', async () => {
    const broken = counting(2, () => {
      throw new RangeError('no takes');
    });
    await expect(paced(broken, { turn, wanted: () => true })).rejects.toThrow('no takes');
  });
});
