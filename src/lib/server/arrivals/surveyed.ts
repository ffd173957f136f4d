import { z } from 'zod';
import { type Coming, type Surveyed, addedTo, surveyedSchema } from '../../core/arrivals/survey';
import type { Tx } from '../database/connection';
import { announce } from '../news/announce';

/** Adds what the beginnings of files tell to what is known of an intake. Gives back whether it is open still. */
export async function noteSurvey(tx: Tx, intakeId: string, more: readonly Surveyed[]): Promise<boolean> {
  const row = await tx.one<{ survey: unknown }>(
    'select survey from intake where intake_id = $1 and ended_at is null and not cancelled for update',
    intakeId
  );
  if (!row) return false;
  if (more.length === 0) return true;
  const all = addedTo(z.array(surveyedSchema).parse(row.survey), more);
  await tx.sql('update intake set survey = $2::jsonb where intake_id = $1', intakeId, JSON.stringify(all));
  await announce(tx, { topic: 'arrivals' });
  return true;
}

/** What an open intake brings, study by study, and how much of each is here. */
export async function comingOf(tx: Tx, intakeIds: readonly string[]): Promise<Map<string, Coming[]>> {
  const rows = await tx.sql<{ intake_id: string; survey: unknown; here: Record<string, number> }>(
    `select i.intake_id, i.survey, coalesce((select jsonb_object_agg(k.bundle_key, k.count) from (
       select bundle_key, count(*) from arrival a where a.intake_id = i.intake_id and a.part_of is null group by 1) k), '{}') as here
     from intake i where i.intake_id = any($1::uuid[]) and i.ended_at is null and i.survey <> '[]'`,
    intakeIds
  );
  return new Map(
    rows.map(({ intake_id, survey, here }) => [
      intake_id,
      z
        .array(surveyedSchema)
        .parse(survey)
        .map((each) => ({ ...each, here: here[each.key] ?? 0 }))
    ])
  );
}
