import { describe, expect, it } from 'vitest';
import { detailWords, recordWords } from './recordWords';

describe('a line of a patient’s record', () => {
  it('says what was done after a name, and of which kind it is', () => {
    expect(recordWords('chart viewed')).toEqual(['saw', 'looked at the chart']);
    expect(recordWords('delivered')).toEqual(['sent', 'delivered']);
  });
  it('an act that a newer program wrote is told as it stands', () => {
    expect(recordWords('plan signed')).toEqual(['other', 'plan signed']);
  });
  it('tells details without what only computers know', () => {
    expect(
      detailWords({
        visit: '01a220b1-143e-76f2-a0ab-b9cc6d386e65',
        events: ['take-added', 'keeper-chosen'],
        pictures: 3,
        from: 'Skerry',
        dropped: true,
        reason: null
      })
    ).toBe('take added, keeper chosen; pictures 3; from Skerry; dropped');
  });
});
