import {
  type Story,
  type StoryPart,
  type StoryWriting,
  type Written,
  storyTexts,
  storyWriting
} from '../../core/visit/story';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { papersOfVisit } from '../papers/papers';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { visitHead } from './visitHead';

const stored = { version: 1, schema: storyWriting, upcasters: {} };

interface Row {
  seq: number;
  part: StoryPart;
  body: unknown;
  version: number;
  by: string;
  written_at: Date;
  earlier: number;
}

const read = (row: Pick<Row, 'part' | 'body' | 'version'>): StoryWriting =>
  readVersioned('The story', stored, row.version, { part: row.part, body: row.body });

const written = <T>(row: Row, body: T): Written<T> => ({
  body,
  by: row.by,
  at: row.written_at.toISOString(),
  earlier: row.earlier
});

/** The story of a visit: of each part what was written last. */
export async function storyOf(tx: Tx, visitId: string): Promise<Story> {
  const rows = await tx.sql<Row>(
    `select distinct on (s.part) s.seq, s.part, s.body, s.version, u.display_name as by, s.written_at,
       (count(*) over (partition by s.part))::int - 1 as earlier
     from visit_story s join user_account u on u.user_id = s.written_by
     where s.visit_id = $1 order by s.part, s.seq desc`,
    visitId
  );
  const story: Story = {
    seq: Math.max(0, ...rows.map(({ seq }) => seq)),
    texts: {},
    plannedOn: null,
    pictures: [],
    papers: await papersOfVisit(tx, visitId)
  };
  for (const row of rows) {
    const writing = read(row);
    if (writing.part === 'pictures') story.pictures = writing.body;
    else if (writing.part === 'planned on') story.plannedOn = written(row, writing.body);
    else story.texts[writing.part] = written(row, writing.body);
  }
  return story;
}

export async function storySeen(caller: Caller, visitId: string): Promise<Story> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    return storyOf(tx, visitId);
  });
}

/** Words that somebody goes on typing are one wording, not one for each pause. */
const oneWording = `interval '5 minutes'`;

/**
 * Writes one part of a story. What somebody wrote a moment ago is replaced; everything else stays to be read again. Who
 * writes last is shown: two who write the same part at once lose nothing.
 */
export async function writeStory(
  caller: Caller,
  visitId: string,
  key: string,
  { part, body }: StoryWriting
): Promise<{ seq: number }> {
  await demand(caller, 'write stories', visitId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { visit, patient } = await visitHead(tx, visitId);
      await tx.sql('select 1 from visit where visit_id = $1 for update', visit.visitId);
      if (part === 'pictures')
        await demandOwn(
          tx,
          visitId,
          body.map(({ pictureId }) => pictureId)
        );
      // An order of pictures that somebody made is a wording of its own: it can be gone back to.
      const again =
        part !== 'pictures' &&
        (await tx.one<{ seq: number }>(
          `update visit_story s set body = $3::jsonb, written_at = now()
         where s.visit_id = $1 and s.part = $2 and s.written_by = $4 and s.written_at > now() - ${oneWording}
           and s.seq = (select max(l.seq) from visit_story l where l.visit_id = $1 and l.part = $2)
         returning s.seq`,
          visitId,
          part,
          JSON.stringify(body),
          caller.userId
        ));
      const { seq } = again || (await addWording(tx, caller, visitId, part, body));
      await announce(tx, { topic: 'story', visitId });
      if (!again)
        await writeAudit(tx, caller, 'story written', visitId, { patientId: patient.patientId, part });
      return { seq };
    })
  );
}

async function addWording(
  tx: Tx,
  caller: Caller,
  visitId: string,
  part: StoryPart,
  body: unknown
): Promise<{ seq: number }> {
  const row = await tx.one<{ seq: number }>(
    `insert into visit_story (clinic_id, visit_id, seq, part, body, version, written_by)
     select $1, $2, coalesce(max(seq), 0) + 1, $3, $4::jsonb, $5, $6 from visit_story where visit_id = $2
     returning seq`,
    tx.clinicId,
    visitId,
    part,
    JSON.stringify(body),
    stored.version,
    caller.userId
  );
  return row!;
}

/** A story tells of its own visit's pictures. */
async function demandOwn(tx: Tx, visitId: string, pictureIds: readonly string[]): Promise<void> {
  const rows = await tx.sql<{ picture_id: string }>(
    'select picture_id from picture where visit_id = $1 and away is null and picture_id = any($2::uuid[])',
    visitId,
    `{${[...new Set(pictureIds)].join(',')}}`
  );
  if (rows.length === new Set(pictureIds).size) return;
  throw new Problem(
    'not-of-this-visit',
    'A picture that is put into the story does not lie in this visit.',
    'It may have been moved. Load the page again.',
    409
  );
}

/** A wording of one part, as it was once. */
export interface Wording {
  text: string;
  by: string;
  at: string;
}

const mostWordings = 50;

/** What a text of the story said before, the newest first, without what it says now. */
export async function earlierWordings(caller: Caller, visitId: string, part: string): Promise<Wording[]> {
  await demand(caller, 'view charts', visitId);
  if (!storyTexts.some((each) => each === part)) return [];
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    const rows = await tx.sql<Row>(
      `select s.seq, s.part, s.body, s.version, u.display_name as by, s.written_at, 0 as earlier
       from visit_story s join user_account u on u.user_id = s.written_by
       where s.visit_id = $1 and s.part = $2 order by s.seq desc offset 1 limit ${mostWordings}`,
      visitId,
      part
    );
    return rows.map((row) => ({
      text: String(read(row).body ?? ''),
      by: row.by,
      at: row.written_at.toISOString()
    }));
  });
}
