import { z } from 'zod';
import { type PaperChange, type PaperView, titleOfFile } from '../../core/papers/paper';
import { once } from '../acts/once';
import { noteLook } from '../audit/looks';
import { writeAudit } from '../audit/write';
import { blobStream } from '../blobs/keep';
import { type Tx, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { fileNameOf } from '../pictures/bringIn';
import { keepReceived, withOpened } from '../pictures/receiving';
import { notFound } from '../problem';
import { visitHead } from '../visits/visitHead';
import { openOutsidePaper } from '../work/processes';

interface Row {
  paper_id: string;
  visit_id: string;
  title: string;
  pages: number;
  bytes: number;
  added_by: string;
  added_at: Date;
  put_away_by: string | null;
}

const viewOf = (row: Row): PaperView => ({
  paperId: row.paper_id,
  visitId: row.visit_id,
  title: row.title,
  pages: row.pages,
  bytes: Number(row.bytes),
  addedBy: row.added_by,
  addedAt: row.added_at.toISOString(),
  putAwayBy: row.put_away_by
});

const asSeen = `
  select p.paper_id, p.visit_id, p.title, p.pages, b.size as bytes, a.display_name as added_by, p.added_at,
    g.display_name as put_away_by
  from paper p join visit v on v.visit_id = p.visit_id
    join blob b on b.clinic_id = p.clinic_id and b.sha256 = p.sha256
    join user_account a on a.user_id = p.added_by
    left join user_account g on g.user_id = p.put_away_by`;

/** The papers of a visit in the order they came, those that were put away too. */
export const papersOfVisit = async (tx: Tx, visitId: string): Promise<PaperView[]> =>
  (await tx.sql<Row>(`${asSeen} where p.visit_id = $1 order by p.added_at, p.paper_id`, visitId)).map(viewOf);

/** The papers that lie in a patient's chart, the newest first. */
export const papersOfPatient = async (tx: Tx, patientId: string): Promise<PaperView[]> =>
  (
    await tx.sql<Row>(
      `${asSeen} where v.patient_id = $1 and p.put_away_by is null order by p.added_at desc, p.paper_id`,
      patientId
    )
  ).map(viewOf);

export interface PaperFromOutside {
  visitId: string;
  fileName: string;
  body: AsyncIterable<Uint8Array>;
  /** From the page: the same file offered again has the same key. */
  key: string;
}

/** What became of it, and what the person should hear: that it lay here before. */
export interface PaperAdded {
  paperId: string;
  remarks: string[];
}

/** Brings a paper in. One that lies in the visit already is not laid there twice. */
export async function addPaper(caller: Caller, paper: PaperFromOutside): Promise<PaperAdded> {
  await demand(caller, 'bring in files', paper.visitId);
  const before = await inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, paper.visitId);
    return paperOfKey(tx, paper.key);
  });
  if (before) return { paperId: before, remarks: [] };
  return withOpened(caller.clinicId, paper.body, openOutsidePaper, (received) =>
    inClinic(caller.clinicId, async (tx) => {
      const { patient } = await visitHead(tx, paper.visitId);
      await tx.sql('select 1 from visit where visit_id = $1 for update', paper.visitId);
      const again = await paperOfKey(tx, paper.key);
      if (again) return { paperId: again, remarks: [] };
      await keepReceived(tx, received);
      const same = await tx.one<{ paper_id: string; title: string }>(
        `select paper_id, title from paper where visit_id = $1 and sha256 = $2 and put_away_by is null`,
        paper.visitId,
        received.digest
      );
      if (same)
        return {
          paperId: same.paper_id,
          remarks: [`This same paper lies here already, as “${same.title}”.`]
        };
      const paperId = newId();
      await tx.sql(
        `insert into paper (clinic_id, paper_id, visit_id, key, sha256, title, file_name, pages, added_by)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
        tx.clinicId,
        paperId,
        paper.visitId,
        paper.key,
        received.digest,
        titleOfFile(fileNameOf(paper.fileName)),
        fileNameOf(paper.fileName),
        received.found.pages,
        caller.userId
      );
      await announce(tx, { topic: 'story', visitId: paper.visitId });
      await writeAudit(tx, caller, 'paper brought in', paperId, {
        patientId: patient.patientId,
        visit: paper.visitId
      });
      return { paperId, remarks: [] };
    })
  );
}

const paperOfKey = async (tx: Tx, key: string): Promise<string | undefined> =>
  (await tx.one<{ paper_id: string }>('select paper_id from paper where key = $1', key))?.paper_id;

interface Place {
  visit_id: string;
  patient_id: string;
  sha256: Buffer;
  title: string;
}

async function placeOf(tx: Tx, paperId: string): Promise<Place> {
  const place =
    z.uuid().safeParse(paperId).success &&
    (await tx.one<Place>(
      `select p.visit_id, v.patient_id, p.sha256, p.title from paper p join visit v on v.visit_id = p.visit_id
       where p.paper_id = $1`,
      paperId
    ));
  if (!place) throw notFound('This paper');
  return place;
}

/** Names a paper, puts it away or brings it back. It stays in the records whatever becomes of it. */
export async function changePaper(
  caller: Caller,
  paperId: string,
  key: string,
  change: PaperChange
): Promise<{ paperId: string }> {
  await demand(caller, 'write stories', paperId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { visit_id: visitId, patient_id: patientId } = await placeOf(tx, paperId);
      if (change.kind === 'named')
        await tx.sql('update paper set title = $2 where paper_id = $1', paperId, change.title);
      else
        await tx.sql(
          `update paper set put_away_by = $2 where paper_id = $1`,
          paperId,
          change.kind === 'put away' ? caller.userId : null
        );
      await announce(tx, { topic: 'story', visitId });
      await writeAudit(tx, caller, 'paper changed', paperId, {
        patientId,
        visit: visitId,
        what: change.kind
      });
      return { paperId };
    })
  );
}

/** A paper's bytes as they came. Reading it is in the audit. */
export async function paperFile(
  caller: Caller,
  paperId: string
): Promise<{ bytes: ReadableStream<Uint8Array>; tag: string; title: string }> {
  await demand(caller, 'view charts', paperId);
  const {
    sha256,
    patient_id: patientId,
    title
  } = await inClinic(caller.clinicId, (tx) => placeOf(tx, paperId));
  noteLook(caller, 'paper viewed', paperId, { patientId });
  return { bytes: blobStream(caller.clinicId, sha256), tag: sha256.toString('hex'), title };
}
