import { z } from 'zod';
import type { AdviceView } from '../../core/picture/adviceView';
import { adviceKinds } from '../../core/raster/advice/adviceKind';
import type { Tx } from '../database/connection';

/** Of the code that looks, kept with what it saw: it counts up when that code sees more or better. */
export const adviceVersion = 2;

const point = z.object({ x: z.number(), y: z.number() });
/** What is kept of one piece of advice. */
export const foundSchema = z.array(
  z.object({
    kind: z.enum(adviceKinds),
    confidence: z.number().min(0).max(1),
    description: z.string().max(400),
    where: z.array(point).max(200).optional()
  })
);
export type Found = z.infer<typeof foundSchema>;

export async function keepAdvice(tx: Tx, pictureId: string, found: Found): Promise<void> {
  await tx.sql(
    `insert into picture_advice (clinic_id, picture_id, version, found) values ($1, $2, $3, $4::jsonb)
     on conflict (clinic_id, picture_id) do update set version = excluded.version, found = excluded.found, at = now()`,
    tx.clinicId,
    pictureId,
    adviceVersion,
    JSON.stringify(found)
  );
}

/** What was seen in pictures, by picture; one that was not looked at yet has no entry. */
export async function adviceOf(tx: Tx, pictureIds: readonly string[]): Promise<Map<string, AdviceView[]>> {
  const rows = await tx.sql<{ picture_id: string; found: unknown; denied: Record<string, string> | null }>(
    `select a.picture_id, a.found,
       (select jsonb_object_agg(n.kind, u.display_name) from advice_denied n join user_account u using (user_id)
        where n.clinic_id = a.clinic_id and n.picture_id = a.picture_id) as denied
     from picture_advice a where a.picture_id = any($1::uuid[])`,
    pictureIds
  );
  return new Map(
    rows.map(({ picture_id, found, denied }) => [
      picture_id,
      (foundSchema.safeParse(found).data ?? []).map((each) => ({
        ...each,
        deniedBy: denied?.[each.kind] ?? null
      }))
    ])
  );
}

/** The take before this one: of its slot where there is one, else of its visit. */
export async function takeBefore(
  tx: Tx,
  pictureId: string
): Promise<{ pictureId: string; sameSlot: boolean } | null> {
  const row = await tx.one<{ picture_id: string; same_slot: boolean }>(
    `select o.picture_id, coalesce(os.tray_id = s.tray_id and os.slot_id = s.slot_id, false) as same_slot
     from picture p left join standing s using (clinic_id, picture_id)
     join picture o on o.clinic_id = p.clinic_id and o.visit_id = p.visit_id and o.number < p.number
     left join standing os on os.clinic_id = o.clinic_id and os.picture_id = o.picture_id
     where p.picture_id = $1 and o.width = p.width and o.height = p.height and o.kind = p.kind
     order by same_slot desc, o.number desc limit 1`,
    pictureId
  );
  return row ? { pictureId: row.picture_id, sameSlot: row.same_slot } : null;
}
