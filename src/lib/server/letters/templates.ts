import { z } from 'zod';
import { templateName } from '../../core/letter/exported';
import { type LetterBody, letterBody, letterBodySchema } from '../../core/letter/letterBody';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { TemplateRow } from './templateModel';

const mostTemplates = 300;
/** What one person changes within this time, while no letter was begun of it, is one version. */
const oneVersion = '15 minutes';

export interface ListedTemplate {
  templateId: string;
  name: string;
  number: number;
  by: string;
  at: string;
  retired: boolean;
}

/** A template as its editor has it. */
export interface Template {
  templateId: string;
  name: string;
  seq: number;
  number: number;
  body: LetterBody;
  versions: { number: number; name: string; by: string; at: string }[];
}

/** The clinic's own templates by name, those that were put away too. */
export const templates = (caller: Caller): Promise<ListedTemplate[]> =>
  inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{
      template_id: string;
      name: string;
      number: number;
      by: string;
      at: Date;
      retired: boolean;
    }>(
      `select t.template_id, t.name, t.number, u.display_name as by, v.changed_at as at,
         t.retired_at is not null as retired
       from letter_template t
       join letter_template_version v on v.clinic_id = t.clinic_id and v.template_id = t.template_id and v.number = t.number
       join user_account u on u.user_id = v.changed_by
       order by lower(t.name)`
    );
    return rows.map(({ template_id, at, ...row }) => ({
      templateId: template_id,
      at: at.toISOString(),
      ...row
    }));
  });

async function rowOf(tx: Tx, templateId: string, lock = false): Promise<TemplateRow> {
  const row = z.uuid().safeParse(templateId).success
    ? await TemplateRow.findByPk(templateId, { lock, ...within(tx) })
    : null;
  if (!row) throw notFound('This template');
  return row;
}

/** What a version of a template says. @throws Problem where there is none */
export async function templateBody(tx: Tx, templateId: string, number: number): Promise<LetterBody> {
  const row = await tx.one<{ name: string; version: number; body: unknown }>(
    'select name, version, body from letter_template_version where template_id = $1 and number = $2',
    templateId,
    number
  );
  if (!row) throw notFound('This version of the template');
  return readVersioned(`The template ${row.name}`, letterBody, row.version, row.body);
}

export const template = (caller: Caller, templateId: string): Promise<Template> =>
  inClinic(caller.clinicId, async (tx) => {
    const row = await rowOf(tx, templateId);
    const versions = await tx.sql<{ number: number; name: string; by: string; at: Date }>(
      `select v.number, v.name, u.display_name as by, v.changed_at as at
       from letter_template_version v join user_account u on u.user_id = v.changed_by
       where v.template_id = $1 order by v.number desc`,
      templateId
    );
    return {
      templateId,
      name: row.name,
      seq: row.seq,
      number: row.number,
      body: await templateBody(tx, templateId, row.number),
      versions: versions.map(({ at, ...each }) => ({ ...each, at: at.toISOString() }))
    };
  });

/** The newest version of a template, to begin a letter of. */
export async function newestTemplate(
  tx: Tx,
  templateId: string
): Promise<{ name: string; number: number; body: LetterBody }> {
  const { name, number } = await rowOf(tx, templateId);
  return { name, number, body: await templateBody(tx, templateId, number) };
}

/** An earlier version, to be looked at or gone back to. */
export const templateVersion = (caller: Caller, templateId: string, number: number): Promise<LetterBody> =>
  inClinic(caller.clinicId, (tx) => templateBody(tx, templateId, number));

export const templateWish = z.strictObject({
  /** Which template it is, and which change of it this was made of; null for a new one. */
  of: z.strictObject({ templateId: z.uuid(), seq: z.number().int().positive() }).nullable(),
  name: templateName,
  body: letterBodySchema
});
type TemplateWish = z.infer<typeof templateWish>;

/** Keeps a template as it is now: every change stays as a version, or as part of one. */
export async function keepTemplate(
  caller: Caller,
  key: string,
  wish: TemplateWish
): Promise<{ templateId: string; seq: number; number: number }> {
  await demand(caller, 'write templates', 'templates');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 3))', `templates ${tx.clinicId}`);
      const former = wish.of ? await rowOf(tx, wish.of.templateId, true) : null;
      if (former && former.seq !== wish.of!.seq) throw await changedMeanwhile(tx, former);
      await demandFreeName(tx, wish.name, former?.templateId ?? null);
      if (!former) return newTemplate(tx, caller, wish);
      const amended = await tx.one<{ number: number }>(
        `update letter_template_version v set name = $3, version = $4, body = $5::jsonb, changed_at = now()
         where v.template_id = $1 and v.number = $2 and v.changed_by = $6
           and v.changed_at > now() - interval '${oneVersion}'
           and not exists (select 1 from letter l where l.clinic_id = v.clinic_id and l.template_id = v.template_id
             and l.template_number = v.number)
         returning v.number`,
        former.templateId,
        former.number,
        wish.name,
        letterBody.version,
        JSON.stringify(wish.body),
        caller.userId
      );
      const number = amended?.number ?? former.number + 1;
      if (!amended) await addVersion(tx, caller, former.templateId, number, wish);
      const seq = former.seq + 1;
      await former.update({ name: wish.name, number, seq }, within(tx));
      return { templateId: former.templateId, seq, number };
    })
  );
}

async function newTemplate(tx: Tx, caller: Caller, wish: TemplateWish) {
  if ((await TemplateRow.count({ where: { retiredAt: null }, ...within(tx) })) >= mostTemplates)
    throw new Problem(
      'too-many-templates',
      `The clinic has ${mostTemplates} templates already.`,
      'Put one away that nobody uses.',
      409
    );
  const templateId = newId();
  await TemplateRow.create(
    { clinicId: tx.clinicId, templateId, name: wish.name, number: 1, seq: 1 },
    within(tx)
  );
  await addVersion(tx, caller, templateId, 1, wish);
  return { templateId, seq: 1, number: 1 };
}

async function addVersion(
  tx: Tx,
  caller: Caller,
  templateId: string,
  number: number,
  { name, body }: TemplateWish
): Promise<void> {
  await tx.sql(
    `insert into letter_template_version (clinic_id, template_id, number, name, version, body, changed_by)
     values ($1, $2, $3, $4, $5, $6::jsonb, $7)`,
    tx.clinicId,
    templateId,
    number,
    name,
    letterBody.version,
    JSON.stringify(body),
    caller.userId
  );
  await writeAudit(tx, caller, 'setting changed', templateId, { template: name, version: number });
}

/** Puts a template away, or brings it back. Letters that were begun of it stay. */
export async function retireTemplate(
  caller: Caller,
  key: string,
  templateId: string,
  retired: boolean
): Promise<object> {
  await demand(caller, 'write templates', 'templates');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await rowOf(tx, templateId, true);
      if (!retired) await demandFreeName(tx, row.name, templateId);
      await row.update({ retiredAt: retired ? new Date() : null }, within(tx));
      await writeAudit(tx, caller, 'setting changed', templateId, {
        template: `${row.name}, ${retired ? 'put away' : 'brought back'}`
      });
      return {};
    })
  );
}

async function demandFreeName(tx: Tx, name: string, own: string | null): Promise<void> {
  const other = await tx.one<{ template_id: string }>(
    'select template_id from letter_template where lower(name) = lower($1) and retired_at is null and template_id is distinct from $2::uuid',
    name,
    own
  );
  if (other)
    throw new Problem(
      'name-taken',
      `Another template is called “${name}”.`,
      'Give this one another name.',
      409
    );
}

async function changedMeanwhile(tx: Tx, row: TemplateRow): Promise<Problem> {
  const who = await tx.one<{ name: string }>(
    `select u.display_name as name from letter_template_version v join user_account u on u.user_id = v.changed_by
     where v.template_id = $1 and v.number = $2`,
    row.templateId,
    row.number
  );
  return new Problem(
    'template-changed',
    `${who?.name ?? 'Somebody else'} has changed “${row.name}” since you opened it.`,
    'Keep yours as a template of its own, or take theirs and go on from there.',
    409
  );
}
