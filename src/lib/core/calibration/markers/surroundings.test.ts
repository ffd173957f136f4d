import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import { bar, disc, picture, side } from './drawn.test-data';
import { findRound } from './findRound';

const offered = (found: ReturnType<typeof findRound>) =>
  found.outcome === 'found' ? [found.best, ...found.others] : found.others;

describe('around a round thing', () => {
  it('a wide plate makes it a hole, wherever the plate lies and whatever is beside it', () => {
    for (let k = 0; k < 8; k++) {
      const random = seededRandom(300 + k);
      const middle = { x: side * (0.35 + 0.3 * random.uniform()), y: side / 2 };
      const angle = Math.PI * random.uniform();
      const radius = 6 + 4 * random.uniform();
      const wide = radius * (3.6 + random.uniform());
      const plate = picture(
        (at) => bar(at, middle, angle, 170, wide) * (1 - disc(at, middle, radius)),
        random
      );
      for (const marker of offered(findRound(plate, { kind: 'disc' })))
        if (!marker.bright) expect(marker.doubts, `plate ${k}`).toContain('may be a hole');
    }
  });

  it('a stalk makes it the head of a pin; without one it is a marker', () => {
    for (let k = 0; k < 6; k++) {
      const random = seededRandom(400 + k);
      const angle = 2 * Math.PI * random.uniform();
      const head = { x: side * 0.3, y: side * (0.4 + 0.2 * random.uniform()) };
      const radius = 5 + 3 * random.uniform();
      const thin = 0.5 + 0.4 * random.uniform();
      const shaft = { x: head.x + 32 * Math.cos(angle), y: head.y + 32 * Math.sin(angle) };
      const pin = (at: Point) =>
        Math.max(disc(at, head, radius), 0.8 * bar(at, shaft, angle, 64, thin * radius));
      const found = findRound(picture(pin, random), { kind: 'disc' });
      for (const { doubts } of offered(found)) expect(doubts, `pin ${k}`).not.toHaveLength(0);
      const alone = findRound(
        picture((at) => disc(at, head, radius), random),
        { kind: 'disc' }
      );
      expect(alone.outcome, `disc ${k}`).toBe('found');
      expect(offered(alone)[0].doubts, `disc ${k}`).toHaveLength(0);
    }
  });
});
