import { nameWords } from '../../core/people/names';
import { cleanText, shortened } from '../../core/text';
import { dayInWords } from '../../core/time/clinicTime';
import { instantOfDicom } from '../../core/dicom/dates';
import { Landing } from '../blobs/landing';
import { keepAtOnce } from '../blobs/keep';
import { insertBlob } from '../blobs/queries';
import { landingFolder } from '../config';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { addToTray, heldFirstTray, heldTray } from '../trays/trays';
import { type VisitHead, visitHead } from '../visits/visitHead';
import { openOutsideFile } from '../work/processes';
import { digestInThread } from '../work/threads';
import type { OpenedFile } from './decode/opened';
import { putLevels, putPreview } from './levelQueries';
import { previewKey } from './previewWish';
import { type SameBefore, holdKey, pictureOfKey, sameBefore } from './queries';
import { numberPicture, storePicture } from './store';
import { upright } from '../../core/raster/orientation';

export const mostFileBytes = 256 * 1024 * 1024;
const longestName = 200;

export interface BroughtIn {
  pictureId: string;
  /** What the person should hear at once: whose name it carries, that it was here before. */
  remarks: string[];
}

export interface FileFromOutside {
  visitId: string;
  /** The tray and the slot it was dropped into; the bench of the visit's first tray where it names none. */
  trayId: string | null;
  slotId: string | null;
  fileName: string;
  body: AsyncIterable<Uint8Array>;
  /** From the page: the same file offered again has the same key. */
  key: string;
}

/** The words of a name in one order, accents and case aside. */
const folded = (name: string) => nameWords(name).sort().join(' ');

/** What a person should know when the file names somebody else. The picture is kept where it was put all the same. */
function nameRemark(opened: OpenedFile, { patient }: VisitHead): string[] {
  const inFile = opened.patient?.name ?? '';
  if (inFile === '' || folded(inFile) === folded(`${patient.givenName} ${patient.familyName}`)) return [];
  return [`The file carries the name “${inFile.slice(0, 60)}”. Check that it belongs to this patient.`];
}

/** A name as it can be kept and shown: of what nobody can read or that is too long, what is left. */
const nameOf = (given: string): string => shortened(cleanText(given).trim(), longestName) || 'Without a name';

/** Brings one file in: landed and opened inside limits, then picture, take, audit and jobs in one transaction. */
export async function bringIn(caller: Caller, file: FileFromOutside): Promise<BroughtIn> {
  await demand(caller, 'bring in files', file.visitId);
  const before = await inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, file.visitId);
    return pictureOfKey(tx, file.key);
  });
  if (before) return { pictureId: before, remarks: [] };
  const landing = await Landing.open();
  const digest = digestInThread({ file: landing.part, progress: landing.progress, samples: null });
  digest.catch(() => {});
  try {
    await landing.receive(file.body, mostFileBytes);
    const found = await openOutsideFile(landing.part);
    const sha = Buffer.from((await digest).sha256, 'hex');
    const lands = landingFolder() !== null;
    const { size } = landing;
    const { part } = landing;
    if (lands) await landing.settle(Promise.resolve(sha), caller.clinicId);
    return await stored(caller, file, found, { sha, size, part: lands ? null : part });
  } finally {
    await landing.discard();
  }
}

/** All bytes first; the tray is held only for the moment in which the take is put into it. */
async function stored(
  caller: Caller,
  file: FileFromOutside,
  { opened, levels, small }: Awaited<ReturnType<typeof openOutsideFile>>,
  original: { sha: Buffer; size: number; part: string | null }
): Promise<BroughtIn> {
  return inClinic(caller.clinicId, async (tx) => {
    const visit = await visitHead(tx, file.visitId);
    const { sha, size, part } = original;
    if (part) await keepAtOnce(tx, sha, size, part);
    else await insertBlob(tx, sha, size, 'landed');
    await holdKey(tx, file.key);
    const again = await pictureOfKey(tx, file.key);
    if (again) return { pictureId: again, remarks: [] };
    const { origin, remarks, takenAt, patient: _, ...shape } = opened;
    const known = await knownAlready(tx, caller, visit.patient.patientId, sha, origin.instanceUid ?? null);
    const told = [...known, ...nameRemark(opened, visit)];
    const taken = takenAt && instantOfDicom(takenAt, caller.timeZone);
    const pictureId = await storePicture(tx, file.key, {
      ...shape,
      patientId: visit.patient.patientId,
      visitId: file.visitId,
      digest: sha,
      fileName: nameOf(file.fileName),
      source: 'file',
      origin: { version: 2, from: 'file', ...origin, remarks: [...told, ...remarks] },
      takenAt: taken ?? new Date()
    });
    await putLevels(tx, pictureId, levels);
    await putPreview(tx, pictureId, previewKey({ look: opened.firstLook, orientation: upright }), small);
    await enqueue(tx, queues.advise, { clinicId: tx.clinicId, pictureId });
    await announce(tx, { topic: 'picture', visitId: file.visitId, pictureId, view: null });
    const tray = file.trayId ? await heldTray(tx, file.trayId) : await heldFirstTray(tx, file.visitId);
    await numberPicture(tx, pictureId, file.visitId);
    await addToTray(
      tx,
      tray,
      [{ kind: 'take-added', takeId: pictureId, slotId: file.slotId, exposed: false }],
      caller
    );
    await writeAudit(tx, caller, 'file brought in', pictureId, {
      patientId: visit.patient.patientId,
      visit: file.visitId,
      kind: opened.mediaType
    });
    return { pictureId, remarks: told };
  });
}

/** Whether the same file, or the same picture by its own number, was brought in before; in words. */
async function knownAlready(
  tx: Tx,
  caller: Caller,
  patientId: string,
  digest: Buffer,
  instanceUid: string | null
): Promise<string[]> {
  const before = await sameBefore(tx, digest, instanceUid);
  if (before.length === 0) return [];
  const samePatient = before.find((each) => each.patient_id === patientId);
  const other = before.find((each) => each.patient_id !== patientId);
  const what = (each: SameBefore) =>
    each.same_file ? 'This same file' : 'This same picture, by its own number,';
  const day = (each: SameBefore) => dayInWords(each.brought_at, caller.timeZone);
  return [
    ...(other
      ? [
          `${what(other)} is already in the chart of ${other.patient_name} (${other.record_number}). Check whose it is.`
        ]
      : []),
    ...(samePatient ? [`${what(samePatient)} was brought in before, on ${day(samePatient)}.`] : [])
  ];
}
