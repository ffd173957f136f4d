import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { addToTray, trayOfVisit } from '../trays/trays';
import { visitHead } from '../visits/visits';
import { decodeFile } from './decode/pool';
import type { Decoded } from './decode/decoded';
import { pictureOfKey, storeLevel, storePicture } from './store';

export const mostFileBytes = 256 * 1024 * 1024;

export interface FileFromOutside {
  visitId: string;
  /** The slot it was dropped into, or null for the bench. */
  slotId: string | null;
  fileName: string;
  bytes: Uint8Array;
  /** From the page: the same file offered again has the same key. */
  key: string;
}

function takenOn(decoded: Decoded, now: Date): Date {
  if (!decoded.takenAt) return now;
  const { date, time } = decoded.takenAt;
  const iso = `${date.slice(0, 4)}-${date.slice(4, 6)}-${date.slice(6)}T${time.slice(0, 2)}:${time.slice(2, 4)}:${time.slice(4)}Z`;
  const at = new Date(iso);
  return Number.isNaN(at.getTime()) ? now : at;
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
function nameRemark(decoded: Decoded, patient: { family_name: string; given_name: string }): string[] {
  const inFile = decoded.patient?.name ?? '';
  if (inFile === '' || folded(inFile) === folded(`${patient.given_name} ${patient.family_name}`)) return [];
  return [`The file carries the name “${inFile.slice(0, 60)}”. Check that it belongs to this patient.`];
}

/** Brings one file in: opened inside limits, then picture, take, audit and jobs in one transaction. */
export async function bringIn(caller: Caller, file: FileFromOutside): Promise<{ pictureId: string }> {
  await demand(caller, 'bring in files', file.visitId);
  if (file.bytes.length > mostFileBytes) {
    throw new Problem(
      'too-large',
      `This file is larger than ${mostFileBytes / 1024 / 1024} MB.`,
      'Export it again, smaller.',
      413
    );
  }
  const before = await inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, file.visitId);
    return pictureOfKey(tx, file.key);
  });
  if (before) return { pictureId: before };
  const decoded = await decodeFile(file.bytes);
  return inClinic(caller.clinicId, async (tx) => {
    const visit = await visitHead(tx, file.visitId);
    const stored = await trayOfVisit(tx, file.visitId, true);
    const again = await pictureOfKey(tx, file.key);
    if (again) return { pictureId: again };
    const pictureId = await storePicture(tx, file.key, {
      patientId: visit.patient_id,
      visitId: file.visitId,
      original: file.bytes,
      mediaType: decoded.mediaType,
      fileName: file.fileName.slice(0, 200),
      source: 'file',
      raster: decoded.raster,
      facts: {
        version: 1,
        from: 'file',
        ...decoded.facts,
        remarks: [...decoded.remarks, ...nameRemark(decoded, visit)]
      },
      takenAt: takenOn(decoded, new Date())
    });
    await storeLevel(tx, pictureId, 0, decoded.raster);
    await addToTray(
      tx,
      stored,
      [{ kind: 'take-added', takeId: pictureId, slotId: file.slotId, exposed: false }],
      caller.name
    );
    await writeAudit(tx, caller.name, 'file brought in', pictureId, {
      visit: file.visitId,
      kind: decoded.mediaType
    });
    return { pictureId };
  });
}
