import { Op } from 'sequelize';
import { z } from 'zod';
import {
  type Pattern,
  type Ref,
  type Route,
  type Trade,
  fullOrder,
  orderSchema,
  refSchema,
  slotsSchema,
  trades
} from '../../core/tray/pattern';
import { inRows } from '../../core/tray/inRows';
import type { Slot } from '../../core/tray/slot';
import { wellsAlong } from '../../core/tray/tray';
import { shippedPatterns } from '../../core/tray/shipped/shipped';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { notePatternChange, setRetired, standOf } from './patternChanges';
import { newestVersions, patternOf, routeOf, storedSlots } from './patterns';
import { PatternRow } from './patternModel';
import { RouteRow } from './routeModel';
import { heldTray } from './trays';
import { visitHead } from '../visits/visitHead';

const shippedIds = new Set(shippedPatterns.map(({ pattern }) => pattern.ref.id));

/** A pattern of the clinic in its newest version, with the routes through it that concern the one who looks. */
export interface PatternEntry {
  pattern: Pattern;
  /** Everybody's. */
  usual: Route;
  /** The own one of whoever looks, if there is one. */
  own: Route | null;
  /** Whether the product ships it: then it is copied, not changed. */
  shipped: boolean;
  retired: boolean;
}

/** All patterns of the clinic, retired ones too, by trade and name. */
export async function allPatterns(caller: Caller): Promise<PatternEntry[]> {
  await demand(caller, 'view charts', 'patterns');
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await PatternRow.findAll({
      where: { visitId: null },
      order: [
        ['name', 'asc'],
        ['version', 'desc']
      ],
      ...within(tx)
    });
    const newest = newestVersions(rows);
    const routes = (
      await RouteRow.findAll({
        where: { userId: { [Op.or]: [caller.userId, null] } },
        order: [['version', 'desc']],
        ...within(tx)
      })
    ).filter((route) =>
      newest.some((row) => row.patternId === route.patternId && row.version === route.patternVersion)
    );
    return newest.flatMap((row) => {
      const of = routes.filter((route) => route.patternId === row.patternId);
      const usual = of.find((route) => route.userId === null);
      const own = of.find((route) => route.userId === caller.userId);
      if (!usual) return [];
      const same = own && JSON.stringify(own.slotOrder) === JSON.stringify(usual.slotOrder);
      return [
        {
          pattern: patternOf(row),
          usual: routeOf(usual),
          own: own && !same ? routeOf(own) : null,
          shipped: shippedIds.has(row.patternId),
          retired: row.retiredAt !== null
        }
      ];
    });
  });
}

export const patternWish = z.strictObject({
  /** The pattern that this is the next version of; a new one where it is null. */
  of: z.uuid().nullable(),
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  trade: z.enum(trades),
  slots: slotsSchema,
  order: orderSchema
});
export type PatternWish = z.infer<typeof patternWish>;

const nameTaken = (name: string): Problem =>
  new Problem('name-taken', `Another pattern is called “${name}”.`, 'Give this one another name.', 409);

const missesSome = (names: readonly string[]): Problem =>
  new Problem(
    'route-misses',
    `The route misses ${names.length === 1 ? `“${names[0]}”` : `${names.length} slots: ${names.join(', ')}`}.`,
    'Thread it through every slot, or take those slots away.',
    422
  );

/** Keeps a pattern and its usual route: a new one, or the next version of one of the clinic's own. */
export async function keepPattern(caller: Caller, key: string, wish: PatternWish): Promise<{ pattern: Ref }> {
  await demand(caller, 'lay patterns', 'patterns');
  const missed = wish.slots.filter(({ id }) => !wish.order.includes(id));
  if (missed.length > 0) throw missesSome(missed.map(({ name }) => name));
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const former = wish.of ? await newestVersion(tx, wish.of) : null;
      if (wish.of && !former) throw notFound('This pattern');
      if (wish.of && shippedIds.has(wish.of)) {
        throw new Problem(
          'shipped-pattern',
          'This pattern comes with the product and stays as it is.',
          'Keep a copy under another name.',
          409
        );
      }
      await demandFreeName(tx, wish.name, wish.trade, wish.of);
      const pattern = { id: former?.patternId ?? newId(), version: (former?.version ?? 0) + 1 };
      await putPattern(tx, caller, pattern, wish, null);
      const { name } = wish;
      const after = { name, version: pattern.version, retired_at: null };
      await notePatternChange(tx, pattern.id, former && standOf(former), after);
      await writeAudit(tx, caller, 'pattern kept', pattern.id, { name, version: pattern.version });
      return { pattern };
    })
  );
}

/** @throws Problem where another pattern of the trade that is in use has this name */
export async function demandFreeName(tx: Tx, name: string, trade: Trade, of: string | null): Promise<void> {
  const rows = await PatternRow.findAll({
    where: { trade, retiredAt: null, visitId: null },
    order: [['version', 'desc']],
    ...within(tx)
  });
  if (newestVersions(rows).some((row) => row.name === name && row.patternId !== of)) throw nameTaken(name);
}

export const newestVersion = (tx: Tx, patternId: string): Promise<PatternRow | null> =>
  PatternRow.findOne({ where: { patternId }, order: [['version', 'desc']], ...within(tx) });

/** One version of a pattern with its usual route, as rows. */
export async function putPattern(
  tx: Tx,
  caller: Caller,
  { id, version }: Ref,
  { name, trade, slots, order }: Omit<PatternWish, 'of'>,
  visitId: string | null
): Promise<Ref> {
  await PatternRow.create(
    {
      clinicId: tx.clinicId,
      patternId: id,
      version,
      name,
      trade,
      slotsVersion: storedSlots.version,
      slots,
      madeBy: caller.userId,
      visitId
    },
    within(tx)
  );
  const route = { id: newId(), version: 1 };
  await RouteRow.create(
    {
      clinicId: tx.clinicId,
      routeId: route.id,
      version: route.version,
      patternId: id,
      patternVersion: version,
      name: 'Usual route',
      slotOrder: order
    },
    within(tx)
  );
  return route;
}

export const retireWish = z.strictObject({ retired: z.boolean() });

/** Takes a pattern off the list, or puts it back; trays that were laid with it stay what they are. */
export async function retirePattern(
  caller: Caller,
  key: string,
  patternId: string,
  { retired }: z.infer<typeof retireWish>
): Promise<object> {
  await demand(caller, 'lay patterns', patternId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const former = await newestVersion(tx, patternId);
      if (!former) throw notFound('This pattern');
      if (!retired) await demandFreeName(tx, former.name, former.trade, patternId);
      const before = standOf(former);
      const after = await setRetired(tx, patternId, retired);
      await notePatternChange(tx, patternId, before, { ...before, retired_at: after });
      await writeAudit(tx, caller, 'pattern kept', patternId, { retired });
      return {};
    })
  );
}

export const routeWish = z.strictObject({ pattern: refSchema, order: orderSchema.nullable() });

/** One's own route on a pattern; null goes back to everybody's. */
export async function keepOwnRoute(
  caller: Caller,
  key: string,
  { pattern, order }: z.infer<typeof routeWish>
): Promise<object> {
  await demand(caller, 'acquire', pattern.id);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await PatternRow.findOne({
        where: { patternId: pattern.id, version: pattern.version },
        ...within(tx)
      });
      if (!row) throw notFound('This pattern');
      const { slots } = patternOf(row);
      const missed = slots.filter(({ id }) => order && !order.includes(id));
      if (order && missed.length > 0) throw missesSome(missed.map(({ name }) => name));
      const own = await RouteRow.findOne({
        where: { patternId: pattern.id, patternVersion: pattern.version, userId: caller.userId },
        order: [['version', 'desc']],
        ...within(tx)
      });
      const usual = await RouteRow.findOne({
        where: { patternId: pattern.id, patternVersion: pattern.version, userId: null },
        order: [['version', 'desc']],
        ...within(tx)
      });
      const next = order ?? orderSchema.parse(usual!.slotOrder);
      await RouteRow.create(
        {
          clinicId: tx.clinicId,
          routeId: own?.routeId ?? newId(),
          version: (own?.version ?? 0) + 1,
          patternId: pattern.id,
          patternVersion: pattern.version,
          name: `${caller.name}’s route`,
          slotOrder: fullOrder(patternOf(row), next),
          userId: caller.userId
        },
        within(tx)
      );
      return {};
    })
  );
}

/** What a tray was made of, as a pattern could have it: its slots in rows along its route where it was laid on the spot. */
export async function slotsOfTray(caller: Caller, trayId: string): Promise<{ trade: Trade; slots: Slot[] }> {
  await demand(caller, 'lay patterns', trayId);
  return inClinic(caller.clinicId, async (tx) => {
    const { tray, visitId } = await heldTray(tx, trayId);
    const { room } = await visitHead(tx, visitId);
    const wells = wellsAlong(tray);
    const places = inRows(wells.length);
    const added = wells.some((well) => well.added);
    return {
      trade: room.trade,
      slots: wells.map(({ slot }, i) => (added ? { ...slot, at: places[i] } : slot))
    };
  });
}
