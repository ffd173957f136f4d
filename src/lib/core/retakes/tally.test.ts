import { describe, expect, it } from 'vitest';
import { type CountedTake, retakeReason, tally } from './tally';

const take = (more: Partial<CountedTake> = {}): CountedTake => ({
  month: '2026-03',
  operator: 'Mara',
  device: 'Sensor 1',
  slot: 'Right molars',
  retaken: false,
  grade: null,
  advice: null,
  ...more
});
const moved = { kind: 'moved' as const, confidence: 0.8, description: 'blurred', deniedBy: null };

describe('why a take was taken again', () => {
  it('is what a person said before what the computer saw, and nothing where neither said anything', () => {
    const graded = { grade: 'limited' as const, reasons: ['overlap' as const, 'motion' as const] };
    expect(retakeReason({ grade: graded, advice: [moved] })).toBe('overlap');
    expect(retakeReason({ grade: { grade: 'limited', reasons: [] }, advice: [moved] })).toBe('motion');
    expect(retakeReason({ grade: null, advice: [{ ...moved, deniedBy: 'Orsin' }] })).toBe('not said');
  });
});

describe('the tally of retakes', () => {
  it('counts takes and retakes by month in order, with their reasons', () => {
    const rows = tally(
      [
        take({ month: '2027-01' }),
        take({ month: '2026-12' }),
        take({ retaken: true, advice: [moved] }),
        take({ retaken: true }),
        take()
      ],
      'month'
    );
    expect(rows).toEqual([
      { group: '2026-03', takes: 3, retakes: 2, reasons: { motion: 1, 'not said': 1 } },
      ...['04', '05', '06', '07', '08', '09', '10', '11'].map((month) => ({
        group: `2026-${month}`,
        takes: 0,
        retakes: 0,
        reasons: {}
      })),
      { group: '2026-12', takes: 1, retakes: 0, reasons: {} },
      { group: '2027-01', takes: 1, retakes: 0, reasons: {} }
    ]);
  });
  it('by anything else puts the most retakes first, and adds up to all of them', () => {
    const takes = ['A', 'B', 'B', 'C', 'C', 'C'].map((device, i) => take({ device, retaken: i % 2 === 1 }));
    const rows = tally(takes, 'device');
    expect(rows.map(({ group, retakes }) => [group, retakes])).toEqual([
      ['C', 2],
      ['B', 1],
      ['A', 0]
    ]);
    expect(rows.reduce((sum, row) => sum + row.takes, 0)).toBe(6);
  });
});
