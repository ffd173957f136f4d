import { z } from 'zod';
import { type LetterBody, letterBody, placesOfLetter } from '../../core/letter/letterBody';
import type { PicturePlace } from '../../core/letter/letterPlace';
import type {
  BeginLetterWish,
  ChangeLetterWish,
  Letter,
  LetterFilling,
  ListedLetter
} from '../../core/letter/letterView';
import { shippedTemplates } from '../../core/letter/shipped';
import type { PaperNames } from '../../core/report/paperHead';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { Patient } from '../visits/patientModel';
import { visitHead } from '../visits/visitHead';
import { ColleagueRow } from './colleagueModel';
import { colleagueOf } from './colleagues';
import { filled } from './filling';
import { newestTemplate } from './templates';

interface Row {
  letter_id: string;
  visit_id: string;
  title: string;
  colleague_id: string | null;
  names: PaperNames;
  reasons: string[];
  procedures: string[];
  version: number;
  body: unknown;
  seq: number;
  changed_by: string;
  changed_at: Date;
}

const letterOf = (row: Row): Letter => ({
  letterId: row.letter_id,
  visitId: row.visit_id,
  title: row.title,
  colleagueId: row.colleague_id,
  names: row.names,
  reasons: row.reasons,
  procedures: row.procedures,
  body: readVersioned(`The letter ${row.title}`, letterBody, row.version, row.body),
  seq: row.seq
});

async function rowOf(tx: Tx, visitId: string, letterId: string, lock = false): Promise<Row> {
  await visitHead(tx, visitId);
  const row = z.uuid().safeParse(letterId).success
    ? await tx.one<Row>(
        `select * from letter where letter_id = $1 and visit_id = $2 and dropped_at is null${lock ? ' for update' : ''}`,
        letterId,
        visitId
      )
    : undefined;
  if (!row) throw notFound('This letter');
  return row;
}

/** The letters of a visit, the newest first. */
export async function lettersOf(caller: Caller, visitId: string): Promise<ListedLetter[]> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    const rows = await tx.sql<{ letter_id: string; title: string; to: string | null; by: string; at: Date }>(
      `select l.letter_id, l.title, c.name as to, u.display_name as by, l.changed_at as at
       from letter l left join colleague c on c.clinic_id = l.clinic_id and c.colleague_id = l.colleague_id
       join user_account u on u.user_id = l.changed_by
       where l.visit_id = $1 and l.dropped_at is null order by l.changed_at desc`,
      visitId
    );
    return rows.map(({ letter_id, at, ...row }) => ({ letterId: letter_id, at: at.toISOString(), ...row }));
  });
}

/** Whom letters about this patient went to the last time; null for nobody, and for one who is off the list. */
export async function referrerOf(caller: Caller, visitId: string): Promise<string | null> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const { patient } = await visitHead(tx, visitId);
    if (!patient.referrerId) return null;
    const row = await ColleagueRow.findByPk(patient.referrerId, within(tx));
    return row && !row.retiredAt ? row.colleagueId : null;
  });
}

export async function letter(caller: Caller, visitId: string, letterId: string): Promise<Letter> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => letterOf(await rowOf(tx, visitId, letterId)));
}

/** Begins a letter of a template. Whom it goes to stands with the patient from then on, for the next one. */
export async function beginLetter(
  caller: Caller,
  visitId: string,
  key: string,
  wish: BeginLetterWish
): Promise<{ letterId: string }> {
  await demand(caller, 'write letters', visitId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { visit } = await visitHead(tx, visitId);
      const of = await begunOf(tx, wish.template);
      const letterId = newId();
      await tx.sql(
        `insert into letter (clinic_id, letter_id, visit_id, title, template_id, template_number, colleague_id, names,
           reasons, procedures, version, body, seq, begun_by, changed_by)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9::text[], $10::text[], $11, $12::jsonb, 1, $13, $13)`,
        tx.clinicId,
        letterId,
        visitId,
        of.name,
        of.templateId,
        of.number,
        wish.colleagueId,
        wish.names,
        wish.reasons,
        wish.procedures,
        letterBody.version,
        JSON.stringify(of.body),
        caller.userId
      );
      await rememberReferrer(tx, visit.patientId, wish.colleagueId);
      await writeAudit(tx, caller, 'letter begun', letterId, {
        patientId: visit.patientId,
        visit: visitId,
        letter: of.name
      });
      return { letterId };
    })
  );
}

async function begunOf(
  tx: Tx,
  template: BeginLetterWish['template']
): Promise<{ name: string; templateId: string | null; number: number | null; body: LetterBody }> {
  if ('templateId' in template)
    return { templateId: template.templateId, ...(await newestTemplate(tx, template.templateId)) };
  const shipped = shippedTemplates.find(({ key }) => key === template.shipped);
  if (!shipped) throw notFound('This template');
  return { name: shipped.name, templateId: null, number: null, body: shipped.body };
}

async function rememberReferrer(tx: Tx, patientId: string, colleagueId: string | null): Promise<void> {
  if (!colleagueId) return;
  await colleagueOf(tx, colleagueId);
  await Patient.update({ referrerId: colleagueId }, { where: { patientId }, ...within(tx) });
}

/** Keeps a letter as it is now. What somebody else changed meanwhile is not written over. */
export async function changeLetter(
  caller: Caller,
  visitId: string,
  letterId: string,
  key: string,
  wish: ChangeLetterWish
): Promise<{ seq: number }> {
  await demand(caller, 'write letters', visitId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, () => changed(tx, caller, visitId, letterId, wish))
  );
}

async function changed(
  tx: Tx,
  caller: Caller,
  visitId: string,
  letterId: string,
  wish: ChangeLetterWish
): Promise<{ seq: number }> {
  const { visit } = await visitHead(tx, visitId);
  const row = await rowOf(tx, visitId, letterId, true);
  if (row.seq !== wish.of) throw await changedMeanwhile(tx, row);
  if (wish.colleagueId !== row.colleague_id) await rememberReferrer(tx, visit.patientId, wish.colleagueId);
  const seq = row.seq + 1;
  await tx.sql(
    `update letter set title = $2, colleague_id = $3, names = $4, reasons = $5::text[], procedures = $6::text[],
         version = $7, body = $8::jsonb, seq = $9, changed_by = $10, changed_at = now()
       where letter_id = $1`,
    letterId,
    wish.title,
    wish.colleagueId,
    wish.names,
    wish.reasons,
    wish.procedures,
    letterBody.version,
    JSON.stringify(wish.body),
    seq,
    caller.userId
  );
  // Every pause in writing keeps it; the record says once in a while who did.
  if (
    row.changed_by !== caller.userId ||
    Date.now() - row.changed_at.getTime() > recordEveryMs ||
    row.seq === 1
  )
    await writeAudit(tx, caller, 'letter changed', letterId, {
      patientId: visit.patientId,
      visit: visitId,
      letter: wish.title
    });
  return { seq };
}
const recordEveryMs = 15 * 60_000;

/** Keeps it, and tells what fills it now. */
export async function changeAndFill(
  caller: Caller,
  visitId: string,
  letterId: string,
  key: string,
  wish: ChangeLetterWish
): Promise<{ seq: number; filling: LetterFilling }> {
  const { seq } = await changeLetter(caller, visitId, letterId, key, wish);
  return { seq, filling: (await filled(caller, visitId, wish)).filling };
}

/** What a letter would be filled with if it were begun so: looked at before there is one. */
export async function fillingOfTemplate(
  caller: Caller,
  visitId: string,
  { template, ...said }: BeginLetterWish
): Promise<{ places: PicturePlace[]; filling: LetterFilling }> {
  const { body } = await inClinic(caller.clinicId, (tx) => begunOf(tx, template));
  const { filling } = await filled(caller, visitId, { ...said, body });
  return { places: placesOfLetter(body), filling };
}

/** Puts a letter away. It stays in the records. */
export async function dropLetter(
  caller: Caller,
  visitId: string,
  letterId: string,
  key: string
): Promise<object> {
  await demand(caller, 'write letters', visitId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { visit } = await visitHead(tx, visitId);
      const row = await rowOf(tx, visitId, letterId, true);
      await tx.sql('update letter set dropped_at = now() where letter_id = $1', letterId);
      await writeAudit(tx, caller, 'letter dropped', letterId, {
        patientId: visit.patientId,
        visit: visitId,
        letter: row.title
      });
      return {};
    })
  );
}

async function changedMeanwhile(tx: Tx, row: Row): Promise<Problem> {
  const who = await tx.one<{ name: string }>(
    'select display_name as name from user_account where user_id = $1',
    row.changed_by
  );
  return new Problem(
    'letter-changed',
    `${who?.name ?? 'Somebody else'} has changed this letter since you opened it.`,
    'What you wrote is still here: copy what you need, then load the page again.',
    409
  );
}
