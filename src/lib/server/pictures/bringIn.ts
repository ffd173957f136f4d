import { nameWords } from '../../core/people/names';
import { cleanText, shortened } from '../../core/text';
import { dayInWords } from '../../core/time/clinicTime';
import type { OwnLook } from '../../core/raster/look/ownLook';
import { instantOfDicom } from '../../core/dicom/dates';
import { type By, writeAudit } from '../audit/write';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, inClinic, within } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { type Actor, addToTray, heldFirstTray, heldTray } from '../trays/trays';
import { type VisitHead, visitHead } from '../visits/visitHead';
import { putLevels, putPreview } from './levelQueries';
import { previewKey } from './previewWish';
import { type SameBefore, holdKey, pictureOfKey, sameBefore } from './queries';
import { type ReceivedFile, keepReceived, withReceived } from './receiving';
import { numberPicture, storePicture } from './store';
import { upright } from '../../core/raster/orientation';

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
export function nameRemark(inName: string, { patient }: VisitHead): string[] {
  if (inName === '' || folded(inName) === folded(`${patient.givenName} ${patient.familyName}`)) return [];
  return [`The file carries the name “${inName.slice(0, 60)}”. Check that it belongs to this patient.`];
}

/** A name as it can be kept and shown: of what nobody can read or that is too long, what is left. */
export const fileNameOf = (given: string): string =>
  shortened(cleanText(given).trim(), longestName) || 'Without a name';

/** Brings one file in: landed and opened inside limits, then picture, take, audit and jobs in one transaction. */
export async function bringIn(caller: Caller, file: FileFromOutside): Promise<BroughtIn> {
  await demand(caller, 'bring in files', file.visitId);
  const before = await inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, file.visitId);
    return pictureOfKey(tx, file.key);
  });
  if (before) return { pictureId: before, remarks: [] };
  return withReceived(caller.clinicId, file.body, (received) => stored(caller, file, received));
}

async function stored(caller: Caller, file: FileFromOutside, received: ReceivedFile): Promise<BroughtIn> {
  return inClinic(caller.clinicId, async (tx) => {
    const { timeZone } = caller;
    const place = { ...file, timeZone, from: 'file', exposed: false, actor: caller, by: caller };
    const { pictureId, remarks } = await putIntoVisit(tx, place, received);
    return { pictureId, remarks };
  });
}

/** Where a file that is here goes, and who put it there. */
export interface FilePlace extends Omit<FileFromOutside, 'body'> {
  timeZone: string;
  /** What stands as its origin. */
  from: string;
  /** What its device's pictures open with. */
  opensWith?: OwnLook;
  /** Whether a device made it for this slot: then the route moves on, and it is never taken back. */
  exposed: boolean;
  exposedBy?: string;
  actor: Actor;
  by: By;
}

/**
 * Picture, take, audit and jobs of a file that was received, in one transaction. All bytes first; the tray is held only
 * for the moment in which the take is put into it.
 */
export async function putIntoVisit(
  tx: Tx,
  place: FilePlace,
  received: ReceivedFile
): Promise<BroughtIn & { again: boolean }> {
  const { visitId, key, timeZone } = place;
  const { opened, levels, small } = received.found;
  const visit = await visitHead(tx, visitId);
  const { patientId } = visit.patient;
  await keepReceived(tx, received);
  await holdKey(tx, key);
  const again = await pictureOfKey(tx, key);
  if (again) return { pictureId: again, remarks: [], again: true };
  const { origin, remarks, takenAt, patient, ...shape } = opened;
  const known = await knownAlready(tx, patientId, received.digest, origin.instanceUid ?? null);
  const told = [...known, ...nameRemark(patient?.name ?? '', visit)];
  const pictureId = await storePicture(tx, key, {
    ...shape,
    patientId,
    visitId,
    digest: received.digest,
    fileName: fileNameOf(place.fileName),
    source: 'file',
    origin: {
      version: 2,
      from: place.from,
      opensWith: place.opensWith,
      ...origin,
      remarks: [...told, ...remarks]
    },
    takenAt: (takenAt && instantOfDicom(takenAt, timeZone)) ?? new Date(),
    byName: place.actor.userId ? place.actor.name : ''
  });
  await putLevels(tx, pictureId, levels);
  await putPreview(tx, pictureId, previewKey({ look: opened.firstLook, orientation: upright }), small);
  await enqueue(tx, queues.advise, { clinicId: tx.clinicId, pictureId });
  await announce(tx, { topic: 'picture', visitId, pictureId, view: null });
  const tray = place.trayId ? await heldTray(tx, place.trayId) : await heldFirstTray(tx, visitId);
  await numberPicture(tx, pictureId, visitId);
  const { slotId, exposed, exposedBy } = place;
  const event = { kind: 'take-added' as const, takeId: pictureId, slotId, exposed };
  await addToTray(tx, tray, [event], place.actor, { exposedBy });
  await writeAudit(tx, place.by, 'file brought in', pictureId, {
    patientId,
    visit: visitId,
    kind: opened.mediaType
  });
  return { pictureId, remarks: told, again: false };
}

/** Whether the same file, or the same picture by its own number, was brought in before; in words. */
export async function knownAlready(
  tx: Tx,
  patientId: string,
  digest: Buffer,
  instanceUid: string | null
): Promise<string[]> {
  const before = await sameBefore(tx, digest, instanceUid);
  if (before.length === 0) return [];
  const clinic = (await Clinic.findByPk(tx.clinicId, within(tx)))!;
  const samePatient = before.find((each) => each.patient_id === patientId);
  const other = before.find((each) => each.patient_id !== patientId);
  const what = (each: SameBefore) =>
    each.same_file ? 'This same file' : 'This same picture, by its own number,';
  const day = (each: SameBefore) => dayInWords(each.brought_at, clinic);
  return [
    ...(other
      ? [
          `${what(other)} is already in the chart of ${other.patient_name} (${other.record_number}). Check whose it is.`
        ]
      : []),
    ...(samePatient ? [`${what(samePatient)} was brought in before, on ${day(samePatient)}.`] : [])
  ];
}
