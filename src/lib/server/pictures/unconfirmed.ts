import { readableLayers } from '../../core/picture/pictureLayers';
import { drawnItems, isReading } from '../../core/picture/readings';
import type { Tx } from '../database/connection';
import { stepsOf } from './queries';

/** How many readings and landmarks of each visit nobody has confirmed as they are; visits without any are left out. */
export async function unconfirmedReadings(tx: Tx, visitIds: readonly string[]): Promise<Map<string, number>> {
  const rows = await tx.sql<{ picture_id: string; visit_id: string }>(
    `select p.picture_id, p.visit_id from picture p
     where p.visit_id = any($1::uuid[]) and p.away is null and exists (select 1 from picture_step s where s.picture_id = p.picture_id)`,
    visitIds
  );
  const steps = await stepsOf(
    tx,
    rows.map((row) => row.picture_id)
  );
  const counts = new Map<string, number>();
  for (const { picture_id: id, visit_id: visit } of rows) {
    const { layers } = readableLayers(steps.get(id) ?? []);
    const open = drawnItems(layers).filter(({ item, confirmedBy }) => isReading(item.kind) && !confirmedBy);
    if (open.length > 0) counts.set(visit, (counts.get(visit) ?? 0) + open.length);
  }
  return counts;
}
