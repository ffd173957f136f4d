import { describe, expect, it } from 'vitest';
import { type Tooth, permanentTeeth, toothKind } from '../../anatomy/teeth';
import { seededRandom } from '../../random';
import type { Part } from '../solid/part';
import { raysFrom } from '../solid/rays';
import type { Vec3 } from '../space';
import { placeOf, sizeOf } from './sizes';
import { alongCanal, shortened, toothShape } from './tooth';

/** From where to where a straight way along x, at depth y and height z, goes through parts; only those near an x if given. */
function across(
  parts: readonly Part[],
  y: number,
  z: number,
  near?: number
): { low: number; high: number } | null {
  let [low, high] = [Infinity, -Infinity];
  const into = { from: 0, to: 0 };
  for (const part of parts) {
    if (!raysFrom([-100, y, z], part)(1, 0, 0, into)) continue;
    const reach = 0.5;
    if (near !== undefined && (into.from - 100 > near + reach || into.to - 100 < near - reach)) continue;
    low = Math.min(low, into.from - 100);
    high = Math.max(high, into.to - 100);
  }
  return high > low ? { low, high } : null;
}

describe.each(permanentTeeth.map((tooth): [Tooth] => [tooth]))('tooth %i', (tooth) => {
  const shape = toothShape(tooth, seededRandom(tooth));

  it('is about as wide as its kind, and its enamel lies outside its dentine', () => {
    const z = shape.size.crown * 0.4;
    const outer = across(shape.crown, 0, z)!;
    const inner = across(shape.core, 0, z)!;
    const width = outer.high - outer.low;
    expect(width).toBeGreaterThan(0.7 * sizeOf(tooth).width);
    expect(width).toBeLessThan(1.12 * sizeOf(tooth).width);
    expect(inner.low).toBeGreaterThan(outer.low);
    expect(inner.high).toBeLessThan(outer.high);
  });
  it('has the roots of its place, ending where their landmarks are', () => {
    const upper = tooth < 30;
    const expected = placeOf(tooth) >= 6 ? (upper ? 3 : 2) : upper && placeOf(tooth) === 4 ? 2 : 1;
    expect(shape.lines).toHaveLength(expected);
    const apices = Object.keys(shape.landmarks).filter((name) => name.startsWith('apex'));
    expect(apices).toHaveLength(expected);
    for (const name of apices) {
      const [x, y, z] = shape.landmarks[name];
      expect(across(shape.roots, y, z + 0.35, x), name).not.toBeNull();
      expect(across(shape.roots, y, z - 0.6, x), name).toBeNull();
    }
  });
  it('has its canals inside its roots', () => {
    for (const line of shape.lines) {
      const [x, y, z] = line[2];
      const root = across(shape.roots, y, z)!;
      const canal = across(shape.canals, y, z)!;
      expect(root.low).toBeLessThan(canal.low);
      expect(root.high).toBeGreaterThan(canal.high);
      expect(x).toBeGreaterThan(root.low);
    }
  });
});

describe('a canal', () => {
  const line: Vec3[] = [
    [0, 0, 0],
    [0, 0, -6],
    [0, 0, -10]
  ];
  it('is shortened along its way, also past a bend', () => {
    expect(shortened(line, 1.5).at(-1)).toEqual([0, 0, -8.5]);
    expect(shortened(line, 5).at(-1)).toEqual([0, 0, -5]);
    expect(shortened(line, 0)).toEqual(line);
  });
  it('holds a file that ends as far short of its end as was said', () => {
    const file = alongCanal(line, 8, 1, 0.3, 0.1);
    expect(across(file, 0, -8.9)).not.toBeNull();
    expect(across(file, 0, -9.1)).toBeNull();
    expect(across(file, 0, 9)).not.toBeNull();
  });
});

it('front teeth are blades, back teeth have cusps', () => {
  const thick = (tooth: Tooth) => {
    const { crown, size } = toothShape(tooth, seededRandom(1));
    const into = { from: 0, to: 0 };
    let most = 0;
    for (const part of crown)
      if (raysFrom([0, -100, size.crown * 0.8], part)(0, 1, 0, into))
        most = Math.max(most, into.to - into.from);
    return most;
  };
  for (const tooth of permanentTeeth)
    if (toothKind(tooth) === 'incisor')
      expect(thick(tooth), `${tooth}`).toBeLessThan(sizeOf(tooth).depth * 0.5);
});
