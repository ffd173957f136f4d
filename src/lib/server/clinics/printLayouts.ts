import { z } from 'zod';
import { type KeptLayout, type PrintLayout, printLayout } from '../../core/print/printLayout';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';

export const layoutWish = z.strictObject({
  layoutId: z.uuid().nullable(),
  layout: printLayout.schema as z.ZodType<PrintLayout>
});
const mostLayouts = 60;

const inUse = async (tx: Tx): Promise<KeptLayout[]> =>
  (
    await tx.sql<{ layout_id: string; version: number; body: unknown }>(
      `select layout_id, version, body from print_layout where clinic_id = $1 and dropped_at is null order by lower(name)`,
      tx.clinicId
    )
  ).map(({ layout_id: layoutId, version, body }) => ({
    layoutId,
    layout: readVersioned('How sheets are laid out', printLayout, version, body)
  }));

/** The clinic's own layouts, by their names. */
export const printLayouts = (caller: Caller): Promise<KeptLayout[]> => inClinic(caller.clinicId, inUse);

/** Keeps a layout, or changes one. */
export async function keepLayout(
  caller: Caller,
  key: string,
  { layoutId, layout }: z.infer<typeof layoutWish>
): Promise<{ layoutId: string }> {
  await demand(caller, 'write templates', 'layouts');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 5))', `layouts ${tx.clinicId}`);
      const all = await inUse(tx);
      if (layoutId && !all.some((each) => each.layoutId === layoutId)) throw notFound('This layout');
      const same = (each: KeptLayout) => each.layout.name.toLowerCase() === layout.name.toLowerCase();
      if (all.some((each) => same(each) && each.layoutId !== layoutId))
        throw new Problem(
          'name-taken',
          `There is a layout called ${layout.name} already.`,
          'Give this one another name.',
          409
        );
      if (!layoutId && all.length >= mostLayouts)
        throw new Problem(
          'too-many-layouts',
          `The clinic has ${mostLayouts} layouts already.`,
          'Drop one that nobody uses.',
          409
        );
      const id = layoutId ?? newId();
      await tx.sql(
        `insert into print_layout (clinic_id, layout_id, name, version, body) values ($1, $2, $3, $4, $5::jsonb)
         on conflict (clinic_id, layout_id) do update set name = excluded.name, version = excluded.version,
           body = excluded.body`,
        tx.clinicId,
        id,
        layout.name,
        printLayout.version,
        JSON.stringify(layout)
      );
      await writeAudit(tx, caller, 'setting changed', id, { layout: layout.name });
      return { layoutId: id };
    })
  );
}

export async function dropLayout(caller: Caller, key: string, layoutId: string): Promise<object> {
  await demand(caller, 'write templates', 'layouts');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const known = (await inUse(tx)).find((each) => each.layoutId === layoutId);
      if (!known) throw notFound('This layout');
      await tx.sql('update print_layout set dropped_at = now() where layout_id = $1', layoutId);
      await writeAudit(tx, caller, 'setting changed', layoutId, { layout: known.layout.name, dropped: true });
      return {};
    })
  );
}
