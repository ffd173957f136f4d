import type { Pattern, Route, Trade } from '../pattern';
import type { Slot } from '../slot';

/** A pattern that comes with the product, and the route it is usually taken along. */
export interface ShippedPattern {
  pattern: Pattern;
  route: Route;
}

/** Ids of a pattern and its usual route from a number that no other pattern ever had. */
export function idsOf(number: number): { pattern: string; route: string } {
  const base = `018f0000-0000-7000-8001-${number.toString(16).padStart(11, '0')}`;
  return { pattern: `${base}1`, route: `${base}2` };
}

/** Ids are fixed, the same in every clinic: stored events name them. */
export function shippedPattern(
  id: { pattern: string; route: string },
  name: string,
  trade: Trade,
  slots: Slot[],
  order: string[] = slots.map((slot) => slot.id)
): ShippedPattern {
  const ref = { id: id.pattern, version: 1 };
  return {
    pattern: { ref, name, trade, slots },
    route: { ref: { id: id.route, version: 1 }, name: 'Usual route', pattern: ref, order }
  };
}
