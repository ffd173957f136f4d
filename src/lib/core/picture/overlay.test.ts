import { describe, expect, it } from 'vitest';
import { overlaySvg } from './overlay';

/** Letters as squares, one a letter. */
const lettering = (words: string, sizePx: number) => ({
  path: `M0 0H${words.length * sizePx}`,
  width: words.length * sizePx
});
const wish = {
  size: { width: 1800, height: 900 },
  seen: ({ x, y }: { x: number; y: number }) => ({ x: 2 * x, y: 2 * y }),
  drawings: [
    {
      shapes: [{ kind: 'line' as const, from: { x: 100, y: 50 }, to: { x: 300, y: 50 } }],
      wordsAt: { x: 200, y: 50 },
      words: '10 mm'
    }
  ],
  bar: null,
  lettering
};

describe('what is drawn over a picture that leaves', () => {
  it('lies where it is seen, and grows with the picture', () => {
    const svg = overlaySvg(wish);
    // A picture of 1800 is drawn on as one of 900 and enlarged.
    expect(svg).toContain('width="1800" height="900" viewBox="0 0 900 450"');
    expect(svg).toContain('M100 50L300 50');
  });
  it('has a bar of its own length in the corner, and none where none is wanted', () => {
    const with200 = overlaySvg({ ...wish, drawings: [], bar: { lengthPx: 200, words: '5 mm' } });
    expect(with200).toContain('M784 427V437M784 432H884M884 427V437');
    expect(overlaySvg({ ...wish, drawings: [] })).not.toContain('<path');
  });
});
