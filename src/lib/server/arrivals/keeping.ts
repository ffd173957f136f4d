import type { ArrivalSource } from '../../core/arrivals/arrivalView';
import { shortened } from '../../core/text';
import type { OwnLook } from '../../core/raster/look/ownLook';
import { instantOfDicom } from '../../core/dicom/dates';
import { type By, writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { fileNameOf } from '../pictures/bringIn';
import { holdKey, pictureOfKey } from '../pictures/queries';
import { keepReceived, withReceived } from '../pictures/receiving';
import type { About } from './about';
import { insertArrival } from './queries';

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
    taken_at: arrival.takenAt
  });
  await announce(tx, { topic: 'arrivals' });
  await writeAudit(tx, from.by, 'arrived', arrivalId, { from: from.name, kind: arrival.about.mediaType });
  return { arrivalId, again: false };
}

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
  return withReceived(from.clinicId, file.body, (received) =>
    inClinic(from.clinicId, async (tx) => {
      await keepReceived(tx, received);
      const { origin, remarks, takenAt, patient, ...shape } = received.found.opened;
      return keepArrival(tx, from, {
        key: file.key,
        digest: received.digest,
        fileName: file.fileName === '' ? '' : fileNameOf(file.fileName),
        title: shortened(file.title ?? '', longestTitle),
        remark: shortened(file.remark ?? '', longestRemark),
        about: {
          version: 1,
          ...shape,
          origin: { version: 2, from: from.name, opensWith: from.opensWith, ...origin, remarks },
          inFile: patient
        },
        reason: file.reason,
        takenAt: (takenAt && instantOfDicom(takenAt, from.timeZone)) ?? new Date()
      });
    })
  );
}
