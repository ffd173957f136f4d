import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type Look, windowLook } from './look';
import { ownLookOf, ownLookSchema, withOwnLook } from './ownLook';
import { greyTable } from './table';

const first = windowLook({ center: 2048, width: 4096 });
const look: Look = {
  steps: [
    { kind: 'window', center: 1024, width: 1024, by: 'linear' },
    { kind: 'gamma', gamma: 1.3 },
    { kind: 'unsharp', sigmaPx: 3, amount: 0.6, threshold: 0 }
  ]
};

describe('a look of the clinic’s own', () => {
  it('gives its worked value', () => {
    expect(ownLookOf(look, first)).toEqual({ from: 0.125, to: 0.375, steps: look.steps.slice(1) });
    const wide = withOwnLook(ownLookOf(look, first)!, windowLook({ center: 32768, width: 65536 }));
    expect(wide.steps[0]).toEqual({ kind: 'window', center: 16384, width: 16384, by: 'linear' });
  });

  it('is the same again on the picture it was made of, and is stored as it is', () => {
    const random = seededRandom(8);
    for (let i = 0; i < 80; i++) {
      const own = windowLook(
        { center: 4000 * random.uniform(), width: 600 + 4000 * random.uniform() },
        i % 2 === 0
      );
      const made: Look = {
        steps: [
          {
            kind: 'window',
            center: 4000 * random.uniform(),
            width: 50 + 2000 * random.uniform(),
            by: 'linear'
          },
          { kind: 'gamma', gamma: 0.5 + random.uniform() },
          ...(i % 3 === 0 ? [{ kind: 'invert' } as const] : [])
        ]
      };
      const kept = ownLookOf(made, own)!;
      expect(ownLookSchema.parse(JSON.parse(JSON.stringify(kept)))).toEqual(kept);
      const [before, after] = [made, withOwnLook(kept, own)].map((each) => greyTable(each, 12, 0));
      for (let value = 0; value < 4096; value += 97)
        expect(Math.abs(before[value] - after[value])).toBeLessThanOrEqual(1);
    }
  });

  it('shows a picture stored the other way round as it shows the first', () => {
    const other = windowLook({ center: 2048, width: 4096 }, true);
    const kept = ownLookOf({ steps: look.steps.slice(0, 2) }, first)!;
    const plain = greyTable(withOwnLook(kept, first), 12, 0);
    const turned = greyTable(withOwnLook(kept, other), 12, 0);
    // What is value v in the one is 4095 - v in the other.
    for (let value = 0; value < 4096; value += 61)
      expect(Math.abs(plain[value] - turned[4095 - value])).toBeLessThanOrEqual(2);
  });

  it('leaves a picture’s own table in front, and does the rest behind it', () => {
    const table: Look = { steps: [{ kind: 'table', first: 0, entries: [0, 10, 40, 90], top: 90 }] };
    const kept = ownLookOf(look, first)!;
    expect(withOwnLook(kept, table).steps).toEqual([...table.steps, ...look.steps.slice(1)]);
  });

  it('is none where nothing tells its window', () => {
    expect(ownLookOf({ steps: [{ kind: 'equalise' }] }, first)).toBeNull();
    expect(ownLookOf(look, { steps: [] })).toBeNull();
    expect(ownLookSchema.safeParse({ from: 0, to: 1, steps: [{ kind: 'equalise' }] }).success).toBe(false);
    expect(ownLookSchema.safeParse({ from: 0, to: 1, steps: [{ kind: 'gamma', gamma: 'x' }] }).success).toBe(
      false
    );
  });
});
