import path from 'node:path';
import type { Dataset } from '../../core/dicom/dataset';
import type { PixelBody } from '../../core/dicom/pixelBody';
import { instanceUids } from '../../core/dicom/instanceUids';
import { dicomUid } from '../../core/identity/uuid7';
import type { Commitment } from '../../core/parcel/commitment';
import { addressWords } from '../../core/parcel/destination';
import { asFileName } from '../../core/parcel/fileNames';
import { inClinic } from '../database/connection';
import { NotDelivered, Unsure, type Wire } from './carriers/carrier';
import {
  type WebArchive,
  archiveHolds,
  bodyIsThere,
  readBack,
  storeBody,
  storeInstance
} from './carriers/dicomWeb';
import { type DimseArchive, dimseCommit, dimseHolds, dimseStore } from './carriers/dimse';
import { type FolderFile, writeParcel } from './carriers/folder';
import { mostMailBytes, sendMail } from './carriers/mail';
import type { Arrived, Claimed } from './claimed';
import { notKept } from './committed';
import type { PackedFile } from './packedItem';
import { itemLeaving, parcelFiles } from './parcelFiles';
import type { ParcelRow } from './parcelRow';

/** All objects of a picture to an archive: its own, and what goes beside it. */
export async function toArchive(clinicId: string, claimed: Claimed, wire: Wire): Promise<Arrived> {
  const { parcel, items, settings } = claimed;
  const { address } = settings;
  const { files } = await itemLeaving(clinicId, parcel, items[0], {
    // Whoever is spoken to by DIMSE may take no JPEG; plain samples everybody takes.
    plain: address.kind === 'dimse',
    apart: address.kind === 'dicomweb' && settings.wraps === 'there'
  });
  const objects = files.filter((file): file is PackedFile & { set: Dataset } => file.set !== undefined);
  let remark = '';
  let allBack = address.kind === 'dicomweb';
  for (const { set, bytes, body } of objects) {
    const of = instanceUids(set);
    if (address.kind === 'dicomweb') {
      const back = await toWebArchive({ ...address, wire }, { of, set, bytes, body }, claimed.before);
      if (back === 'changed') remark = changedThere;
      allBack &&= back === 'same';
    } else if (address.kind === 'dimse') {
      const archive = { ...address, wire };
      if (!(await dimseHolds(archive, of))) await dimseStore(archive, bytes, of);
      else if (claimed.before) throw earlierThere();
    }
  }
  const commitment =
    address.kind === 'dimse'
      ? await committed(
          { ...address, wire },
          objects.map(({ set }) => instanceUids(set)),
          claimed.deliveryId
        )
      : '';
  const own = objects.find(({ part }) => part === 'picture')!;
  return { sent: instanceUids(own.set), readBack: allBack, remark, commitment };
}

interface WebObject {
  of: ReturnType<typeof instanceUids>;
  set: Dataset;
  bytes: Uint8Array;
  body?: PixelBody;
}

/**
 * One object to a DICOMweb archive, unless it is there; then it is read back and held against what was sent.
 * Of one whose body comes by itself the archive is asked to wrap it; one that can't is sent the file.
 * @param before whether an earlier one may lie there
 * @throws NotDelivered where an earlier one does
 */
async function toWebArchive(
  archive: WebArchive,
  { of, set, bytes, body }: WebObject,
  before: boolean
): Promise<'same' | 'changed' | 'not read'> {
  const held = await archiveHolds(archive, of.studyUid, of.instanceUid);
  if (!held) {
    const wrapped = body ? await storeBody(archive, of.studyUid, set, body) : false;
    if (!wrapped) await storeInstance(archive, of.studyUid, bytes);
  }
  const back = await readBack(archive, of).catch(() => null);
  if (back?.equals(Buffer.from(bytes))) return 'same';
  if (held && before) throw earlierThere();
  // What was wrapped there is a file of theirs: its pixels are ours.
  if (body && back) return (await bodyIsThere(archive, of, body)) ? 'same' : 'changed';
  return back ? 'changed' : 'not read';
}

/** Asks an archive to say that it keeps what it has; nothing where it does not answer such questions. @throws NotDelivered where it does not keep it */
async function committed(
  archive: DimseArchive,
  objects: readonly ReturnType<typeof instanceUids>[],
  deliveryId: string
): Promise<Commitment> {
  const said = await dimseCommit(archive, objects, dicomUid(deliveryId)).catch((error: unknown) => {
    if (error instanceof NotDelivered) return '' as const;
    throw error;
  });
  if (said === 'not kept') throw new NotDelivered(notKept.reason, false, notKept.next);
  return said;
}

/** An archive keeps the first of what has one number: what was changed since does not replace it. */
const earlierThere = () =>
  new NotDelivered(
    'It lies there as it was before it was changed, and an archive keeps what it has.',
    true,
    'Ask the archive’s keeper to take the earlier one out, then try again; or send it elsewhere.'
  );

/** What was read back is not what was sent: the archive has written it anew, as some do. */
const changedThere =
  'It is there, and what lies there is not bit for bit what was sent: the archive has changed it.';

/** The parcel as a whole: into a folder, or by mail. @param alive told again and again while it goes on */
export async function asWhole(
  clinicId: string,
  claimed: Claimed,
  wire: Wire,
  alive: () => Promise<void>
): Promise<Arrived> {
  const { parcel, settings } = claimed;
  const { address } = settings;
  const files = beating(parcelFiles(clinicId, parcel.parcelId), alive);
  if (address.kind === 'folder') {
    await writeParcel(address.folder, await folderName(clinicId, parcel), files, wire);
    return { sent: null, readBack: true, remark: '' };
  }
  if (address.kind !== 'mail') throw new Error(`no parcel goes as a whole to ${addressWords(address)}`);
  const whole: FolderFile[] = [];
  let bytes = 0;
  for await (const file of files) {
    bytes += file.bytes.length;
    if (bytes > mostMailBytes)
      throw new NotDelivered(
        `The parcel has more than ${Math.floor(mostMailBytes / 1e6)} MB, which is the most that mail carries.`,
        true,
        'Send fewer pictures, as JPEG, or by another destination.'
      );
    whole.push(file);
  }
  const words = await wordsFor(clinicId, claimed);
  await handOver(clinicId, claimed.deliveryId, {
    reason: 'The mail was being handed over when the work broke off: nobody knows whether it was taken.'
  });
  await sendMail({
    id: claimed.deliveryId,
    to: address.to,
    subject: `${claimed.items.length > 0 ? 'Pictures' : 'A paper'} from ${parcel.identity === 'identified' ? await clinicName(clinicId) : 'a clinic'}`,
    text: words,
    files: whole.map((file) => ({
      name: path.basename(file.path),
      bytes: file.bytes,
      type: typeOf(file.path)
    })),
    wire
  });
  return { sent: null, readBack: false, remark: '' };
}

async function* beating<T>(files: AsyncIterable<T>, alive: () => Promise<void>): AsyncGenerator<T> {
  for await (const file of files) {
    await alive();
    yield file;
  }
}

/**
 * Writes down, before what can't be asked for afterwards is handed over, that it was: whoever is killed over it leaves that
 * behind, and nobody hands it over a second time by themselves. @throws Unsure where it was handed over before
 */
export async function handOver(
  clinicId: string,
  deliveryId: string,
  { reason, next }: { reason: string; next?: string }
): Promise<void> {
  const first = await inClinic(clinicId, (tx) =>
    tx.one(
      'update delivery set handed_at = now() where delivery_id = $1 and handed_at is null returning 1',
      deliveryId
    )
  );
  if (!first) throw new Unsure(reason, next);
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
       from parcel_of i join patient p on p.clinic_id = i.clinic_id and p.patient_id = i.patient_id
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
         join parcel_of x on x.clinic_id = k.clinic_id and x.parcel_id = k.parcel_id
       where k.destination_id = $1 and k.parcel_id <> $2 and d.state = 'delivered' and x.patient_id in (
         select y.patient_id from parcel_of y where y.clinic_id = k.clinic_id and y.parcel_id = $2) limit 1`,
      parcel.destinationId,
      parcel.parcelId
    )
  );
  const own = parcel.packing.words;
  return [own, known ? settings.words.known : settings.words.fresh].filter(Boolean).join('\n\n');
}
