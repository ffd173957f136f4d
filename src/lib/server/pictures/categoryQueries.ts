import { type RuledCategory, categoryRuleSchema } from '../../core/picture/categoryRule';
import type { Tx } from '../database/connection';
import { slotName } from './queries';

/** What the clinic files pictures under, in its own order. */
export async function allCategories(tx: Tx): Promise<RuledCategory[]> {
  const rows = await tx.sql<{ category_id: string; name: string; rule: unknown }>(
    'select category_id, name, rule from category where clinic_id = $1 and dropped_at is null order by place, lower(name)',
    tx.clinicId
  );
  return rows.map(({ category_id, name, rule }) => ({
    categoryId: category_id,
    name,
    rule: rule === null ? null : (categoryRuleSchema.safeParse(rule).data ?? null)
  }));
}

/** What pictures are filed under, by picture. */
export async function categoriesOf(tx: Tx, pictureIds: readonly string[]): Promise<Map<string, string[]>> {
  const rows = await tx.sql<{ picture_id: string; ids: string[] }>(
    `select f.picture_id, array_agg(f.category_id order by c.place, lower(c.name)) as ids
     from picture_category f join category c on c.clinic_id = f.clinic_id and c.category_id = f.category_id
     where f.clinic_id = $1 and f.picture_id = any($2::uuid[]) and f.filed and c.dropped_at is null group by f.picture_id`,
    tx.clinicId,
    pictureIds
  );
  return new Map(rows.map(({ picture_id, ids }) => [picture_id, ids]));
}

/** Files pictures under a category, or takes them out of it: a person's word, which no rule changes. */
export const putFiled = (
  tx: Tx,
  categoryId: string,
  pictureIds: readonly string[],
  filed: boolean,
  userId: string
): Promise<unknown> =>
  tx.sql(
    `insert into picture_category (clinic_id, picture_id, category_id, filed, filed_by)
     select $1, id, $2, $4, $5 from unnest($3::uuid[]) id
     on conflict (clinic_id, picture_id, category_id) do update set filed = excluded.filed, filed_by = excluded.filed_by, at = now()`,
    tx.clinicId,
    categoryId,
    pictureIds,
    filed,
    userId
  );

/** What rules have to know of pictures: of one, or of all from one on, in the order of their numbers. */
export const toRule = (
  tx: Tx,
  which: { pictureId: string } | { after: string; limit: number }
): Promise<
  {
    picture_id: string;
    kind: string;
    device: string;
    words: string;
    slot: unknown;
    slot_id: string | null;
    pattern_id: string | null;
    pattern_version: number | null;
  }[]
> =>
  tx.sql(
    `select p.picture_id, p.kind, coalesce(p.facts->>'from', '') as device,
       concat_ws(' ', p.told->>'name', p.told->>'words', p.file_name, ${slotName}) as words,
       s.slot, s.slot_id, s.pattern_id, s.pattern_version
     from picture p left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
     where p.clinic_id = $1 and p.away is distinct from 'removed'
       and ${'pictureId' in which ? 'p.picture_id = $2' : 'p.picture_id > $2'}
     order by p.picture_id limit $3`,
    tx.clinicId,
    'pictureId' in which ? which.pictureId : which.after,
    'pictureId' in which ? 1 : which.limit
  );

/** Says by rule which of the named categories pictures are filed under; what a person said of one stays. */
export const putRuled = (
  tx: Tx,
  filed: readonly { pictureId: string; categoryId: string; fits: boolean }[]
): Promise<unknown> =>
  tx.sql(
    `with asked as (select (e->>'pictureId')::uuid as picture_id, (e->>'categoryId')::uuid as category_id,
         (e->>'fits')::boolean as fits from jsonb_array_elements($2::jsonb) e),
       gone as (delete from picture_category f using asked a where f.clinic_id = $1 and f.picture_id = a.picture_id
         and f.category_id = a.category_id and f.filed_by is null and not a.fits returning 1)
     insert into picture_category (clinic_id, picture_id, category_id, filed)
       select $1, picture_id, category_id, true from asked where fits on conflict do nothing`,
    tx.clinicId,
    JSON.stringify(filed)
  );
