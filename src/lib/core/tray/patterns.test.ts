import { describe, expect, it } from 'vitest';
import { permanentTeeth } from '../anatomy/teeth';
import { patterns } from './patterns';

describe.each(Object.entries(patterns))('the pattern %s', (_, pattern) => {
  it('goes to each of its slots once', () => {
    expect([...pattern.route].sort()).toEqual(pattern.slots.map((slot) => slot.id).sort());
    expect(new Set(pattern.slots.map((slot) => slot.name)).size).toBe(pattern.slots.length);
  });
  it('lays no two wells on one another', () => {
    for (const a of pattern.slots)
      for (const b of pattern.slots)
        if (a !== b)
          expect(
            Math.abs(a.place.x - b.place.x) > 0.11 || Math.abs(a.place.y - b.place.y) > 0.3,
            `${a.name} and ${b.name}`
          ).toBe(true);
  });
});

it('a full mouth shows every tooth from its root end', () => {
  const shown = patterns['full-mouth'].slots
    .filter((slot) => slot.projection === 'periapical')
    .flatMap((slot) => slot.teeth);
  expect([...shown].sort()).toEqual([...permanentTeeth].sort());
  expect(patterns['full-mouth'].slots).toHaveLength(18);
});
