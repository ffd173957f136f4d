import { describe, expect, it } from 'vitest';
import type { TrayEvent } from './events/all';
import { retakenTakes } from './retaken';
import { fourBitewings } from './shipped/fourBitewings';
import { shippedBook } from './shipped/shipped';

const [a, b] = fourBitewings.route.order;
const lay: TrayEvent = {
  kind: 'tray-laid',
  pattern: fourBitewings.pattern.ref,
  route: fourBitewings.route.ref
};
const take = (takeId: string, slotId: string | null, exposed = true): TrayEvent => ({
  kind: 'take-added',
  takeId,
  slotId,
  exposed
});
const retaken = (...events: TrayEvent[]) => [
  ...retakenTakes(
    [lay, ...events].map((event, i) => ({ seq: i + 1, event })),
    shippedBook
  )
];

describe('a take that was taken again', () => {
  it('is the one whose place another exposure took, every time', () => {
    const again: TrayEvent = { kind: 'retake-asked', slotId: a };
    expect(retaken(take('1', a), again, take('2', a), again, take('3', a), take('4', b))).toEqual(['1', '2']);
  });
  it('is none that was followed on purpose in an anchored slot, and none that a file was put beside', () => {
    expect(retaken({ kind: 'anchored', slotId: a }, take('1', a), take('2', a), take('3', a))).toEqual([]);
    expect(retaken(take('1', a), take('file', a, false), take('bench', null))).toEqual([]);
  });
  it('stays one though the keeper is chosen back, and is none any more once its slot was taken back', () => {
    const back: TrayEvent = { kind: 'keeper-chosen', slotId: a, takeId: '1' };
    expect(retaken(take('1', a), take('2', a), back)).toEqual(['1']);
    expect(retaken(take('1', a), take('2', a), { kind: 'taken-back', seqs: [3] })).toEqual([]);
  });
});
