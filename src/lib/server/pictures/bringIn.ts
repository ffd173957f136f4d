import { instantOfDicom } from '../../core/dicom/dates';
import { Landing } from '../blobs/landing';
import { keepAtOnce } from '../blobs/keep';
import { insertBlob } from '../blobs/queries';
import { landingFolder } from '../config';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { addToTray, heldFirstTray, heldTray } from '../trays/trays';
import { type VisitHead, visitHead } from '../visits/visitHead';
import { openOutsideFile } from '../work/processes';
import { digestInThread } from '../work/threads';
import type { OpenedFile } from './decode/opened';
import { putLevels, putPreview } from './levelQueries';
import { previewKey } from './previewWish';
import { pictureOfKey } from './queries';
import { storePicture } from './store';
import { upright } from '../../core/raster/orientation';

export const mostFileBytes = 256 * 1024 * 1024;

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

const folded = (name: string) =>
  name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[\s,^]+/)
    .filter(Boolean)
    .sort()
    .join(' ');

/** What a person should know when the file names somebody else. The picture is kept where it was put all the same. */
function nameRemark(opened: OpenedFile, { patient }: VisitHead): string[] {
  const inFile = opened.patient?.name ?? '';
  if (inFile === '' || folded(inFile) === folded(`${patient.givenName} ${patient.familyName}`)) return [];
  return [`The file carries the name “${inFile.slice(0, 60)}”. Check that it belongs to this patient.`];
}

/** Brings one file in: landed and opened inside limits, then picture, take, audit and jobs in one transaction. */
export async function bringIn(caller: Caller, file: FileFromOutside): Promise<{ pictureId: string }> {
  await demand(caller, 'bring in files', file.visitId);
  const before = await inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, file.visitId);
    return pictureOfKey(tx, file.key);
  });
  if (before) return { pictureId: before };
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

async function stored(
  caller: Caller,
  file: FileFromOutside,
  { opened, levels, small }: Awaited<ReturnType<typeof openOutsideFile>>,
  original: { sha: Buffer; size: number; part: string | null }
): Promise<{ pictureId: string }> {
  return inClinic(caller.clinicId, async (tx) => {
    const visit = await visitHead(tx, file.visitId);
    const tray = file.trayId ? await heldTray(tx, file.trayId) : await heldFirstTray(tx, file.visitId);
    const again = await pictureOfKey(tx, file.key);
    if (again) return { pictureId: again };
    const { sha, size, part } = original;
    if (part) await keepAtOnce(tx, sha, size, part);
    else await insertBlob(tx, sha, size, 'landed');
    const { origin, remarks, takenAt, patient: _, ...shape } = opened;
    const pictureId = await storePicture(tx, file.key, {
      ...shape,
      patientId: visit.patient.patientId,
      visitId: file.visitId,
      digest: sha,
      fileName: file.fileName.slice(0, 200),
      source: 'file',
      origin: {
        version: 2,
        from: 'file',
        ...origin,
        remarks: [...remarks, ...nameRemark(opened, visit)]
      },
      takenAt: (takenAt && instantOfDicom(takenAt, caller.timeZone)) ?? new Date()
    });
    await putLevels(tx, pictureId, levels);
    await putPreview(tx, pictureId, previewKey({ look: opened.firstLook, orientation: upright }), small);
    await announce(tx, { topic: 'picture', visitId: file.visitId, pictureId, view: null });
    await addToTray(
      tx,
      tray,
      [{ kind: 'take-added', takeId: pictureId, slotId: file.slotId, exposed: false }],
      caller
    );
    await writeAudit(tx, caller.name, 'file brought in', pictureId, {
      visit: file.visitId,
      kind: opened.mediaType
    });
    return { pictureId };
  });
}
