import type { ArrivalSource } from '../../core/arrivals/arrivalView';
import { shortened } from '../../core/text';
import type { OwnLook } from '../../core/raster/look/ownLook';
import { instantOfDicom } from '../../core/dicom/dates';
import { type By, writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { fileNameOf } from '../pictures/bringIn';
import type { OpenedFile } from '../pictures/decode/opened';
import { holdKey, pictureOfKey } from '../pictures/queries';
import { type Received, keepReceived, withOpened } from '../pictures/receiving';
import { openOutsideFacts } from '../work/processes';
import type { About, AboutPicture } from './about';
import { bundleOfKey, insertArrival } from './queries';

/** Who sends something that belongs to nobody yet. */
export interface Sender {
  clinicId: string;
  source: ArrivalSource;
  name: string;
  /** What its device's pictures open with. */
  opensWith?: OwnLook;
  roomId: string | null;
  userId: string | null;
  timeZone: string;
  by: By;
}

export interface NewArrival {
  key: string;
  digest: Buffer;
  fileName: string;
  title: string;
  remark: string;
  about: About;
  reason: string;
  takenAt: Date;
  /** Whatever has the same key of one intake lies in one bundle; alone where none is given. */
  bundle?: { intakeId: string; key: string };
}

export interface Arrived {
  arrivalId: string;
  /** Whether its key was known: then nothing was kept again. */
  again: boolean;
}

/** Keeps something that belongs to nobody yet, once for its key. Its bytes are among the originals already. */
export async function keepArrival(tx: Tx, from: Sender, arrival: NewArrival): Promise<Arrived> {
  await holdKey(tx, arrival.key);
  const known = await pictureOfKey(tx, arrival.key);
  if (known) return { arrivalId: known, again: true };
  const arrivalId = newId();
  const { bundle } = arrival;
  await insertArrival(tx, {
    key: arrival.key,
    arrival_id: arrivalId,
    source: from.source,
    from_name: from.name,
    room_id: from.roomId,
    user_id: from.userId,
    original_sha256: arrival.digest,
    file_name: arrival.fileName,
    title: arrival.title,
    remark: arrival.remark,
    about: arrival.about,
    reason: arrival.reason,
    taken_at: arrival.takenAt,
    bundle_id: (bundle && (await bundleOfKey(tx, bundle.intakeId, bundle.key))) ?? arrivalId,
    bundle_key: bundle?.key ?? '',
    intake_id: bundle?.intakeId ?? null
  });
  await announce(tx, { topic: 'arrivals' });
  await writeAudit(tx, from.by, 'arrived', arrivalId, { from: from.name, kind: arrival.about.mediaType });
  return { arrivalId, again: false };
}

/** What an arriving picture is, by what its file turned out to be. */
export function aboutOf(
  { origin, remarks, takenAt, patient, ...shape }: OpenedFile,
  from: Pick<Sender, 'name' | 'opensWith'>
): AboutPicture {
  return {
    version: 2,
    ...shape,
    origin: { version: 2, from: from.name, opensWith: from.opensWith, ...origin, remarks },
    inFile: patient,
    dated: takenAt !== null
  };
}

/** When it was taken by its own account; else now. */
export const takenWhen = ({ takenAt }: OpenedFile, timeZone: string): Date =>
  (takenAt && instantOfDicom(takenAt, timeZone)) ?? new Date();

export interface ArrivingFile {
  key: string;
  fileName: string;
  title?: string;
  remark?: string;
  reason: string;
  body: AsyncIterable<Uint8Array>;
}

const longestTitle = 120;
const longestRemark = 1_000;

/** A file that belongs to nobody yet: landed and opened inside limits, then kept. */
export async function fileArrives(from: Sender, file: ArrivingFile): Promise<Arrived> {
  const known = await inClinic(from.clinicId, (tx) => pictureOfKey(tx, file.key));
  if (known) return { arrivalId: known, again: true };
  return withOpened(from.clinicId, file.body, openOutsideFacts, (received) =>
    inClinic(from.clinicId, (tx) => keptFile(tx, from, file, received))
  );
}

/** A picture's file that is here, kept as an arrival. */
export async function keptFile(
  tx: Tx,
  from: Sender,
  file: Omit<ArrivingFile, 'body'> & Pick<NewArrival, 'bundle'>,
  received: Received<OpenedFile>
): Promise<Arrived> {
  await keepReceived(tx, received);
  return keepArrival(tx, from, {
    key: file.key,
    digest: received.digest,
    fileName: file.fileName === '' ? '' : fileNameOf(file.fileName),
    title: shortened(file.title ?? '', longestTitle),
    remark: shortened(file.remark ?? '', longestRemark),
    about: aboutOf(received.found, from),
    reason: file.reason,
    takenAt: takenWhen(received.found, from.timeZone),
    bundle: file.bundle
  });
}
