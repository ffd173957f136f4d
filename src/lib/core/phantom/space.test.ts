import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import {
  type Frame,
  type Vec3,
  composed,
  cross,
  dot,
  inTurn,
  inverted,
  lengthOf,
  movePoint,
  shifted,
  stretched,
  sub,
  turnVector,
  turnedAbout,
  unit
} from './space';

const random = seededRandom(6);
const any = (): Vec3 => [random.normal() * 5, random.normal() * 5, random.normal() * 5];
const anyFrame = (): Frame =>
  inTurn(
    stretched(0.5 + random.uniform(), 1, 2),
    turnedAbout(unit(any()), 360 * random.uniform(), any()),
    shifted(any())
  );

describe('frames', () => {
  it('undo what they did', () => {
    for (let i = 0; i < 50; i++) {
      const [frame, point] = [anyFrame(), any()];
      expect(lengthOf(sub(movePoint(inverted(frame), movePoint(frame, point)), point))).toBeLessThan(1e-9);
    }
  });
  it('composed do first the inner, then the outer', () => {
    for (let i = 0; i < 50; i++) {
      const [a, b, point] = [anyFrame(), anyFrame(), any()];
      const both = movePoint(composed(a, b), point);
      expect(lengthOf(sub(both, movePoint(a, movePoint(b, point))))).toBeLessThan(1e-9);
    }
  });
  it('refuse to go back from a map that flattens space', () => {
    expect(() => inverted(stretched(1, 0, 1))).toThrow(/flattens/);
  });
});

describe('a turn', () => {
  it('keeps lengths, its axis and the point it is about', () => {
    for (let i = 0; i < 50; i++) {
      const [axis, about, v] = [unit(any()), any(), any()];
      const turn = turnedAbout(axis, 360 * random.uniform(), about);
      expect(lengthOf(turnVector(turn, v))).toBeCloseTo(lengthOf(v), 9);
      expect(lengthOf(sub(turnVector(turn, axis), axis))).toBeLessThan(1e-9);
      expect(lengthOf(sub(movePoint(turn, about), about))).toBeLessThan(1e-9);
    }
  });
  it('goes counter-clockwise seen against its axis', () => {
    const [x, y] = turnVector(turnedAbout([0, 0, 1], 90), [1, 0, 0]);
    expect([x, y]).toEqual([expect.closeTo(0, 12), expect.closeTo(1, 12)]);
  });
  it('twice by a half is the whole', () => {
    const axis = unit(any());
    const v = any();
    const half = turnedAbout(axis, 37);
    expect(
      lengthOf(sub(turnVector(inTurn(half, half), v), turnVector(turnedAbout(axis, 74), v)))
    ).toBeLessThan(1e-9);
  });
});

it('a cross product is square to both and as long as they span', () => {
  for (let i = 0; i < 50; i++) {
    const [a, b] = [any(), any()];
    const c = cross(a, b);
    expect(Math.abs(dot(a, c)) + Math.abs(dot(b, c))).toBeLessThan(1e-9);
    expect(dot(c, c) + dot(a, b) ** 2).toBeCloseTo(dot(a, a) * dot(b, b), 6);
  }
  expect(() => unit([0, 0, 0])).toThrow(RangeError);
});
