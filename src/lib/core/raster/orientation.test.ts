import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import {
  type Orientation,
  mirrored,
  orientedSize,
  straightened,
  storedDirections,
  tilted,
  toImage,
  toOriented,
  turnOf,
  turnWords,
  turned,
  upright
} from './orientation';

const all: Orientation[] = ([0, 1, 2, 3] as const).flatMap((quarterTurns) =>
  [false, true].map((m) => ({ quarterTurns, mirrored: m }))
);
const size = { width: 10, height: 4 };

describe('orientation', () => {
  it('is undone by its inverse, for all eight', () => {
    for (const orientation of all) {
      const there = toOriented({ x: 2.5, y: 1.25 }, size, orientation);
      expect(toImage(there, size, orientation)).toEqual({ x: 2.5, y: 1.25 });
    }
  });
  it('keeps the picture inside its oriented frame', () => {
    for (const orientation of all) {
      const frame = orientedSize(size, orientation);
      const corner = toOriented({ x: 10, y: 4 }, size, orientation);
      expect([0, frame.width]).toContain(corner.x);
      expect([0, frame.height]).toContain(corner.y);
    }
  });
  it('turns clockwise: the top left corner goes to the top right', () => {
    expect(toOriented({ x: 0, y: 0 }, size, turned(upright, 1))).toEqual({ x: 4, y: 0 });
  });
  it('mirrors what is seen, not what is stored', () => {
    for (const orientation of all) {
      const frame = orientedSize(size, orientation);
      const before = toOriented({ x: 3, y: 1 }, size, orientation);
      const after = toOriented({ x: 3, y: 1 }, size, mirrored(orientation));
      expect(after).toEqual({ x: frame.width - before.x, y: before.y });
    }
  });
  it('comes back after four turns and after two mirrors', () => {
    for (const orientation of all) {
      expect(turned(orientation, 4)).toEqual(orientation);
      expect(mirrored(mirrored(orientation))).toEqual(orientation);
    }
  });
});

describe('a tilt', () => {
  const random = seededRandom(31);
  const tilts = all.flatMap((orientation) =>
    [-45, -7.3, 0.1, 12.8, 45].map((tiltDeg) => ({ ...orientation, tiltDeg }))
  );
  it('leads back to the same point, also of pixels that are not square, and keeps distances', () => {
    for (const orientation of tilts)
      for (const pixelAspect of [1, 1.5]) {
        const pixels = { width: 90, height: 40, pixelAspect };
        const [a, b] = [0, 1].map(() => ({ x: 90 * random.uniform(), y: 40 * random.uniform() }));
        const [u, v] = [a, b].map((point) => toOriented(point, pixels, orientation));
        const back = toImage(u, pixels, orientation);
        expect([back.x, back.y]).toEqual([expect.closeTo(a.x, 9), expect.closeTo(a.y, 9)]);
        expect(Math.hypot(u.x - v.x, u.y - v.y)).toBeCloseTo(
          Math.hypot(a.x - b.x, (a.y - b.y) * pixelAspect),
          9
        );
        const frame = orientedSize(pixels, orientation);
        for (const x of [0, 90])
          for (const y of [0, 40]) {
            const corner = toOriented({ x, y }, pixels, orientation);
            expect(Math.min(corner.x, corner.y)).toBeGreaterThan(-1e-9);
            expect(Math.max(corner.x - frame.width, corner.y - frame.height)).toBeLessThan(1e-9);
          }
      }
  });
  it('goes on clockwise, over whole quarters, and the other way once it is mirrored', () => {
    const right = { ...upright, tiltDeg: 30 };
    expect(tilted(upright, 30)).toEqual(right);
    expect(tilted(right, 40)).toEqual({ quarterTurns: 1, mirrored: false, tiltDeg: -20 });
    expect(tilted(right, -30)).toEqual(upright);
    expect(tilted(upright, -225)).toEqual({ quarterTurns: 2, mirrored: false, tiltDeg: -45 });
    // What was at the right of the middle goes down.
    expect(toOriented({ x: 10, y: 2 }, size, right).y).toBeGreaterThan(orientedSize(size, right).height / 2);
    for (const orientation of tilts) {
      const frame = orientedSize(size, orientation);
      const before = toOriented({ x: 3, y: 1 }, size, orientation);
      const after = toOriented({ x: 3, y: 1 }, size, mirrored(orientation));
      expect(after.x).toBeCloseTo(frame.width - before.x, 9);
      expect(after.y).toBeCloseTo(before.y, 9);
      expect(turnOf(turnWords(orientation))).toEqual(orientation);
    }
    expect(['4', '1x', '0t46', '0t-', 't3'].map(turnOf)).toEqual([null, null, null, null, null]);
  });
  it('makes a line level or upright, whichever it is nearer to, however the picture is turned', () => {
    expect(straightened(upright, { x: 0, y: 0 }, { x: 10, y: 1 }, size)).toEqual({
      ...upright,
      tiltDeg: -5.7
    });
    for (const orientation of tilts) {
      const [a, b] = [0, 1].map(() => ({ x: 10 * random.uniform(), y: 4 * random.uniform() }));
      const after = straightened(orientation, a, b, size);
      const [u, v] = [a, b].map((point) => toOriented(point, size, after));
      const [dx, dy] = [Math.abs(u.x - v.x), Math.abs(u.y - v.y)];
      // To a tenth of a degree.
      expect(Math.min(dx, dy) / Math.max(dx, dy)).toBeLessThan(Math.tan((0.0501 * Math.PI) / 180));
    }
  });
});

describe('pixels that are taller than wide', () => {
  const tall = { ...size, pixelAspect: 1.5 };
  it('are seen in their shape, turned too, and lead back to the same point', () => {
    for (const orientation of all) {
      const frame = orientedSize(tall, orientation);
      expect([frame.width, frame.height].sort((a, b) => a - b)).toEqual([6, 10]);
      const there = toOriented({ x: 2.5, y: 1.25 }, tall, orientation);
      const back = toImage(there, tall, orientation);
      expect([back.x, back.y]).toEqual([2.5, 1.25]);
      const far = toOriented({ x: 10, y: 4 }, tall, orientation);
      expect([0, frame.width]).toContain(far.x);
      expect([0, frame.height]).toContain(far.y);
    }
  });
});

describe('storedDirections', () => {
  it('leaves the directions of an upright picture', () => {
    expect(storedDirections(['A', 'F'], upright)).toEqual(['A', 'F']);
  });
  it('reverses the row of a mirrored one', () => {
    expect(storedDirections(['A', 'F'], { quarterTurns: 0, mirrored: true })).toEqual(['P', 'F']);
  });
  it('swaps them when turned: stored rows run down the screen, stored columns to the left', () => {
    expect(storedDirections(['A', 'F'], { quarterTurns: 1, mirrored: false })).toEqual(['F', 'P']);
  });
  it('always gives one of each axis', () => {
    for (const orientation of all) {
      const [row, column] = storedDirections(['L', 'F'], orientation);
      expect('LR'.includes(row)).not.toBe('LR'.includes(column));
    }
  });
});
