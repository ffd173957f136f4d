import { describe, expect, it } from 'vitest';
import {
  type Orientation,
  mirrored,
  orientedSize,
  storedDirections,
  toImage,
  toOriented,
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
