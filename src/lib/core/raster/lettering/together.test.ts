import { describe, expect, it } from 'vitest';
import { type FoundLine, togetherOdds } from './together';

/** Ten letters of 20 px that might be writing and might be texture. */
const line = (more: Partial<FoundLine> = {}): FoundLine => ({
  left: 100,
  top: 100,
  width: 200,
  height: 20,
  reads: 'along',
  shade: 0,
  letterPx: 20,
  marks: 10,
  features: [0.8, 0.15, 0.35, 0.7, 0.4, 0, 0, 0.1, 0.3, 0.7, 0, 0.95, 0.45, 0.6, 0.25],
  odds: 1,
  ...more
});
const oddsOf = (...lines: FoundLine[]) => togetherOdds(lines)[0];

describe('what stands around a line', () => {
  it('makes it writing: the letters’ insides in the other shade, the same in another size, the rows beside it', () => {
    const clear = (more: Partial<FoundLine> = {}) => line({ odds: 4, ...more });
    const insides = clear({ shade: 1, left: 102, width: 194 });
    const smaller = clear({ left: 104, width: 194, letterPx: 16 });
    const next = clear({ top: 126 });
    expect(oddsOf(clear())).toBeLessThan(-1);
    expect(oddsOf(clear(), insides, smaller, next)).toBeGreaterThan(0);
  });

  it('counts the same whichever way the lines read', () => {
    const turned = ({ left, top, width, height, ...rest }: FoundLine): FoundLine => ({
      ...rest,
      left: top,
      top: left,
      width: height,
      height: width,
      reads: rest.reads === 'along' ? 'up or down' : 'along'
    });
    const lines = [
      line(),
      line({ shade: 1, left: 110, width: 190 }),
      line({ left: 320, width: 100, odds: -1 }),
      line({ reads: 'up or down', odds: 2 }),
      line({ left: 700, width: 60, odds: 0.5 })
    ];
    expect(togetherOdds(lines.map(turned))).toEqual(togetherOdds(lines));
  });

  it('is not asked of what lies far off, of another height or across it', () => {
    const alone = oddsOf(line());
    expect(oddsOf(line(), line({ left: 900, odds: -2 }))).toBe(alone);
    expect(oddsOf(line(), line({ top: 126, height: 54, letterPx: 54, odds: -2 }))).toBe(alone);
  });
});
