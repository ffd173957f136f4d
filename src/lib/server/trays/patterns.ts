import { Op } from 'sequelize';
import {
  type Pattern,
  type PatternBook,
  type Ref,
  type Route,
  type Trade,
  bookOf,
  orderSchema,
  slotsSchema
} from '../../core/tray/pattern';
import { shippedPatterns } from '../../core/tray/shipped/shipped';
import type { SlotShape } from '../../core/tray/slot';
import { readVersioned } from '../../core/versioned';
import { notFound } from '../problem';
import { type Tx, within } from '../database/connection';
import { PatternRow } from './patternModel';
import { RouteRow } from './routeModel';

/** Slots of a pattern as they are stored. */
export const storedSlots = { version: 1, schema: slotsSchema, upcasters: {} };

/** Versions never change once they are stored, so what was read once can be remembered. Only a shortcut. */
const remembered = new Map<string, Pattern | Route>();
const mostRemembered = 500;
const keyOf = (tx: Tx, what: string, ref: Ref) => `${tx.clinicId} ${what} ${ref.id} ${ref.version}`;

function remember<T extends Pattern | Route>(key: string, each: T): T {
  if (remembered.size >= mostRemembered) remembered.delete(remembered.keys().next().value!);
  remembered.set(key, each);
  return each;
}

export const patternOf = (row: PatternRow): Pattern => ({
  ref: { id: row.patternId, version: row.version },
  name: row.name,
  trade: row.trade,
  slots: readVersioned(`The pattern ${row.name}`, storedSlots, row.slotsVersion, row.slots)
});

export const routeOf = (row: RouteRow): Route => ({
  ref: { id: row.routeId, version: row.version },
  name: row.name,
  pattern: { id: row.patternId, version: row.patternVersion },
  order: orderSchema.parse(row.slotOrder)
});

async function loaded<T extends Pattern | Route>(
  tx: Tx,
  what: string,
  refs: readonly Ref[],
  load: (missing: Ref[]) => Promise<T[]>
): Promise<T[]> {
  const known = refs.flatMap((ref) => (remembered.get(keyOf(tx, what, ref)) as T | undefined) ?? []);
  const missing = refs.filter((ref) => !remembered.has(keyOf(tx, what, ref)));
  if (missing.length === 0) return known;
  const found = await load(missing);
  return [...known, ...found.map((each) => remember(keyOf(tx, what, each.ref), each))];
}

/** The patterns and routes that are asked for, to fold trays with. */
export async function bookFor(
  tx: Tx,
  wanted: { patterns: readonly Ref[]; routes: readonly Ref[] }
): Promise<PatternBook> {
  const patterns = await loaded(tx, 'pattern', wanted.patterns, async (missing) => {
    const where = { [Op.or]: missing.map(({ id, version }) => ({ patternId: id, version })) };
    return (await PatternRow.findAll({ where, ...within(tx) })).map(patternOf);
  });
  const routes = await loaded(tx, 'route', wanted.routes, async (missing) => {
    const where = { [Op.or]: missing.map(({ id, version }) => ({ routeId: id, version })) };
    return (await RouteRow.findAll({ where, ...within(tx) })).map(routeOf);
  });
  return bookOf(patterns, routes);
}

/** @throws Problem where the clinic has no such pattern or route */
export async function demandPattern(tx: Tx, { pattern, route }: { pattern: Ref; route: Ref }): Promise<void> {
  const [patterns, routes] = [
    await PatternRow.count({ where: { patternId: pattern.id, version: pattern.version }, ...within(tx) }),
    await RouteRow.count({ where: { routeId: route.id, version: route.version }, ...within(tx) })
  ];
  if (patterns === 0 || routes === 0) throw notFound('This pattern');
}

/** A pattern that can be laid, with the route that is usual. */
export interface PatternChoice {
  pattern: Ref;
  route: Ref;
  name: string;
  /** Where its wells lie, to be drawn small. */
  wells: { x: number; y: number; shape: SlotShape }[];
  /** The ways through it that are known: everybody's, and the person's own where there is one. */
  routes: { whose: 'usual' | 'mine'; order: readonly string[] }[];
}

/** The newest row of each pattern, in the order in which they stand. */
export function newestVersions(rows: readonly PatternRow[]): PatternRow[] {
  const newest = new Map<string, PatternRow>();
  for (const row of rows)
    if (row.version > (newest.get(row.patternId)?.version ?? 0)) newest.set(row.patternId, row);
  return rows.filter((row) => newest.get(row.patternId) === row);
}

/** The clinic's patterns of a trade, each in its newest version, along an own route of the person or the usual one. */
export async function patternChoices(tx: Tx, trade: Trade, userId: string): Promise<PatternChoice[]> {
  const rows = await PatternRow.findAll({
    where: { trade, retiredAt: null, visitId: null },
    order: [
      ['name', 'asc'],
      ['version', 'desc']
    ],
    ...within(tx)
  });
  const newest = newestVersions(rows);
  const known = await RouteRow.findAll({
    where: {
      [Op.or]: newest.map((row) => ({ patternId: row.patternId, patternVersion: row.version })),
      userId: { [Op.or]: [userId, null] }
    },
    order: [['version', 'desc']],
    ...within(tx)
  });
  return newest.flatMap((row) => {
    const ofPattern = known.filter((route) => route.patternId === row.patternId);
    const mine = ofPattern.find((each) => each.userId === userId);
    const usual = ofPattern.find((each) => each.userId === null);
    const route = mine ?? usual;
    if (!route) return [];
    const routes = [
      ...(usual ? [{ whose: 'usual' as const, order: routeOf(usual).order }] : []),
      ...(mine ? [{ whose: 'mine' as const, order: routeOf(mine).order }] : [])
    ];
    return [
      {
        pattern: { id: row.patternId, version: row.version },
        route: { id: route.routeId, version: route.version },
        name: row.name,
        wells: patternOf(row).slots.map(({ at, shape }) => ({ ...at, shape })),
        routes
      }
    ];
  });
}

/** Gives a clinic the patterns that the product ships, those it lacks. Safe to repeat. */
export async function seedShippedPatterns(tx: Tx): Promise<void> {
  await PatternRow.bulkCreate(
    shippedPatterns.map(({ pattern }) => ({
      clinicId: tx.clinicId,
      patternId: pattern.ref.id,
      version: pattern.ref.version,
      name: pattern.name,
      trade: pattern.trade,
      slotsVersion: storedSlots.version,
      slots: pattern.slots
    })),
    { ignoreDuplicates: true, ...within(tx) }
  );
  await RouteRow.bulkCreate(
    shippedPatterns.map(({ route }) => ({
      clinicId: tx.clinicId,
      routeId: route.ref.id,
      version: route.ref.version,
      patternId: route.pattern.id,
      patternVersion: route.pattern.version,
      name: route.name,
      slotOrder: route.order
    })),
    { ignoreDuplicates: true, ...within(tx) }
  );
}
