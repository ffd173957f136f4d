import { z } from 'zod';
import { type Slot, slotId, slotSchema } from './slot';

export const trades = ['teeth', 'bones', 'animals', 'eyes'] as const;
export type Trade = (typeof trades)[number];

/** One version of a pattern or a route. Versions never change once they are stored; a change makes the next one. */
export interface Ref {
  id: string;
  version: number;
}

export const refSchema: z.ZodType<Ref> = z.strictObject({
  id: z.uuid(),
  version: z.number().int().min(1)
});

export const sameRef = (a: Ref | null, b: Ref | null): boolean =>
  a === b || (a !== null && b !== null && a.id === b.id && a.version === b.version);

export interface Pattern {
  ref: Ref;
  name: string;
  trade: Trade;
  slots: Slot[];
}

/** The order in which a pattern's slots are taken. */
export interface Route {
  ref: Ref;
  name: string;
  pattern: Ref;
  order: string[];
}

/** Where patterns and routes are looked up. Throws for one that is not there. */
export interface PatternBook {
  pattern(ref: Ref): Pattern;
  route(ref: Ref): Route;
}

/** The slots of a pattern as they are stored: at least one, each with an id of its own. */
export const slotsSchema = z
  .array(slotSchema)
  .min(1)
  .max(64)
  .refine(
    (slots) => new Set(slots.map((slot) => slot.id)).size === slots.length,
    'two slots have the same id'
  );

export const orderSchema = z
  .array(slotId)
  .max(64)
  .refine((order) => new Set(order).size === order.length, 'a slot stands twice on the route');

/** @throws RangeError for one that none of these is */
export function bookOf(patterns: readonly Pattern[], routes: readonly Route[]): PatternBook {
  const key = ({ id, version }: Ref) => `${id} ${version}`;
  const patternsByKey = new Map(patterns.map((each) => [key(each.ref), each]));
  const routesByKey = new Map(routes.map((each) => [key(each.ref), each]));
  return {
    pattern: (ref) => found(patternsByKey.get(key(ref)), 'pattern', ref),
    route: (ref) => found(routesByKey.get(key(ref)), 'route', ref)
  };
}

function found<T>(each: T | undefined, what: string, ref: Ref): T {
  if (!each) throw new RangeError(`there is no ${what} ${ref.id}, version ${ref.version}`);
  return each;
}

/** Every slot once: those the route names, in its order, then the others as the pattern has them. */
export function fullOrder(pattern: Pattern, order: readonly string[]): string[] {
  const ids = pattern.slots.map((slot) => slot.id);
  const known = order.filter((id) => ids.includes(id));
  return [...known, ...ids.filter((id) => !known.includes(id))];
}
