import { type Tx, within } from '../database/connection';
import { PatternRow } from './patternModel';

/** How a pattern stands in the clinic. What is in a version never changes, so its number says what it holds. */
export interface PatternStand {
  name: string;
  version: number;
  retired_at: string | null;
}

export const standOf = ({ name, version, retiredAt }: PatternRow): PatternStand => ({
  name,
  version,
  retired_at: retiredAt?.toISOString() ?? null
});

/** Puts a change of a pattern among those of the settings, before the line of the audit that tells of it is written. */
export async function notePatternChange(
  tx: Tx,
  patternId: string,
  before: PatternStand | null,
  after: PatternStand
): Promise<void> {
  await tx.sql(
    `insert into setting_change (clinic_id, table_name, row_key, before, after)
     values ($1, 'pattern', $2, $3::jsonb, $4::jsonb)`,
    tx.clinicId,
    patternId,
    before && JSON.stringify(before),
    JSON.stringify(after)
  );
}

/** Takes a pattern out of use, in every version, or into use again. */
export async function setRetired(tx: Tx, patternId: string, retired: boolean): Promise<string | null> {
  const retiredAt = retired ? new Date() : null;
  await PatternRow.update({ retiredAt }, { where: { patternId }, ...within(tx) });
  return retiredAt?.toISOString() ?? null;
}
