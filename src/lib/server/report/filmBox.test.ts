import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { fittedBox, trueBox } from '../../core/print/film';
import { unlettered } from '../takenOut/lettering';
import { byColour, filmBox, filmFineness } from './filmBox';

/** A picture that is one colour all over. */
const flat = (r: number, g: number, b: number, width = 60, height = 80) =>
  sharp({ create: { width, height, channels: 3, background: { r, g, b } } })
    .png()
    .toBuffer();
const cell = { width: 193.2, height: 244 };

describe('a picture of a film with its words', () => {
  it('has so many dots as it has tenths of a millimetre, in the middle, with dark and words around it', async () => {
    const at = trueBox({ width: 31.2, height: 41.6 }, cell, 3);
    expect(at.box).toEqual({ width: 90, height: 41.6 + 3 * 3.6 });
    const { width, height, channels, samples } = await filmBox(await flat(90, 90, 90), {
      at,
      lines: ['O. W. · 46 years', 'Harbour clinic'],
      ruler: true,
      colour: false
    });
    expect([width, height, channels, samples.length]).toEqual([900, 524, 1, 900 * 524]);
    const row = (y: number) => samples.subarray(y * width, (y + 1) * width);
    for (const y of [2, 200, 413]) {
      const seen = [...row(y)].flatMap((value, x) => (value > 45 ? [x] : []));
      expect([seen[0], seen.at(-1)! + 1, seen.length]).toEqual([294, 606, 312]);
    }
    // Words in the lines under it: bright dots, and none beside the picture.
    const bright = (from: number, to: number) =>
      samples.subarray(from * width, to * width).filter((v) => v > 200).length;
    expect(bright(0, 416)).toBe(0);
    expect(bright(416, 452)).toBeGreaterThan(300);
    expect(bright(452, 488)).toBeGreaterThan(300);
    const ruler = Math.max(
      ...Array.from({ length: 36 }, (_, i) => row(488 + i).filter((v) => v > 128).length)
    );
    expect(ruler).toBeGreaterThanOrEqual(500);
    expect(ruler).toBeLessThan(520 + 200);
  });

  it('fills its room in rows, and is made as fine as it comes out', () => {
    const at = fittedBox({ width: 4000, height: 3000 }, { width: 100, height: 200 }, 3);
    expect(at).toEqual({ box: { width: 100, height: 200 }, picture: { width: 100, height: 75 } });
    expect(filmFineness(at).longestPx).toBe(1000);
    // In a low cell words leave half of it to the picture.
    expect(fittedBox({ width: 10, height: 10 }, { width: 100, height: 12 }, 4).picture.height).toBeCloseTo(
      6,
      9
    );
  });

  it('says how large a film it wants where it does not fit', () => {
    expect(() => trueBox({ width: 300, height: 100 }, cell, 3)).toThrow(/^310 × 121 mm$/);
    expect(() => trueBox({ width: 100, height: 240 }, cell, 3)).toThrow(RangeError);
    expect(() => trueBox({ width: 193.2, height: 233.2 }, cell, 3)).not.toThrow();
  });

  it('keeps its colours one after the other where the printer has colour, and is grey where not', async () => {
    const at = fittedBox({ width: 60, height: 80 }, { width: 6, height: 8 }, 0);
    const made = (colour: boolean) =>
      flat(200, 40, 10).then((png) => filmBox(png, { at, lines: [], ruler: false, colour }));
    const planes = byColour(await made(true));
    const dots = planes.length / 3;
    expect([0, 1, 2].map((c) => planes[c * dots + Math.floor(dots / 2)])).toEqual([200, 40, 10]);
    const grey = byColour(await made(false));
    expect(grey).toHaveLength(dots);
    expect(grey[Math.floor(dots / 2)]).toBeGreaterThan(40);
    expect(grey[Math.floor(dots / 2)]).toBeLessThan(110);
  });

  it('writes a line that is too long smaller, cuts one that is longer still, and marks letters it has not', async () => {
    const at = fittedBox({ width: 10, height: 10 }, { width: 40, height: 30 }, 1);
    const inkOf = async (line: string) => {
      const { samples, width, height } = await filmBox(await flat(0, 0, 0), {
        at,
        lines: [line],
        ruler: false,
        colour: false
      });
      const columns = Array.from({ length: width }, (_, x) =>
        Array.from({ length: height }, (_, y) => samples[y * width + x]).some((v) => v > 128)
      );
      return { first: columns.indexOf(true), last: columns.lastIndexOf(true) };
    };
    for (const words of ['Short', 'A line of words that has no room', 'W'.repeat(200)]) {
      const { first, last } = await inkOf(words);
      expect(first).toBeGreaterThanOrEqual(8);
      expect(last).toBeLessThan(392);
    }
    expect(await inkOf('日本')).toEqual(await inkOf('??'));
    // A name in Greek or Cyrillic letters is no row of question marks.
    for (const name of ['Ελένη', 'Ольга']) expect(await inkOf(name)).not.toEqual(await inkOf('?????'));
    expect(unlettered('Ελένη Ольга Zoë Nguyễn 6⏌ 日')).toEqual(['日']);
  });
});
