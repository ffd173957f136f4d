import type { Pattern, Route, Trade } from '../pattern';
import type { Slot } from '../slot';

/** A pattern that comes with the product, and the route it is usually taken along. */
export interface ShippedPattern {
  pattern: Pattern;
  route: Route;
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
