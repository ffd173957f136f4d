import { z } from 'zod';
import type { AdviceView } from '../../core/picture/adviceView';
import { adviceKinds } from '../../core/raster/advice/adviceKind';
import type { Tx } from '../database/connection';

/** Of the code that looks, kept with what it saw: it counts up when that code sees more or better. */
export const adviceVersion = 3;

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

/** What was seen of a take's dose, and of which device and view it is; null where it lies in no slot. */
export interface DoseSeen {
  span: number | null;
  view: string | null;
}

export async function keepAdvice(tx: Tx, pictureId: string, found: Found, dose: DoseSeen): Promise<void> {
  await tx.sql(
    `insert into picture_advice (clinic_id, picture_id, version, found, dose_span, dose_view)
     values ($1, $2, $3, $4::jsonb, $5, $6)
     on conflict (clinic_id, picture_id) do update set version = excluded.version, found = excluded.found,
       dose_span = excluded.dose_span, dose_view = excluded.dose_view, at = now()`,
    tx.clinicId,
    pictureId,
    adviceVersion,
    JSON.stringify(found),
    dose.span,
    dose.view
  );
}

/** So many of the newest say what is usual: a new tube or another setting is known after as many. */
const usualOf = 40;

/** What takes of a device and view show of their dose: of those that a person confirmed, the newest. */
export async function keptDoses(tx: Tx, view: string | null, except: string): Promise<number[]> {
  if (view === null) return [];
  const rows = await tx.sql<{ dose_span: number }>(
    `select a.dose_span from picture_advice a join standing s using (clinic_id, picture_id)
     where a.clinic_id = $1 and a.dose_view = $2 and a.dose_span is not null and a.picture_id <> $3
       and s.keeper and s.confirmed order by a.at desc limit $4`,
    tx.clinicId,
    view,
    except,
    usualOf
  );
  return rows.map(({ dose_span: span }) => span);
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
     join picture o on o.clinic_id = p.clinic_id and o.visit_id = p.visit_id and o.away is null and o.number < p.number
     left join standing os on os.clinic_id = o.clinic_id and os.picture_id = o.picture_id
     where p.picture_id = $1 and o.width = p.width and o.height = p.height and o.kind = p.kind
     order by same_slot desc, o.number desc limit 1`,
    pictureId
  );
  return row ? { pictureId: row.picture_id, sameSlot: row.same_slot } : null;
}
