import { expect, it } from 'vitest';
import { anyBetween, seededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import { bar, disc, picture, side } from './drawn.test-data';
import { findRuler } from './findRuler';

const middle = { x: side / 2, y: side / 2 };

it('a ruler is told from the thread of a screw and from a chain, which are evenly spaced too', () => {
  for (let k = 0; k < 3; k++) {
    const random = seededRandom(700 + k);
    const angle = Math.PI * random.uniform();
    const spacing = anyBetween(random, 9, 13);
    const lines = 9;
    const place = (line: number, across: number): Point => {
      const along = (line - (lines - 1) / 2) * spacing;
      return {
        x: middle.x + along * Math.cos(angle) - across * Math.sin(angle),
        y: middle.y + along * Math.sin(angle) + across * Math.cos(angle)
      };
    };
    const each = (of: (line: number) => number) =>
      Math.max(...Array.from({ length: lines }, (_, line) => of(line)));
    const across = angle + Math.PI / 2;
    const ruler = (at: Point) =>
      each((line) => bar(at, place(line, 0), across, (line % 5 === 4 ? 1.8 : 1.2) * spacing, 0.2 * spacing));
    const screw = (at: Point) =>
      Math.max(
        bar(at, middle, angle, (lines + 1) * spacing, 0.9 * spacing),
        each((line) => bar(at, place(line, 0), across, 1.4 * spacing, 0.3 * spacing))
      );
    const chain = (at: Point) =>
      each((line) => {
        const link = place(line, 0.4 * spacing * Math.sin(1.3 * line));
        return disc(at, link, 0.6 * spacing) * (1 - disc(at, link, 0.42 * spacing));
      });
    const found = findRuler(picture(ruler, random, 0.1));
    if (found.outcome !== 'found') throw new Error(`ruler ${k}: ${found.outcome}`);
    expect(found.best.doubts, `ruler ${k}`).toHaveLength(0);
    expect(found.best.places, `ruler ${k}`).toBe(lines);
    expect(Math.abs(found.best.spacingPx - spacing), `ruler ${k}`).toBeLessThan(2 * found.best.uncertaintyPx);
    for (const [what, metal] of Object.entries({ screw, chain })) {
      const other = findRuler(picture(metal, random, 0.1));
      if (other.outcome === 'found') expect(other.best.doubts, `${what} ${k}`).not.toHaveLength(0);
    }
  }
});
