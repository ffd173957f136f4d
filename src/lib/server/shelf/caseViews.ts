import { z } from 'zod';
import {
  type CaseSpine,
  type CaseState,
  type CaseView,
  ageBands,
  codingSystems
} from '../../core/shelf/teachingCase';
import { wholeBlob } from '../blobs/keep';
import { inClinic } from '../database/connection';
import { containing } from '../database/containing';
import { ruleInUse } from '../deidentify/rules';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { caseRow, entriesOf, filesOf, wordsOfCase } from './caseRows';

export const shelfQuery = z.strictObject({
  words: z.string().trim().max(100).default(''),
  age: z.enum(ageBands).optional(),
  system: z.enum(codingSystems).optional()
});
export type ShelfQuery = z.infer<typeof shelfQuery>;

/** The contents page: the clinic's cases by their numbers, each of whose words hold all that is looked for. */
export async function shelf(caller: Caller, query: ShelfQuery): Promise<CaseSpine[]> {
  await demand(caller, 'view charts', 'shelf');
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{
      case_id: string;
      number: number;
      state: CaseState;
      version: number;
      body: unknown;
      pictures: number;
      first_file: string | null;
    }>(
      `select c.case_id, c.number, c.state, c.version, c.body,
         (select count(*)::int from case_entry e
          where e.clinic_id = c.clinic_id and e.case_id = c.case_id and not e.dropped) as pictures,
         (select f.file_id from case_entry e join case_file f on f.clinic_id = e.clinic_id and f.entry_id = e.entry_id
          where e.clinic_id = c.clinic_id and e.case_id = c.case_id and not e.dropped and f.part = 'plain'
            and c.state = 'ready'
          order by e.position, f.frame limit 1) as first_file
       from teaching_case c
       where c.clinic_id = $1 and c.dropped_at is null
         and (select bool_and(lpad(c.number::text, 4, '0') || ' ' || c.search like word) is not false
              from unnest($2::text[]) word)
         and ($3::text is null or c.body ->> 'ageBand' = $3)
         and ($4::text is null or c.body -> 'diagnosis' ->> 'system' = $4)
       order by c.number`,
      tx.clinicId,
      query.words.toLowerCase().split(/\s+/).filter(Boolean).map(containing),
      query.age ?? null,
      query.system ?? null
    );
    return rows.map((row) => ({
      caseId: row.case_id,
      number: row.number,
      state: row.state,
      words: wordsOfCase(row),
      pictures: row.pictures,
      firstFile: row.first_file
    }));
  });
}

/** One case, opened. Pictures of one that was stopped are not shown: a name may stand in them. */
export async function teachingCase(caller: Caller, caseId: string): Promise<CaseView> {
  await demand(caller, 'view charts', caseId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await caseRow(tx, caseId);
    const entries = await entriesOf(tx, caseId);
    const files = row.state === 'ready' ? await filesOf(tx, caseId) : [];
    const of = (entryId: string, part: string) =>
      files.filter((file) => file.entry_id === entryId && file.part === part).map((file) => file.file_id);
    const by = await tx.one<{ name: string }>(
      'select display_name as name from user_account where user_id = $1',
      row.madeBy
    );
    const views = entries.map((entry) => ({
      entryId: entry.entry_id,
      title: entry.about?.what ?? '',
      place: entry.about?.place ?? '',
      kind: entry.about?.kind ?? '',
      width: entry.about?.width ?? 1,
      height: entry.about?.height ?? 1,
      frameMs: entry.about?.frameMs ?? null,
      dropped: entry.dropped,
      ready: entry.about !== null,
      plain: of(entry.entry_id, 'plain'),
      drawn: of(entry.entry_id, 'drawn')
    }));
    const shown = views.filter(({ dropped }) => !dropped);
    return {
      caseId,
      number: row.number,
      state: row.state,
      words: row.words,
      pictures: shown.length,
      firstFile: shown[0]?.plain[0] ?? null,
      rule: (await ruleInUse(tx, row.ruleId)).name,
      by: by?.name ?? '',
      madeAt: row.madeAt.toISOString(),
      why: row.why,
      letGo: row.letGo,
      found:
        row.state === 'stopped'
          ? entries
              .filter(({ dropped }) => !dropped)
              .flatMap(({ about, found }) =>
                (found ?? []).map(({ term, where, says }) => ({
                  what: about?.what ?? 'a picture',
                  words: `“${term}” in ${where}${says ? `, which reads “${says}”` : ''}`
                }))
              )
          : [],
      entries: views
    };
  });
}

/** A picture of a case to look at. */
export async function caseFile(caller: Caller, caseId: string, fileId: string): Promise<Buffer> {
  await demand(caller, 'view charts', caseId);
  const digest = await inClinic(caller.clinicId, async (tx) => {
    const file = await tx.one<{ sha256: Buffer }>(
      `select f.sha256 from case_file f join case_entry e on e.clinic_id = f.clinic_id and e.entry_id = f.entry_id
         join teaching_case c on c.clinic_id = e.clinic_id and c.case_id = e.case_id
       where f.clinic_id = $1 and f.file_id = $2 and c.case_id = $3 and f.part in ('plain', 'drawn')
         and c.state = 'ready' and c.dropped_at is null`,
      tx.clinicId,
      fileId,
      caseId
    );
    if (!file) throw notFound('This picture');
    return file.sha256;
  });
  return wholeBlob(caller.clinicId, digest);
}
