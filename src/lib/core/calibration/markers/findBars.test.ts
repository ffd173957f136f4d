import { expect, it } from 'vitest';
import { anyBetween, seededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import { bar, disc, picture, side } from './drawn.test-data';
import { findBars } from './findBars';

const middle = { x: side / 2, y: side / 2 };
const away = (from: Point, angle: number, by: number): Point => ({
  x: from.x + by * Math.cos(angle),
  y: from.y + by * Math.sin(angle)
});

it('a bar is told from plates, letters and wires, which are long and straight too', () => {
  for (let k = 0; k < 3; k++) {
    const random = seededRandom(500 + k);
    const angle = Math.PI * random.uniform();
    const length = anyBetween(random, 90, 120);
    const wide = anyBetween(random, 9, 15);
    const plain = (at: Point) => bar(at, middle, angle, length, wide);
    const holes = [-0.25, 0.25].map((by) => away(middle, angle, by * length));
    const arm = away(away(middle, angle, (length - wide) / 2), angle + Math.PI / 2, 0.3 * length);
    const others: Record<string, (at: Point) => number> = {
      plate: (at) => holes.reduce((metal, hole) => metal * (1 - disc(at, hole, 0.38 * wide)), plain(at)),
      letter: (at) => Math.max(plain(at), bar(at, arm, angle + Math.PI / 2, 0.6 * length, wide)),
      wire: (at) => bar(at, middle, angle, length, 3.4)
    };
    const found = findBars(picture(plain, random, 0.1));
    if (found.outcome !== 'found') throw new Error(`bar ${k}: ${found.outcome}`);
    expect(found.best.doubts, `bar ${k}`).toHaveLength(0);
    expect(Math.abs(found.best.lengthPx - length), `bar ${k}`).toBeLessThan(2 * found.best.uncertaintyPx);
    for (const [what, metal] of Object.entries(others)) {
      const other = findBars(picture(metal, random, 0.1));
      if (other.outcome === 'found') expect(other.best.doubts, `${what} ${k}`).not.toHaveLength(0);
    }
  }
});
