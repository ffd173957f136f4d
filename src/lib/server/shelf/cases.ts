import { z } from 'zod';
import { termsInText } from '../../core/deidentify/residual';
import {
  type CaseWords,
  caseWords,
  mostCasePictures,
  partsOfWords,
  ruleForCases,
  textOf
} from '../../core/shelf/teachingCase';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { lookFirst, unlooked } from '../deidentify/lettering';
import { type RuleInUse, ruleInUse, rulesOf } from '../deidentify/rules';
import { termsOf } from '../deidentify/terms';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { type Caller, demand } from '../people/caller';
import { readOrigin } from '../pictures/origin';
import { type PictureRow, picturesByIds } from '../pictures/queries';
import { Problem, notFound } from '../problem';
import { visitHead } from '../visits/visitHead';
import { type CaseRow, announceCase, caseRow, entriesOf } from './caseRows';

const why = z.string().trim().min(3, 'Say why it may stand there.').max(300).optional();
const words = caseWords.schema;

export const caseWish = z.strictObject({
  pictureIds: z.array(z.uuid()).min(1).max(mostCasePictures),
  ruleId: z.uuid().nullable(),
  words,
  /** A name that is found in its words is none: a person says why. */
  why
});
export const caseChange = z.discriminatedUnion('act', [
  z.strictObject({
    act: z.literal('write'),
    words,
    /** Its pictures in their order; those that are not named stay in it and are left out. */
    order: z.array(z.uuid()).min(1).max(mostCasePictures),
    why
  }),
  /** Packs and looks through again what was stopped. */
  z.strictObject({ act: z.literal('again') }),
  z.strictObject({
    act: z.literal('let stand'),
    why: z.string().trim().min(3, 'Say why it may stand there.').max(300)
  })
]);

/** Makes a case of pictures of one patient or of several: it is numbered at once, and packed by a job. */
export async function makeCase(
  caller: Caller,
  key: string,
  wish: z.infer<typeof caseWish>
): Promise<{ caseId: string; number: number }> {
  await demand(caller, 'send', 'shelf');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const rows = await picturesByIds(tx, wish.pictureIds);
      if (rows.length < wish.pictureIds.length) throw notFound('One of these pictures');
      const rule = await ruleInUse(tx, wish.ruleId ?? ruleForCases(await rulesOf(tx))?.ruleId ?? null);
      const left = await unlooked(tx, rows);
      if (left.length > 0) throw lookFirst(left.length);
      await demandNameless(tx, wish.words, rows, rule, wish.why);
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 2))', `shelf ${tx.clinicId}`);
      const caseId = newId();
      const { number } = (await tx.one<{ number: number }>(
        `insert into teaching_case (clinic_id, case_id, number, rule_id, version, body, search, made_by)
         select $1, $2, coalesce(max(number), 0) + 1, $3, $4, $5::jsonb, $6, $7 from teaching_case where clinic_id = $1
         returning number`,
        tx.clinicId,
        caseId,
        rule.ruleId,
        caseWords.version,
        JSON.stringify(wish.words),
        textOf(wish.words).toLowerCase(),
        caller.userId
      ))!;
      for (const [position, pictureId] of wish.pictureIds.entries())
        await tx.sql(
          `insert into case_entry (clinic_id, case_id, entry_id, picture_id, position) values ($1, $2, $3, $4, $5)`,
          tx.clinicId,
          caseId,
          newId(),
          pictureId,
          position
        );
      await enqueue(tx, queues.shelve, { clinicId: tx.clinicId, caseId });
      await announceCase(tx, caseId);
      for (const patientId of new Set(rows.map((row) => row.patient_id)))
        await writeAudit(tx, caller, 'case made', caseId, { patientId, number, rule: rule.name });
      return { caseId, number };
    })
  );
}

export async function changeCase(
  caller: Caller,
  key: string,
  caseId: string,
  wish: z.infer<typeof caseChange>
): Promise<object> {
  await demand(caller, 'send', caseId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await caseRow(tx, caseId, true);
      if (wish.act === 'write') {
        await write(tx, caseId, row.ruleId, wish);
        await packAnew(tx, row);
      } else {
        if (row.state !== 'stopped')
          throw new Problem('not-stopped', 'This case is not stopped.', 'Nothing is to be done.', 409);
        await tx.sql(
          `update teaching_case set state = 'packing', why = '', let_go = $3 where clinic_id = $1 and case_id = $2`,
          tx.clinicId,
          caseId,
          wish.act === 'let stand' ? `${caller.name}: ${wish.why}` : ''
        );
        // What was stopped is packed anew: veils may have been laid since.
        await tx.sql(
          `delete from case_file where clinic_id = $1 and entry_id in (
             select entry_id from case_entry where clinic_id = $1 and case_id = $2)`,
          tx.clinicId,
          caseId
        );
        await tx.sql(
          'update case_entry set about = null, found = null where clinic_id = $1 and case_id = $2',
          tx.clinicId,
          caseId
        );
        await enqueue(tx, queues.shelve, { clinicId: tx.clinicId, caseId });
      }
      await announceCase(tx, caseId);
      await writeAudit(tx, caller, 'case changed', caseId, {
        what: wish.act,
        ...('why' in wish && wish.why ? { why: wish.why } : {})
      });
      return {};
    })
  );
}

/** A picture that was left out stops a case no longer, and one that came back has to be packed. */
async function packAnew(tx: Tx, { caseId, state }: CaseRow): Promise<void> {
  const unpacked = (await entriesOf(tx, caseId)).some(({ about, dropped }) => !dropped && about === null);
  if (state === 'packing' || (state === 'ready' && !unpacked)) return;
  await tx.sql(
    `update teaching_case set state = 'packing', why = '' where clinic_id = $1 and case_id = $2`,
    tx.clinicId,
    caseId
  );
  await enqueue(tx, queues.shelve, { clinicId: tx.clinicId, caseId });
}

async function write(
  tx: Tx,
  caseId: string,
  ruleId: string,
  wish: Extract<z.infer<typeof caseChange>, { act: 'write' }>
): Promise<void> {
  const entries = await entriesOf(tx, caseId);
  const known = new Set(entries.map(({ entry_id: id }) => id));
  if (wish.order.some((id) => !known.has(id))) throw notFound('One of these pictures');
  const rows = await picturesByIds(
    tx,
    entries.map(({ picture_id: id }) => id)
  );
  await demandNameless(tx, wish.words, rows, await ruleInUse(tx, ruleId), wish.why);
  await tx.sql(
    `update teaching_case set version = $3, body = $4::jsonb, search = $5 where clinic_id = $1 and case_id = $2`,
    tx.clinicId,
    caseId,
    caseWords.version,
    JSON.stringify(wish.words),
    textOf(wish.words).toLowerCase()
  );
  const rest = entries.map(({ entry_id: id }) => id).filter((id) => !wish.order.includes(id));
  for (const [position, entryId] of [...wish.order, ...rest].entries())
    await tx.sql(
      'update case_entry set position = $3, dropped = $4 where clinic_id = $1 and entry_id = $2',
      tx.clinicId,
      entryId,
      position,
      !wish.order.includes(entryId)
    );
}

/** @throws Problem where words of a case hold what points to a person, and nobody says that it is none */
async function demandNameless(
  tx: Tx,
  told: CaseWords,
  rows: readonly PictureRow[],
  { rule }: RuleInUse,
  reason: string | undefined
): Promise<void> {
  if (reason) return;
  const terms = new Set<string>();
  const seen = new Map<string, Awaited<ReturnType<typeof termsOf>>>();
  for (const row of rows) {
    const of = seen.get(row.visit_id) ?? (await termsOf(tx, await visitHead(tx, row.visit_id), rule));
    seen.set(row.visit_id, of);
    for (const term of of(readOrigin(row.facts))) terms.add(term);
  }
  const found = partsOfWords(told).flatMap(([part, text]) =>
    termsInText(text, [...terms]).map((term) => `“${term}” in ${part}`)
  );
  if (found.length > 0)
    throw new Problem(
      'name-in-words',
      `Something that points to a person stands in the words of this case: ${found.slice(0, 3).join(', ')}.`,
      'Write it without, or say why it is no name.',
      409
    );
}

/** Takes a case off the shelf. Its number is not given again. */
export async function dropCase(caller: Caller, key: string, caseId: string): Promise<object> {
  await demand(caller, 'send', caseId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await caseRow(tx, caseId, true);
      await tx.sql(
        'update teaching_case set dropped_at = now() where clinic_id = $1 and case_id = $2',
        tx.clinicId,
        caseId
      );
      await announceCase(tx, caseId);
      await writeAudit(tx, caller, 'case changed', caseId, { what: 'taken off the shelf' });
      return {};
    })
  );
}

/** Removes for good the bytes of cases that were taken off the shelf as long ago as a bin keeps what was deleted. */
export const forgetCases = (clinicId: string): Promise<void> =>
  inClinic(clinicId, async (tx) => {
    const [{ files }] = await tx.sql<{ files: number }>('select forget_cases($1) as files', clinicId);
    if (files > 0)
      await writeAudit(tx, { system: 'upkeep' }, 'case changed', 'cases', {
        what: 'bytes of cases taken off the shelf removed',
        files
      });
  });
