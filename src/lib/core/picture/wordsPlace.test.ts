import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import type { Point } from '../raster/orientation';
import { wordsPlace, wordsPlaces } from './wordsPlace';

const stage = { width: 800, height: 600 };
const words = '28.7 ± 1.1 mm';
const width = words.length * 9.5;
const middleOf = ([a, b]: [Point, Point]): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });

/** Whether any of a thousand points of a line lies in the box of the words. */
const covers = ({ x, y }: Point, [from, to]: [Point, Point]) =>
  Array.from({ length: 1000 }, (_, i) => i / 999).some((share) => {
    const [px, py] = [from.x + (to.x - from.x) * share, from.y + (to.y - from.y) * share];
    return px > x && px < x + width && py > y - 18 && py < y;
  });

describe('words beside a drawing', () => {
  it('stand right above where nothing is in the way', () => {
    const line: [Point, Point] = [
      { x: 300, y: 300 },
      { x: 500, y: 340 }
    ];
    expect(wordsPlace({ x: 400, y: 320 }, words, [line], stage)).toEqual({ x: 412, y: 310 });
  });
  it('never stand on their own line, wherever it runs in the middle of the stage', () => {
    const random = seededRandom(9);
    for (let i = 0; i < 500; i++) {
      const point = () => ({ x: 220 + random.uniform() * 360, y: 150 + random.uniform() * 300 });
      const line: [Point, Point] = [point(), point()];
      const place = wordsPlace(middleOf(line), words, [line], stage);
      expect(covers(place, line), JSON.stringify(line)).toBe(false);
    }
  });
  it('stay on the stage in every corner', () => {
    for (const at of [
      { x: 0, y: 0 },
      { x: 800, y: 0 },
      { x: 0, y: 600 },
      { x: 800, y: 600 },
      { x: -500, y: 9000 }
    ]) {
      const { x, y } = wordsPlace(at, words, [], stage);
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x + width).toBeLessThanOrEqual(800);
      expect(y - 18).toBeGreaterThanOrEqual(0);
      expect(y).toBeLessThanOrEqual(600);
    }
  });
  it('of many drawings never stand on one another, however near these are', () => {
    const random = seededRandom(4);
    for (let i = 0; i < 60; i++) {
      const drawings = Array.from({ length: 9 }, () => ({
        at: { x: 350 + random.uniform() * 60, y: 250 + random.uniform() * 60 },
        words,
        lines: []
      }));
      const places = wordsPlaces(drawings, stage);
      for (const [k, a] of places.entries())
        for (const b of places.slice(k + 1))
          expect(Math.abs(a.x - b.x) >= width || Math.abs(a.y - b.y) >= 18, `${i}`).toBe(true);
    }
  });
  it('between many lines stand somewhere all the same', () => {
    const lines = Array.from({ length: 60 }, (_, i): [Point, Point] => [
      { x: 0, y: i * 10 },
      { x: 800, y: i * 10 }
    ]);
    expect(wordsPlace({ x: 400, y: 300 }, words, lines, stage)).toEqual({ x: 412, y: 290 });
  });
});
