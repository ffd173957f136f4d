import type { ShippedPattern } from '../src/lib/core/tray/shipped/shippedPattern';
import { type Tx, within } from '../src/lib/server/database/connection';
import { PatternRow } from '../src/lib/server/trays/patternModel';
import { RouteRow } from '../src/lib/server/trays/routeModel';

/** Gives the demo clinic a pattern of its own, unless it has it already. */
export async function keepPattern(tx: Tx, { pattern, route }: ShippedPattern): Promise<void> {
  const { clinicId } = tx;
  await PatternRow.bulkCreate(
    [
      {
        clinicId,
        patternId: pattern.ref.id,
        version: pattern.ref.version,
        name: pattern.name,
        trade: pattern.trade,
        slotsVersion: 1,
        slots: pattern.slots
      }
    ],
    { ignoreDuplicates: true, ...within(tx) }
  );
  await RouteRow.bulkCreate(
    [
      {
        clinicId,
        routeId: route.ref.id,
        version: route.ref.version,
        patternId: pattern.ref.id,
        patternVersion: pattern.ref.version,
        name: route.name,
        slotOrder: route.order
      }
    ],
    { ignoreDuplicates: true, ...within(tx) }
  );
}
