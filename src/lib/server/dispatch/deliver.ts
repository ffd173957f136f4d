import path from 'node:path';
import { type DestinationSettings, addressWords } from '../../core/parcel/destination';
import { asFileName } from '../../core/parcel/fileNames';
import type { WireLine } from '../../core/parcel/wire';
import type { Dataset } from '../../core/dicom/dataset';
import { instanceUids } from '../../core/dicom/instanceUids';
import type { StudyInstance } from '../../core/fhir/imagingStudy';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { oweTelling } from '../practice/telling';
import { Problem } from '../problem';
import { NotDelivered, type Wire } from './carriers/carrier';
import { archiveHolds, readBack, storeInstance } from './carriers/dicomWeb';
import { type FolderFile, writeParcel } from './carriers/folder';
import { dimseHolds, dimseStore } from './carriers/dimse';
import { mostMailBytes, sendMail } from './carriers/mail';
import { Destination } from './destinationModel';
import { settingsOf } from './destinations';
import type { PackedFile } from './packedItem';
import { itemLeaving, parcelFiles } from './parcelFiles';
import { type ItemRow, type ParcelRow, announceParcel, itemsOf, parcelRow } from './parcelRow';

/** Pauses grow from the first to the longest, doubling; after the last try a person decides. */
const firstPauseSeconds = Number(process.env.YONDER_FIRST_PAUSE_SECONDS ?? 3);
const longestPauseSeconds = 900;
const mostTries = 14;
/** A turn at a folder is over after so long, and goes on in another. */
const turnMs = 20_000;
/** So many exchanges of a delivery are kept, the newest. */
const mostWireLines = 40;

export function pauseAfter(tries: number): number {
  return Math.min(longestPauseSeconds, firstPauseSeconds * 2 ** Math.max(0, tries - 1));
}

interface Claimed {
  deliveryId: string;
  parcel: ParcelRow;
  items: ItemRow[];
  pictureId: string | null;
  name: string;
  settings: DestinationSettings;
  tries: number;
}

async function claim(tx: Tx, deliveryId: string): Promise<Claimed | null> {
  const row = await tx.one<{
    state: string;
    attempts: number;
    picture_id: string | null;
    parcel_id: string;
    destination_id: string;
  }>(
    `select d.state, d.attempts, d.picture_id, d.parcel_id, k.destination_id
     from delivery d join parcel k using (parcel_id) where delivery_id = $1 for update of d`,
    deliveryId
  );
  if (!row || (row.state !== 'waiting' && row.state !== 'sending')) return null;
  const parcel = await parcelRow(tx, row.parcel_id);
  if (parcel.state !== 'open') return null;
  await tx.sql(
    `update delivery set state = 'sending', attempts = attempts + 1, next_try_at = null where delivery_id = $1`,
    deliveryId
  );
  await announceParcel(tx, row.parcel_id);
  const destination = (await Destination.findByPk(row.destination_id, within(tx)))!;
  const items = await itemsOf(tx, row.parcel_id);
  return {
    deliveryId,
    parcel,
    items: row.picture_id ? items.filter((item) => item.picture_id === row.picture_id) : items,
    pictureId: row.picture_id,
    name: destination.name,
    settings: settingsOf(destination),
    tries: row.attempts + 1
  };
}

interface Arrived {
  /** The picture's own object, where one was stored in an archive. */
  sent: StudyInstance | null;
  /** Whether what lies there was read back and is what was sent. */
  readBack: boolean;
}

/**
 * One try at one delivery. Before anything is sent, the other side is asked whether it holds it, at every try and whoever
 * wishes it: an answer that was lost on the way does not make a second copy. Safe to kill at any instant: the job is then
 * taken up by another worker, which begins by asking.
 */
export async function deliver(clinicId: string, deliveryId: string): Promise<void> {
  const claimed = await inClinic(clinicId, (tx) => claim(tx, deliveryId));
  if (!claimed) return;
  const lines: WireLine[] = [];
  let arrived: Arrived | 'goes on';
  try {
    arrived = claimed.pictureId
      ? await toArchive(clinicId, claimed, (line) => lines.push(line))
      : await asWhole(clinicId, claimed, (line) => lines.push(line));
  } catch (error) {
    const why = reasonOf(error);
    await inClinic(clinicId, (tx) => putOff(tx, claimed, lines, why));
    return;
  }
  const { parcel } = claimed;
  if (arrived === 'goes on') {
    await inClinic(clinicId, async (tx) => {
      await tx.sql(`update delivery set attempts = attempts - 1 where delivery_id = $1`, deliveryId);
      await keepWire(tx, deliveryId, lines);
      await enqueue(tx, queues.deliver, { clinicId, deliveryId });
    });
    return;
  }
  const { sent, readBack: back } = arrived;
  await inClinic(clinicId, async (tx) => {
    await tx.sql(
      `update delivery set state = 'delivered', delivered_at = now(), reason = '', next_step = '', sent_instance_uid = $2,
         sent_study_uid = $3, sent = $4::jsonb, read_back_at = $5
       where delivery_id = $1`,
      deliveryId,
      sent?.instanceUid ?? null,
      sent?.studyUid ?? null,
      sent ? JSON.stringify(sent) : null,
      back ? new Date() : null
    );
    await keepWire(tx, deliveryId, lines);
    const toWeb = claimed.settings.address.kind === 'dicomweb';
    if (parcel.identity === 'identified' && toWeb && parcel.visitId) await oweTelling(tx, parcel.visitId);
    await announceParcel(tx, parcel.parcelId);
    await noteDelivered(tx, claimed);
    if (claimed.settings.closes) await closeWhenThere(tx, claimed);
  });
}

/** What arrived is in the audit, at each picture. */
async function noteDelivered(tx: Tx, { parcel, items, tries, name }: Claimed): Promise<void> {
  const rows = await tx.sql<{ picture_id: string; patient_id: string }>(
    'select picture_id, patient_id from picture where picture_id = any($1::uuid[])',
    items.map(({ picture_id: id }) => id)
  );
  for (const { picture_id: pictureId, patient_id: patientId } of rows)
    await writeAudit(tx, { system: 'dispatch' }, 'delivered', pictureId, {
      patientId,
      identity: parcel.identity,
      to: name,
      tries
    });
}

/** Visits of which everything that stands in them has arrived at this destination are closed, where it is set so. */
async function closeWhenThere(tx: Tx, { parcel, items }: Claimed): Promise<void> {
  const closed = await tx.sql<{ visit_id: string; patient_id: string }>(
    `update visit v set closed_at = now()
     where v.clinic_id = $1 and v.closed_at is null
       and v.visit_id in (select visit_id from picture where picture_id = any($2::uuid[]))
       and not exists (
         select 1 from picture p left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
         where p.visit_id = v.visit_id and p.away is null and (s.slot_id is null or s.keeper) and not exists (
           select 1 from parcel_item i join parcel k on k.clinic_id = i.clinic_id and k.parcel_id = i.parcel_id
             join delivery d on d.parcel_id = k.parcel_id
           where i.clinic_id = p.clinic_id and i.picture_id = p.picture_id and k.destination_id = $3
             and d.state = 'delivered' and (d.picture_id is null or d.picture_id = p.picture_id)))
     returning v.visit_id, v.patient_id`,
    tx.clinicId,
    items.map(({ picture_id: id }) => id),
    parcel.destinationId
  );
  for (const { visit_id: visitId, patient_id: patientId } of closed) {
    await announce(tx, { topic: 'visit', visitId }, { topic: 'day' });
    await writeAudit(tx, { system: 'dispatch' }, 'visit closed', visitId, { patientId });
  }
}

/** All objects of a picture to an archive: its own, and what goes beside it. */
async function toArchive(clinicId: string, claimed: Claimed, wire: Wire): Promise<Arrived> {
  const { parcel, items, settings } = claimed;
  const { address } = settings;
  const { files } = await itemLeaving(clinicId, parcel, items[0]);
  const objects = files.filter((file): file is PackedFile & { set: Dataset } => file.set !== undefined);
  let allBack = true;
  for (const { set, bytes } of objects) {
    const of = instanceUids(set);
    if (address.kind === 'dicomweb') {
      const archive = { ...address, wire };
      if (!(await archiveHolds(archive, of.studyUid, of.instanceUid)))
        await storeInstance(archive, of.studyUid, bytes);
      const back = await readBack(archive, of).catch(() => null);
      allBack &&= back !== null && back.equals(Buffer.from(bytes));
    } else if (address.kind === 'dimse') {
      const archive = { ...address, wire };
      const there = await dimseHolds(archive, of);
      if (!there) await dimseStore(archive, bytes, of);
      // The archive says by its index that it has it; what it holds is not asked for again.
      allBack &&= there === true || (await dimseHolds(archive, of)) === true;
    }
  }
  const own = objects.find(({ part }) => part === 'picture')!;
  return { sent: instanceUids(own.set), readBack: allBack };
}

/** The parcel as a whole: into a folder, or by mail. */
async function asWhole(clinicId: string, claimed: Claimed, wire: Wire): Promise<Arrived | 'goes on'> {
  const { parcel, settings } = claimed;
  const { address } = settings;
  if (address.kind === 'folder') {
    const until = Date.now() + turnMs;
    const whole = await writeParcel(
      address.folder,
      await folderName(clinicId, parcel),
      parcelFiles(clinicId, parcel.parcelId),
      wire,
      () => Date.now() < until
    );
    return whole ? { sent: null, readBack: true } : 'goes on';
  }
  if (address.kind !== 'mail') throw new Error(`no parcel goes as a whole to ${addressWords(address)}`);
  const files: FolderFile[] = [];
  let bytes = 0;
  for await (const file of parcelFiles(clinicId, parcel.parcelId)) {
    bytes += file.bytes.length;
    if (bytes > mostMailBytes)
      throw new NotDelivered(
        `The parcel has more than ${Math.floor(mostMailBytes / 1e6)} MB, which is the most that mail carries.`,
        true,
        'Send fewer pictures, as JPEG, or by another destination.'
      );
    files.push(file);
  }
  const words = await wordsFor(clinicId, claimed);
  await sendMail({
    id: claimed.deliveryId,
    to: address.to,
    subject: `Pictures from ${parcel.identity === 'identified' ? await clinicName(clinicId) : 'a clinic'}`,
    text: words,
    files: files.map((file) => ({
      name: path.basename(file.path),
      bytes: file.bytes,
      type: typeOf(file.path)
    })),
    wire
  });
  return { sent: null, readBack: false };
}

const types: Readonly<Record<string, string>> = {
  dcm: 'application/dicom',
  png: 'image/png',
  jpg: 'image/jpeg',
  tif: 'image/tiff',
  pdf: 'application/pdf',
  csv: 'text/csv',
  json: 'application/json',
  html: 'text/html',
  txt: 'text/plain'
};
const typeOf = (name: string): string => types[name.split('.').at(-1)!] ?? 'application/octet-stream';

const clinicName = (clinicId: string): Promise<string> =>
  inClinic(clinicId, async (tx) => (await tx.one<{ name: string }>('select name from clinic'))!.name);

/** A folder's name tells who it is of, when it was sent, and which parcel it is: always the same for the same parcel. */
async function folderName(clinicId: string, parcel: ParcelRow): Promise<string> {
  const day = parcel.madeAt.toISOString().slice(0, 10);
  return inClinic(clinicId, async (tx) => {
    const row = await tx.one<{ who: string }>(
      `select case when count(distinct p.patient_id) = 1
         then max(trim(p.family_name || ' ' || p.given_name)) else '' end as who
       from parcel_item i join picture x on x.clinic_id = i.clinic_id and x.picture_id = i.picture_id
       join patient p on p.clinic_id = x.clinic_id and p.patient_id = x.patient_id
       where i.clinic_id = $1 and i.parcel_id = $2`,
      clinicId,
      parcel.parcelId
    );
    const who = parcel.identity === 'identified' ? (row?.who ?? '') : 'parcel';
    return asFileName(`${who || 'parcel'} ${day} ${parcel.parcelId.slice(-6)}`);
  });
}

/** The words for a patient that was sent there before, or for one that was not. */
async function wordsFor(clinicId: string, { parcel, settings }: Claimed): Promise<string> {
  const known = await inClinic(clinicId, (tx) =>
    tx.one(
      `select 1 from parcel k join delivery d using (parcel_id)
         join parcel_item i on i.clinic_id = k.clinic_id and i.parcel_id = k.parcel_id
         join picture x on x.clinic_id = i.clinic_id and x.picture_id = i.picture_id
       where k.destination_id = $1 and k.parcel_id <> $2 and d.state = 'delivered' and x.patient_id in (
         select y.patient_id from parcel_item j join picture y on y.clinic_id = j.clinic_id and y.picture_id = j.picture_id
         where j.clinic_id = k.clinic_id and j.parcel_id = $2) limit 1`,
      parcel.destinationId,
      parcel.parcelId
    )
  );
  const own = parcel.packing.words;
  return [own, known ? settings.words.known : settings.words.fresh].filter(Boolean).join('\n\n');
}

/** A fault of our own ends the tries with its words; a database that is away leaves the job to be taken again. */
function reasonOf(error: unknown): NotDelivered {
  if (error instanceof NotDelivered) return error;
  if (error instanceof Problem && error.code !== 'database-away')
    return new NotDelivered(error.sentence, true, error.next);
  throw error;
}

async function putOff(
  tx: Tx,
  claimed: Claimed,
  lines: readonly WireLine[],
  why: NotDelivered
): Promise<void> {
  const { deliveryId, tries, parcel } = claimed;
  const over = why.final || tries >= mostTries;
  const pause = pauseAfter(tries);
  // Whoever held or withdrew it meanwhile is heard.
  const { state } = await parcelRow(tx, parcel.parcelId);
  const next = over ? 'failed' : state === 'held' || state === 'withdrawn' ? state : 'waiting';
  await tx.sql(
    `update delivery set state = $2, reason = $3, next_step = $4, next_try_at = $5 where delivery_id = $1`,
    deliveryId,
    next,
    why.reason,
    why.next || (over ? 'Try again, send it elsewhere, or withdraw it.' : ''),
    next === 'waiting' ? new Date(Date.now() + pause * 1000) : null
  );
  await keepWire(tx, deliveryId, lines);
  if (next === 'waiting')
    await enqueue(tx, queues.deliver, { clinicId: tx.clinicId, deliveryId }, { startAfterSeconds: pause });
  await announceParcel(tx, parcel.parcelId);
}

/** Writes down what was said on the wire, and lets the oldest of much go. */
async function keepWire(tx: Tx, deliveryId: string, lines: readonly WireLine[]): Promise<void> {
  for (const line of lines)
    await tx.sql(
      'insert into wire_line (clinic_id, wire_id, delivery_id, said) values ($1, $2, $3, $4::jsonb)',
      tx.clinicId,
      newId(),
      deliveryId,
      JSON.stringify(line)
    );
  await tx.sql(
    `delete from wire_line where clinic_id = $1 and delivery_id = $2 and wire_id not in (
       select wire_id from wire_line where clinic_id = $1 and delivery_id = $2 order by wire_id desc limit $3)`,
    tx.clinicId,
    deliveryId,
    mostWireLines
  );
}
