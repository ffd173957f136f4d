import { describe, expect, it } from 'vitest';
import { permanentTeeth } from '../../anatomy/teeth';
import { orderSchema, slotsSchema } from '../pattern';
import { slotTeeth } from '../slot';
import { fullMouth } from './fullMouth';
import { shippedBook, shippedPatternNamed, shippedPatterns } from './shipped';

describe.each(shippedPatterns.map((each) => [each.pattern.name, each] as const))(
  'the pattern %s',
  (_, each) => {
    const { pattern, route } = each;
    it('goes to each of its slots once', () => {
      expect([...route.order].sort()).toEqual(pattern.slots.map((slot) => slot.id).sort());
      expect(new Set(pattern.slots.map((slot) => slot.name)).size).toBe(pattern.slots.length);
    });
    it('can be stored and is found by its name and its reference', () => {
      expect(slotsSchema.parse(pattern.slots)).toEqual(pattern.slots);
      expect(orderSchema.parse(route.order)).toEqual(route.order);
      expect(shippedPatternNamed(pattern.name)).toBe(each);
      expect(shippedBook.pattern(pattern.ref)).toBe(pattern);
      expect(shippedBook.route(route.ref).pattern).toEqual(pattern.ref);
      expect(() => shippedBook.pattern({ ...pattern.ref, version: 2 })).toThrow(RangeError);
    });
    it('lays no two wells on one another', () => {
      for (const a of pattern.slots)
        for (const b of pattern.slots)
          if (a !== b)
            expect(
              Math.abs(a.at.x - b.at.x) > 0.11 || Math.abs(a.at.y - b.at.y) > 0.3,
              `${a.name} and ${b.name}`
            ).toBe(true);
    });
  }
);

it('ids of patterns and routes are all different', () => {
  const ids = shippedPatterns.flatMap(({ pattern, route }) => [pattern.ref.id, route.ref.id]);
  expect(new Set(ids).size).toBe(ids.length);
});

it('a full mouth shows every tooth from its root end', () => {
  const { slots } = fullMouth.pattern;
  const shown = slots.filter((slot) => slot.projection === 'periapical').flatMap(slotTeeth);
  expect([...shown].sort()).toEqual([...permanentTeeth].sort());
  expect(slots).toHaveLength(18);
});
