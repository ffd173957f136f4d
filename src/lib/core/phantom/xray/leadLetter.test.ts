import { expect, it } from 'vitest';
import { patchOf } from '../../raster/patch';
import { leadLetterIn } from '../../raster/advice/leadLetters';
import { layLetter } from './leadLetter';

it.each(['R', 'L'] as const)(
  'a letter %s lies in the corner where least is in the way, and can be read',
  (letter) => {
    const size = { width: 600, height: 800 };
    // Something thick everywhere but at the top right.
    const map = Float32Array.from({ length: size.width * size.height }, (_, i) => {
      const [x, y] = [i % size.width, Math.floor(i / size.width)];
      return x > 400 && y < 250 ? 0.1 : 2;
    });
    const before = map.slice();
    layLetter(map, size, 0.2, letter, 5);
    const touched = [...map.keys()].filter((i) => map[i] !== before[i]);
    const xs = touched.map((i) => i % size.width);
    const ys = touched.map((i) => Math.floor(i / size.width));
    expect([Math.min(...xs) > 450, Math.max(...ys) < 200]).toEqual([true, true]);
    // Fourteen millimetres and the stroke's own width, leaning a little.
    expect((Math.max(...ys) - Math.min(...ys)) * 0.2).toBeCloseTo(17, -0.5);
    expect(leadLetterIn(patchOf(map, size))).toMatchObject({ letter, mirrored: false });
  }
);
