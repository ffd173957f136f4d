import { describe, expect, it } from 'vitest';
import { type SeededRandom, seededRandom } from '../../random';
import {
  type Frame,
  type Vec3,
  add,
  dot,
  inTurn,
  inverted,
  lengthOf,
  movePoint,
  shifted,
  stretched,
  sub,
  times,
  turnedAbout,
  unit
} from '../space';
import { type Part, box, cutBy, ellipsoid, inset, limb, moved, planeAt, rod } from './part';
import { enclosing, raysFrom } from './rays';

/** Whether a point is in a part, by the part's definition and without the ray test's algebra. */
function holds(part: Part, back: Frame, point: Vec3): boolean {
  if (part.cut?.some((plane) => dot(plane.normal, point) > plane.offset)) return false;
  const localPoint = movePoint(back, point);
  if (part.kind === 'ellipsoid') return lengthOf(localPoint) <= 1;
  if (part.kind === 'box') return localPoint.every((each) => Math.abs(each) <= 1);
  const axis = sub(part.b, part.a);
  if (part.flat) {
    const h = dot(sub(localPoint, part.a), axis) / dot(axis, axis);
    if (h < 0 || h > 1) return false;
    const off = lengthOf(sub(sub(localPoint, part.a), times(axis, h)));
    return off <= part.ra + (part.rb - part.ra) * h;
  }
  // The hull of two balls is all balls whose centre and radius lie between theirs.
  const outside = (s: number) =>
    lengthOf(sub(localPoint, add(part.a, times(axis, s)))) - (part.ra + (part.rb - part.ra) * s);
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const [one, two] = [low + (high - low) / 3, high - (high - low) / 3];
    if (outside(one) < outside(two)) high = two;
    else low = one;
  }
  return outside((low + high) / 2) <= 0;
}

function integrated(part: Part, source: Vec3, way: Vec3): number {
  const { center, radius } = enclosing(part);
  const reach = lengthOf(sub(center, source)) + radius;
  const steps = 2500;
  const length = lengthOf(way);
  const step = reach / steps;
  const back = inverted(part.frame);
  let count = 0;
  for (let i = 0; i < steps; i++)
    if (holds(part, back, add(source, times(way, ((i + 0.5) * step) / length)))) count++;
  return count * step;
}

const between = (random: SeededRandom, low: number, high: number) => low + (high - low) * random.uniform();
const anyVector = (random: SeededRandom, size: number): Vec3 => [
  random.normal() * size,
  random.normal() * size,
  random.normal() * size
];
const anyTurn = (random: SeededRandom) =>
  inTurn(turnedAbout(unit(anyVector(random, 1)), 360 * random.uniform()), shifted(anyVector(random, 3)));

const kinds: Record<string, (random: SeededRandom) => Part> = {
  ellipsoid: (r) =>
    ellipsoid(anyVector(r, 2), [between(r, 1, 8), between(r, 1, 8), between(r, 1, 8)], anyTurn(r)),
  limb: (r) => limb(anyVector(r, 5), between(r, 0.5, 6), anyVector(r, 5), between(r, 0.5, 6)),
  'a limb through a stretched frame': (r) =>
    moved(
      limb(anyVector(r, 5), between(r, 1, 5), anyVector(r, 5), between(r, 1, 5), stretched(1, 0.5, 1.3)),
      anyTurn(r)
    ),
  rod: (r) =>
    moved(rod([0, 0, 0], between(r, 0, 6), [0, 0, between(r, 1, 12)], between(r, 0.1, 6)), anyTurn(r)),
  box: (r) => box(anyVector(r, 2), [between(r, 1, 6), between(r, 1, 6), between(r, 1, 6)], anyTurn(r)),
  'an ellipsoid cut twice': (r) =>
    moved(
      cutBy(
        ellipsoid([0, 0, 0], [6, 4, 5]),
        planeAt([0, 0, 1], [0.2, 0, 1]),
        planeAt([1, 0, 0], [1, 0.4, 0])
      ),
      anyTurn(r)
    )
};

describe('the way of a ray through', () => {
  for (const [name, make] of Object.entries(kinds)) {
    it(`${name} is what numeric integration gives`, () => {
      const random = seededRandom(name.length);
      let met = 0;
      for (let i = 0; i < 30; i++) {
        const part = make(random);
        const source: Vec3 = times(unit(anyVector(random, 1)), between(random, 15, 60));
        const { center, radius } = enclosing(part);
        const way = sub(add(center, anyVector(random, radius / 4)), source);
        const into = { from: 0, to: 0 };
        const test = raysFrom(source, part);
        const found = test(...way, into) ? (into.to - into.from) * lengthOf(way) : 0;
        const expected = integrated(part, source, way);
        if (expected > 0) met++;
        expect(Math.abs(found - expected), `case ${i}`).toBeLessThan(0.05);
      }
      expect(met).toBeGreaterThan(12);
    });
  }

  it('a ball seen from inside begins at the source', () => {
    const into = { from: 0, to: 0 };
    expect(raysFrom([0, 0, 0], ellipsoid([0, 0, 0], [2, 2, 2]))(1, 0, 0, into)).toBe(true);
    expect(into).toEqual({ from: 0, to: 2 });
  });
});

describe('inset', () => {
  it('leaves the shell’s thickness on every side', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 40; i++) {
      const outer = limb([0, 0, 0], between(random, 3, 6), [0, 0, 20], between(random, 3, 6));
      const inner = inset(outer, 1.5)!;
      const across = raysFrom([-50, 0, 10], outer);
      const within = raysFrom([-50, 0, 10], inner);
      const [a, b] = [
        { from: 0, to: 0 },
        { from: 0, to: 0 }
      ];
      expect(across(1, 0, 0, a) && within(1, 0, 0, b)).toBe(true);
      expect(Math.abs(b.from - a.from - 1.5)).toBeLessThan(0.06);
    }
  });
  it('gives nothing where nothing is left', () => {
    expect(inset(ellipsoid([0, 0, 0], [1, 5, 5]), 1.2)).toBeNull();
    expect(inset(limb([0, 0, 0], 1, [0, 0, 9], 1), 1)).toBeNull();
  });
});
