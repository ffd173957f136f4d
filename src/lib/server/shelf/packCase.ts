import { foundWords } from '../../core/deidentify/parcelCheck';
import { type Dataset, isSequence } from '../../core/dicom/dataset';
import { plainPacking } from '../../core/parcel/packing';
import { caseNumber } from '../../core/shelf/teachingCase';
import { keepBytes } from '../blobs/keep';
import { type Tx, inClinic } from '../database/connection';
import type { ItemPacked, ItemWish, PackedFile } from '../dispatch/packedItem';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { Problem } from '../problem';
import { packedOutside } from '../work/processes';
import { type CaseAbout, type CasePart, type CaseRow, announceCase, caseRow, entriesOf } from './caseRows';

/** A turn is over after so long; the rest is another job. */
const turnMs = 20_000;

/**
 * Packs the pictures of a case: its DICOM objects with nothing but the number for a name, and what is looked at, with and
 * without what was drawn. Begun again at the picture where it was killed; what is found in one stops the case.
 */
export async function packCase(clinicId: string, caseId: string): Promise<void> {
  const began = Date.now();
  for (;;) {
    const { row, next } = await inClinic(clinicId, async (tx) => ({
      row: await caseRow(tx, caseId).catch(() => null),
      next: (await shownOf(tx, caseId)).find(({ about }) => about === null)
    }));
    if (row?.state !== 'packing') return;
    if (!next) return finish(clinicId, caseId);
    if (Date.now() - began > turnMs) {
      await inClinic(clinicId, (tx) => enqueue(tx, queues.shelve, { clinicId, caseId }));
      return;
    }
    try {
      const packed = await packedFor(clinicId, row, next.picture_id);
      await inClinic(clinicId, (tx) => keep(tx, caseId, next.entry_id, packed));
    } catch (error) {
      if (!(error instanceof Problem) || error.code === 'database-away') throw error;
      await inClinic(clinicId, (tx) => stop(tx, caseId, `${error.sentence} ${error.next}`));
      return;
    }
  }
}

/** What is left out of a case need not be packed, and stops nothing. */
const shownOf = async (tx: Tx, caseId: string) =>
  (await entriesOf(tx, caseId)).filter(({ dropped }) => !dropped);

interface Packed {
  whole: ItemPacked;
  plain: ItemPacked;
}

async function packedFor(clinicId: string, row: CaseRow, pictureId: string): Promise<Packed> {
  const wish: ItemWish = {
    clinicId,
    pictureId,
    identity: 'deidentified',
    ruleId: row.ruleId,
    as: { name: caseNumber(row.number), purpose: `case ${row.caseId}` },
    packing: { ...plainPacking, format: 'package', drawings: 'beside' },
    madeBy: row.madeBy,
    check: row.letGo === ''
  };
  return {
    whole: await packedOutside(wish),
    plain: await packedOutside({
      ...wish,
      packing: { ...plainPacking, format: 'jpeg', drawings: 'out' },
      check: false
    })
  };
}

async function keep(tx: Tx, caseId: string, entryId: string, { whole, plain }: Packed): Promise<void> {
  const put = async (part: CasePart, frame: number, { bytes, set }: Pick<PackedFile, 'bytes' | 'set'>) =>
    tx.sql(
      `insert into case_file (clinic_id, file_id, entry_id, part, frame, sha256, told) values ($1, $2, $3, $4, $5, $6, $7::jsonb)
       on conflict do nothing`,
      tx.clinicId,
      newId(),
      entryId,
      part,
      frame,
      await keepBytes(tx, bytes),
      set ? JSON.stringify(inWords(set)) : null
    );
  for (const file of whole.files) {
    const { part } = file;
    if (part === 'picture' || part === 'state' || part === 'report') await put(part, 0, file);
  }
  const drawn = whole.files.filter(({ part }) => part === 'shown');
  for (const [at, file] of plain.files.entries()) {
    const frame = file.frame ?? 0;
    await put('plain', frame, file);
    // Where nothing is drawn, nothing is kept twice.
    if (drawn[at] && !Buffer.from(drawn[at].bytes).equals(Buffer.from(file.bytes)))
      await put('drawn', frame, drawn[at]);
  }
  const { what, place, kind, width, height, frameMs, frames, date } = whole.about;
  const about: CaseAbout = { what, place, kind, width, height, frameMs, frames, date };
  await tx.sql(
    'update case_entry set about = $3::jsonb, found = $4::jsonb where clinic_id = $1 and entry_id = $2',
    tx.clinicId,
    entryId,
    JSON.stringify(about),
    JSON.stringify(whole.found)
  );
  await announceCase(tx, caseId);
}

/** Attributes without those whose values are bytes. */
const inWords = (set: Dataset): Dataset =>
  set
    .filter(({ value }) => Array.isArray(value))
    .map((each) => (isSequence(each.value) ? { ...each, value: each.value.map(inWords) } : each));

async function finish(clinicId: string, caseId: string): Promise<void> {
  await inClinic(clinicId, async (tx) => {
    const row = await caseRow(tx, caseId, true);
    if (row.state !== 'packing') return;
    const found = foundWords((await shownOf(tx, caseId)).flatMap((entry) => entry.found ?? []));
    if (found.length > 0 && row.letGo === '')
      return stop(
        tx,
        caseId,
        `Something was found in its pictures that must not stand on the shelf: ${found.slice(0, 4).join(', ')}. Lay a veil over it in De-identify and look through it again, or say why it is no name.`
      );
    await tx.sql(
      `update teaching_case set state = 'ready', why = '' where clinic_id = $1 and case_id = $2`,
      tx.clinicId,
      caseId
    );
    await announceCase(tx, caseId);
  });
}

async function stop(tx: Tx, caseId: string, why: string): Promise<void> {
  await tx.sql(
    `update teaching_case set state = 'stopped', why = $3 where clinic_id = $1 and case_id = $2 and state = 'packing'`,
    tx.clinicId,
    caseId,
    why
  );
  await announceCase(tx, caseId);
}
