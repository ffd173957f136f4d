import { z } from 'zod';
import {
  type CategoryRule,
  type RuledCategory,
  categoryRuleSchema,
  fitsRule
} from '../../core/picture/categoryRule';
import type { PictureKind } from '../../core/picture/pictureView';
import { slotSchema } from '../../core/tray/slot';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { bookFor } from '../trays/patterns';
import { allCategories, putFiled, putRuled, toRule } from './categoryQueries';
import { pictureRow } from './views';

export const categoryWish = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  rule: categoryRuleSchema.nullable().default(null)
});
export const filingWish = z.strictObject({
  pictureIds: z.array(z.uuid()).min(1).max(500),
  /** Whether they are filed under it, or taken out. */
  filed: z.boolean()
});

export const categories = (caller: Caller): Promise<RuledCategory[]> =>
  inClinic(caller.clinicId, allCategories);

/** Makes a category, or changes it. Its rule is gone through for all pictures by a job. */
export async function keepCategory(
  caller: Caller,
  key: string,
  categoryId: string | null,
  wish: z.infer<typeof categoryWish>
): Promise<{ categoryId: string }> {
  await demand(caller, 'change categories', 'categories');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const all = await allCategories(tx);
      const known = all.find((each) => each.categoryId === categoryId);
      if (categoryId && !known) throw notFound('This category');
      const same = (each: RuledCategory) => each.name.toLowerCase() === wish.name.toLowerCase();
      if (all.some((each) => same(each) && each.categoryId !== categoryId))
        throw new Problem(
          'name-taken',
          `There is a category called ${wish.name} already.`,
          'Give this one another name.',
          409
        );
      const id = categoryId ?? newId();
      await tx.sql(
        `insert into category (clinic_id, category_id, name, rule, place) values ($1, $2, $3, $4::jsonb, $5)
         on conflict (clinic_id, category_id) do update set name = excluded.name, rule = excluded.rule`,
        tx.clinicId,
        id,
        wish.name,
        wish.rule && JSON.stringify(wish.rule),
        all.length
      );
      if (wish.rule || known?.rule) await enqueue(tx, queues.file, { clinicId: tx.clinicId, categoryId: id });
      await writeAudit(tx, caller, 'categories changed', id, {
        category: wish.name,
        rule: wish.rule !== null
      });
      return { categoryId: id };
    })
  );
}

/** Drops a category. What was filed under it stays where it is. */
export async function dropCategory(caller: Caller, key: string, categoryId: string): Promise<object> {
  await demand(caller, 'change categories', 'categories');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { name } = await categoryOf(tx, categoryId);
      await tx.sql('update category set dropped_at = now() where category_id = $1', categoryId);
      await writeAudit(tx, caller, 'categories changed', categoryId, { category: name, dropped: true });
      return {};
    })
  );
}

async function categoryOf(tx: Tx, categoryId: string): Promise<RuledCategory> {
  const found = (await allCategories(tx)).find((each) => each.categoryId === categoryId);
  if (!found) throw notFound('This category');
  return found;
}

/** Files pictures under a category, or takes them out of it, in one act. */
export async function filePictures(
  caller: Caller,
  key: string,
  categoryId: string,
  { pictureIds, filed }: z.infer<typeof filingWish>
): Promise<object> {
  await demand(caller, 'link', pictureIds[0]);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { name } = await categoryOf(tx, categoryId);
      const patients = new Set<string>();
      for (const id of pictureIds) patients.add((await pictureRow(tx, id)).patient_id);
      await putFiled(tx, categoryId, pictureIds, filed, caller.userId);
      for (const patientId of patients)
        await writeAudit(tx, caller, 'filed under a category', pictureIds[0], {
          patientId,
          category: name,
          pictures: pictureIds.length,
          filed: filed ? 'under it' : 'no longer under it'
        });
      return {};
    })
  );
}

/** What a picture's view is called, where its slot says it. */
async function projectionsOf(tx: Tx, rows: Awaited<ReturnType<typeof toRule>>): Promise<(string | null)[]> {
  const refs = rows.flatMap(({ pattern_id: id, pattern_version: version }) =>
    id && version !== null ? [{ id, version }] : []
  );
  const unique = [...new Map(refs.map((ref) => [`${ref.id} ${ref.version}`, ref])).values()];
  const book = await bookFor(tx, { patterns: unique, routes: [] });
  return rows.map((row) => {
    if (row.slot) return slotSchema.safeParse(row.slot).data?.projection ?? null;
    if (!row.pattern_id || row.slot_id === null) return null;
    const { slots } = book.pattern({ id: row.pattern_id, version: row.pattern_version! });
    return slots.find(({ id }) => id === row.slot_id)?.projection ?? null;
  });
}

async function fileBy(
  tx: Tx,
  ruled: readonly { categoryId: string; rule: CategoryRule | null }[],
  rows: Awaited<ReturnType<typeof toRule>>
): Promise<void> {
  const projections = await projectionsOf(tx, rows);
  await putRuled(
    tx,
    rows.flatMap(({ picture_id, kind, device, words }, i) =>
      ruled.map(({ categoryId, rule }) => ({
        pictureId: picture_id,
        categoryId,
        fits:
          rule !== null &&
          fitsRule(rule, { kind: kind as PictureKind, device, words, projection: projections[i] })
      }))
    )
  );
}

/** Files one picture by every rule of the clinic: when it has come, and when what is known of it was changed. */
export async function fileByRules(tx: Tx, pictureId: string): Promise<void> {
  const ruled = (await allCategories(tx)).filter(({ rule }) => rule !== null);
  if (ruled.length > 0) await fileBy(tx, ruled, await toRule(tx, { pictureId }));
}

const atOnce = 500;
const firstId = '00000000-0000-0000-0000-000000000000';

/** Goes through all pictures for one category whose rule is new or was changed. Done again it does the same. */
export async function fileAllByRule(clinicId: string, categoryId: string): Promise<void> {
  for (let after = firstId; ;) {
    const last = await inClinic(clinicId, async (tx) => {
      const found = (await allCategories(tx)).find((each) => each.categoryId === categoryId);
      const rows = found ? await toRule(tx, { after, limit: atOnce }) : [];
      if (found && rows.length > 0) await fileBy(tx, [found], rows);
      return rows.length === atOnce ? rows[rows.length - 1].picture_id : null;
    });
    if (last === null) return;
    after = last;
  }
}
