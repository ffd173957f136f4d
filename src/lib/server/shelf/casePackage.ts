import { type FiledObject, filedPath, writeFileSetIndex } from '../../core/dicom/fileSetWrite';
import { instanceUids } from '../../core/dicom/instanceUids';
import { dicomUid } from '../../core/identity/uuid7';
import { asFileName } from '../../core/parcel/fileNames';
import { packageBundle } from '../../core/parcel/packageBundle';
import { packageManifest } from '../../core/parcel/packageManifest';
import { packagePage } from '../../core/parcel/packagePage';
import type { PageOf } from '../../core/parcel/packageParts';
import { type CaseWords, caseNumber } from '../../core/shelf/teachingCase';
import { writeAudit } from '../audit/write';
import { wholeBlob } from '../blobs/keep';
import { inClinic } from '../database/connection';
import type { ParcelFile } from '../dispatch/parcelFiles';
import { zipStream } from '../dispatch/zipStream';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { type CaseRow, caseRow, entriesOf, filesOf } from './caseRows';

/** A case as an open package: what was packed for the shelf, and a page that shows it anywhere, answers hidden. */
export async function casePackage(
  caller: Caller,
  caseId: string
): Promise<{ stream: ReadableStream<Uint8Array>; fileName: string }> {
  await demand(caller, 'send', caseId);
  const row = await inClinic(caller.clinicId, async (tx) => {
    const found = await caseRow(tx, caseId);
    if (found.state !== 'ready')
      throw new Problem(
        'not-ready',
        found.state === 'packing' ? 'This case is still being packed.' : 'This case is stopped.',
        found.state === 'packing' ? 'Wait until it is ready.' : 'See why on its page.',
        409
      );
    await writeAudit(tx, caller, 'parcel fetched', caseId, { case: found.number });
    return found;
  });
  return {
    stream: zipStream(caseFiles(caller.clinicId, row)),
    fileName: `${asFileName(`case ${caseNumber(row.number)}`)}.zip`
  };
}

const text = (words: string) => new TextEncoder().encode(words);

/** All files of a case's package, one after the other. */
export async function* caseFiles(clinicId: string, row: CaseRow): AsyncGenerator<ParcelFile> {
  const { entries, files } = await inClinic(clinicId, async (tx) => ({
    entries: (await entriesOf(tx, row.caseId)).filter(({ dropped, about }) => !dropped && about),
    files: await filesOf(tx, row.caseId)
  }));
  const objects: FiledObject[] = [];
  const pages: PageOf[] = [];
  for (const [at, { entry_id: entryId, about }] of entries.entries()) {
    const own = files.filter((file) => file.entry_id === entryId);
    let uids: PageOf['uids'] = null;
    for (const { sha256, told: set } of own) {
      if (!set) continue;
      const bytes = await wholeBlob(clinicId, sha256);
      const path = filedPath(objects.length + 1);
      objects.push({ path, set });
      uids ??= instanceUids(set);
      yield { path: path.join('/'), bytes };
    }
    const shown = async function* (part: 'plain' | 'drawn', folder: string) {
      for (const { sha256, frame } of own.filter((file) => file.part === part)) {
        const name = asFileName(`${String(at + 1).padStart(2, '0')} ${about!.what}`);
        const path = `${folder}/${name}${about!.frames > 1 ? ` frame ${String(frame + 1).padStart(3, '0')}` : ''}.jpg`;
        yield { path, bytes: await wholeBlob(clinicId, sha256) };
      }
    };
    const page: PageOf = {
      ...about!,
      who: caseNumber(row.number),
      number: caseNumber(row.number),
      date: '',
      files: [],
      found: [],
      uids
    };
    for await (const file of shown('plain', 'pictures')) {
      page.files.push(file.path);
      yield file;
    }
    for await (const file of shown('drawn', 'found')) {
      page.found!.push(file.path);
      yield file;
    }
    pages.push(page);
  }
  const who = [{ id: caseNumber(row.number), name: null, born: null, sex: '' as const }];
  yield { path: 'DICOMDIR', bytes: writeFileSetIndex(objects, dicomUid(row.caseId)) };
  yield { path: 'fhir-bundle.json', bytes: text(JSON.stringify(packageBundle(who, pages), null, 2)) };
  yield {
    path: 'index.html',
    bytes: text(
      packagePage({
        title: `Case ${row.number}: ${row.words.title}`,
        who: [],
        deidentified: true,
        clinic: '',
        words: '',
        pages,
        told: { first: firstOf(row.words), hidden: hiddenOf(row.words) }
      })
    )
  };
  yield {
    path: 'yonder-package.json',
    bytes: text(packageManifest('deidentified', pages, { case: { number: row.number, ...row.words } }))
  };
}

const firstOf = ({ description, ageBand, keyWords }: CaseWords): string[] =>
  [description, ageBand === 'not said' ? '' : `Age ${ageBand}`, keyWords.join(', ')].filter(Boolean);
const hiddenOf = ({ findings, diagnosis }: CaseWords): string[] =>
  [findings, diagnosis ? `${diagnosis.words} (${diagnosis.system} ${diagnosis.code})` : ''].filter(Boolean);
