import type { FoundName } from '../../core/deidentify/parcelCheck';
import type { Dataset } from '../../core/dicom/dataset';
import { type CaseState, type CaseWords, caseWords } from '../../core/shelf/teachingCase';
import { readVersioned } from '../../core/versioned';
import type { Tx } from '../database/connection';
import type { PackedAbout } from '../dispatch/packedItem';
import { announce } from '../news/announce';
import { notFound } from '../problem';

export interface CaseRow {
  caseId: string;
  number: number;
  ruleId: string;
  state: CaseState;
  why: string;
  letGo: string;
  words: CaseWords;
  madeBy: string;
  madeAt: Date;
}

interface Stored {
  case_id: string;
  number: number;
  rule_id: string;
  state: CaseState;
  why: string;
  let_go: string;
  version: number;
  body: unknown;
  made_by: string;
  made_at: Date;
}

/** A case on the shelf, held until the transaction ends where it is to be changed. @throws Problem when there is none */
export async function caseRow(tx: Tx, caseId: string, held = false): Promise<CaseRow> {
  const row = await tx.one<Stored>(
    `select * from teaching_case where clinic_id = $1 and case_id = $2 and dropped_at is null ${held ? 'for update' : ''}`,
    tx.clinicId,
    caseId
  );
  if (!row) throw notFound('This case');
  return {
    caseId: row.case_id,
    number: row.number,
    ruleId: row.rule_id,
    state: row.state,
    why: row.why,
    letGo: row.let_go,
    words: wordsOfCase(row),
    madeBy: row.made_by,
    madeAt: row.made_at
  };
}

export const wordsOfCase = ({ version, body }: Pick<Stored, 'version' | 'body'>): CaseWords =>
  readVersioned('A teaching case', caseWords, version, body);

export type CaseAbout = Pick<
  PackedAbout,
  'what' | 'place' | 'kind' | 'width' | 'height' | 'frameMs' | 'date' | 'frames'
>;

export interface EntryRow {
  entry_id: string;
  picture_id: string;
  about: CaseAbout | null;
  found: FoundName[] | null;
  dropped: boolean;
}
export type CasePart = 'picture' | 'state' | 'report' | 'plain' | 'drawn';
export interface FileRow {
  file_id: string;
  entry_id: string;
  part: CasePart;
  frame: number;
  sha256: Buffer;
  /** Attributes of an object, for an index of objects. */
  told: Dataset | null;
}

export const entriesOf = (tx: Tx, caseId: string): Promise<EntryRow[]> =>
  tx.sql(
    `select entry_id, picture_id, about, found, dropped from case_entry
     where clinic_id = $1 and case_id = $2 order by position`,
    tx.clinicId,
    caseId
  );

export const filesOf = (tx: Tx, caseId: string): Promise<FileRow[]> =>
  tx.sql(
    `select f.file_id, f.entry_id, f.part, f.frame, f.sha256, f.told from case_file f
       join case_entry e on e.clinic_id = f.clinic_id and e.entry_id = f.entry_id
     where f.clinic_id = $1 and e.case_id = $2 order by f.entry_id, f.part, f.frame`,
    tx.clinicId,
    caseId
  );

export const announceCase = (tx: Tx, caseId: string): Promise<unknown> =>
  announce(tx, { topic: 'shelf', caseId });
