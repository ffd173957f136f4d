import { type Tx, within } from '../database/connection';
import { newId } from '../ids';
import type { Caller } from '../people/caller';
import { demandFreeName, newestVersion, putPattern } from './ownPatterns';
import { type PatternStand, notePatternChange, setRetired, standOf } from './patternChanges';
import { PatternRow } from './patternModel';
import { patternOf, routeOf } from './patterns';
import { RouteRow } from './routeModel';

/**
 * Makes a pattern stand as before a change: its former version again as a next one, out of use or in use as it was. One
 * that was added goes out of use. What was laid with any version stays what it is.
 * @returns whether it could be: false where it was changed again since
 * @throws Problem where another pattern has its name by now
 */
export async function restorePattern(
  tx: Tx,
  caller: Caller,
  patternId: string,
  before: PatternStand | null,
  after: PatternStand
): Promise<boolean> {
  const row = await newestVersion(tx, patternId);
  const now = row && standOf(row);
  if (!row || now?.version !== after.version || now.name !== after.name) return false;
  if ((now.retired_at === null) !== (after.retired_at === null)) return false;
  const inUse = before !== null && before.retired_at === null;
  if (inUse) await demandFreeName(tx, before.name, row.trade, patternId);
  if (before && before.version !== after.version) await putFormer(tx, caller, row, before.version);
  await setRetired(tx, patternId, !inUse);
  await notePatternChange(tx, patternId, now, standOf((await newestVersion(tx, patternId))!));
  return true;
}

/** A former version as the next one, with its usual route and everybody's own. */
async function putFormer(tx: Tx, caller: Caller, newest: PatternRow, former: number): Promise<void> {
  const { patternId } = newest;
  const where = { patternId, version: former };
  const pattern = await PatternRow.findOne({ where, rejectOnEmpty: true, ...within(tx) });
  const routes = await RouteRow.findAll({
    where: { patternId, patternVersion: former },
    order: [['version', 'desc']],
    ...within(tx)
  });
  const newestOf = (userId: string | null) => routes.find((route) => route.userId === userId);
  const version = newest.version + 1;
  await putPattern(
    tx,
    caller,
    { id: patternId, version },
    {
      name: pattern.name,
      trade: pattern.trade,
      slots: patternOf(pattern).slots,
      order: routeOf(newestOf(null)!).order
    },
    null
  );
  for (const userId of new Set(routes.map((route) => route.userId)))
    if (userId !== null) {
      const { name, slotOrder } = newestOf(userId)!;
      const route = { clinicId: tx.clinicId, routeId: newId(), version: 1, name, slotOrder, userId };
      await RouteRow.create({ ...route, patternId, patternVersion: version }, within(tx));
    }
}
