import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import type { Raster } from '../raster';
import { letteringCrop } from './letteringCrop';
import { MarkGrid } from './markGrid';
import type { Mark } from './strokes';

const size = { width: 200, height: 120 };
/** A ground that rises to the right, and a thin L upon it: a stem, and a foot to the right of it. */
function lettered(ink: number, channels: 1 | 3 = 1): Raster {
  const data = new Uint8Array(size.width * size.height * channels);
  const put = (x: number, y: number, value: number) => {
    // Of a colour picture only the brightest of its colours counts.
    for (let c = 0; c < channels; c++)
      data[(y * size.width + x) * channels + c] = c === 1 ? value : value * 0.4;
    if (channels === 1) data[y * size.width + x] = value;
  };
  for (let y = 0; y < size.height; y++) for (let x = 0; x < size.width; x++) put(x, y, 60 + x * 0.4);
  for (let y = 40; y < 64; y++) for (let x = 80; x < 83; x++) put(x, y, 60 + x * 0.4 + ink);
  for (let y = 61; y < 64; y++) for (let x = 80; x < 96; x++) put(x, y, 60 + x * 0.4 + ink);
  return { data, ...size, channels, bitsStored: 8, offset: 0 } as Raster;
}
const box = { left: 80, top: 40, width: 16, height: 24 };
const at = ({ data, width }: { data: Uint8Array; width: number }, x: number, y: number) =>
  data[y * width + x];

describe('a line of writing cut out for reading', () => {
  it.each([
    ['bright', 60, 1],
    ['dark', -60, 1],
    ['bright', 60, 3]
  ] as const)(
    'of %s letters (%i) in %i channels stands dark on an even, bright ground',
    (ink, by, channels) => {
      const crop = letteringCrop(lettered(by, channels), box, 0, ink);
      // A rim of 6 pixels all round: the stem begins there.
      expect([crop.width, crop.height]).toEqual([28, 36]);
      expect(at(crop, 7, 18)).toBeLessThan(40);
      expect(at(crop, 15, 28)).toBeLessThan(40);
      for (const [x, y] of [
        [1, 1],
        [26, 2],
        [2, 33],
        [26, 33],
        [16, 12]
      ])
        expect(at(crop, x, y)).toBeGreaterThan(235);
    }
  );

  it('is turned level, either way', () => {
    const level = letteringCrop(lettered(60), box, 0, 'bright');
    const [right, left] = ([1, 3] as const).map((turn) => letteringCrop(lettered(60), box, turn, 'bright'));
    // By a quarter turn the line's height is the box's width, so the rim is smaller: 4 pixels.
    expect([right.width, right.height, left.width, left.height]).toEqual([32, 24, 32, 24]);
    const dark = ({ data, width }: { data: Uint8Array; width: number }) =>
      [...data].flatMap((value, i) => (value < 60 ? [[i % width, Math.floor(i / width)]] : []));
    const spread = (of: number[][], axis: 0 | 1) =>
      Math.max(...of.map((p) => p[axis])) - Math.min(...of.map((p) => p[axis]));
    expect([spread(dark(level), 0), spread(dark(level), 1)]).toEqual([15, 23]);
    for (const turned of [right, left])
      expect([spread(dark(turned), 0), spread(dark(turned), 1)]).toEqual([23, 15]);
  });

  it('is made larger where it is small, never too large, and keeps inside the picture', () => {
    const edge = letteringCrop(lettered(60), { left: 0, top: 100, width: 40, height: 20 }, 0, 'bright');
    expect([edge.width, edge.height]).toEqual([45, 25]);
    expect(letteringCrop(lettered(60), box, 0, 'bright').scale).toBe(2);
    expect(letteringCrop(lettered(60), { ...box, height: 4 }, 0, 'bright').scale).toBe(6);
    expect(letteringCrop(lettered(60), { left: 0, top: 0, width: 200, height: 96 }, 0, 'bright').scale).toBe(
      0.5
    );
  });
});

describe('marks by where they lie', () => {
  it('are all found that touch a place, whatever their size, and few that lie far from it', () => {
    const { uniform: random } = seededRandom(7);
    for (let run = 0; run < 20; run++) {
      const marks = Array.from({ length: 200 }, () => {
        const [left, top] = [Math.floor(random() * 1500), Math.floor(random() * 900)];
        return {
          left,
          top,
          right: left + Math.floor(random() * 200),
          bottom: top + Math.floor(random() * 80)
        } as Mark;
      });
      const grid = new MarkGrid(marks);
      for (let i = 0; i < 20; i++) {
        const [left, top] = [random() * 1600 - 50, random() * 1000 - 50];
        const place = { left, top, right: left + random() * 120, bottom: top + random() * 120 };
        const near = new Set(grid.near(place));
        const touching = marks.filter(
          (each) =>
            each.left <= place.right &&
            each.right >= place.left &&
            each.top <= place.bottom &&
            each.bottom >= place.top
        );
        for (const each of touching) expect(near.has(each)).toBe(true);
        for (const each of near)
          expect(Math.max(each.left - place.right, place.left - each.right)).toBeLessThan(64);
      }
    }
  });

  it('are none where there are none', () => {
    expect([...new MarkGrid([]).near({ left: 0, top: 0, right: 500, bottom: 500 })]).toEqual([]);
  });
});
