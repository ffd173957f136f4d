import { placesOf, lookOf, orientationOf } from '../../core/picture/pictureView';
import { scaleInUse } from '../../core/picture/pictureLayers';
import { dicomDate, dicomTime } from '../../core/dicom/dates';
import type { Dataset } from '../../core/dicom/dataset';
import type { JpegBody } from '../../core/dicom/jpegBody';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import type { ObjectFacts } from '../../core/dicom/objects/objectFacts';
import { objectKindOf, seriesOf } from '../../core/dicom/objects/objectKind';
import { withSaid } from '../../core/dicom/said';
import { storedDirections } from '../../core/raster/orientation';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, within } from '../database/connection';
import { type Origin, fileText, readOrigin } from '../pictures/origin';
import { type PictureRow, shapeOf } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import type { Patient } from '../visits/patientModel';
import { visitHead } from '../visits/visitHead';
import { saidOf } from './saidOf';

/**
 * All that is known of a picture for its DICOM object. Its samples, or the JPEG that stands in their place, are handed in:
 * showing what leaves needs none.
 */
export async function objectFactsOf(
  tx: Tx,
  row: PictureRow,
  pixels: Uint8Array | JpegBody
): Promise<ObjectFacts> {
  const { visit, patient } = await visitHead(tx, row.visit_id);
  const [view] = await viewsOf(tx, [row], '');
  const origin = readOrigin(row.facts);
  const clinic = await Clinic.findByPk(tx.clinicId, within(tx));
  const zone = clinic?.timeZone ?? 'UTC';
  const facts: ObjectFacts = {
    patient: patientFacts(patient),
    study: {
      uid: visit.studyUid,
      date: dicomDate(visit.openedAt, zone),
      time: dicomTime(visit.openedAt, zone),
      id: visit.accession,
      accession: visit.accession,
      description: ''
    },
    series: { uid: visit.seriesUid, number: 1, description: '' },
    instance: {
      uid: row.instance_uid,
      number: row.number,
      date: dicomDate(row.taken_at, zone),
      time: dicomTime(row.taken_at, zone)
    },
    equipment: {
      manufacturer: origin.manufacturer,
      model: origin.model,
      institution: clinic?.name ?? ''
    },
    kind: row.kind,
    pixels: {
      ...shapeOf(row),
      pixelAspect: origin.pixelAspect,
      frames: row.frames,
      frameMs: row.frame_ms,
      ...(pixels instanceof Uint8Array ? { bytes: pixels } : { bytes: new Uint8Array(), jpeg: pixels })
    },
    look: lookOf(view),
    orientation: orientationOf(view),
    directions: view.slot
      ? storedDirections(view.slot.directions, orientationOf(view))
      : fileDirections(origin),
    slot: view.slot,
    places: placesOf(view),
    detectorSpacingMm: origin.imagerPixelSpacing ?? null,
    scale: scaleInUse(view.layers, view.fileScale),
    exposure: { kv: origin.kv, exposureMas: origin.exposureMas },
    burnedIn: burnedInOf(row, origin),
    lossy: lossyOf(row, origin)
  };
  return { ...facts, series: seriesFor(facts, visit.seriesUid) };
}

/** One series holds one modality; the first has the visit's own UID. */
function seriesFor(facts: ObjectFacts, uid: string): ObjectFacts['series'] {
  const { number } = seriesOf[objectKindOf(facts)];
  return { uid: number === 1 ? uid : `${uid}.${number}`, number, description: '' };
}

/** The object of a picture: what is proposed for it, and in its place what somebody said. */
export const pictureDataset = async (
  tx: Tx,
  row: PictureRow,
  pixels: Uint8Array | JpegBody
): Promise<Dataset> =>
  withSaid(datasetForPicture(await objectFactsOf(tx, row, pixels)), await saidOf(tx, row.picture_id));

function patientFacts(patient: Patient): ObjectFacts['patient'] {
  const { familyName, givenName, recordNumber, birthDate, sex, species, owner } = patient;
  const animal = patient.kind === 'animal';
  const family = animal ? (owner?.split(' ').at(-1) ?? '') : familyName;
  return {
    name: `${family}^${givenName}`,
    id: recordNumber,
    birthDate: birthDate?.replaceAll('-', '') ?? '',
    sex,
    species: animal ? (species ?? 'animal') : undefined,
    owner: animal ? (owner ?? undefined) : undefined
  };
}

/** Which way the body lies, as the DICOM file says that a picture came in. */
function fileDirections(origin: Origin): [string, string] | null {
  const parts = fileText(origin, '00200020')?.split('\\') ?? [];
  return parts.length === 2 && parts.every((part) => /^[APLRHF]{1,3}$/.test(part))
    ? [parts[0], parts[1]]
    : null;
}

/** An x-ray detector writes nothing into its pictures. Other devices may: probes do, with the owner's name. */
export function burnedInOf(row: PictureRow, origin: Origin): boolean | null {
  if (row.source === 'device' && row.kind === 'radiograph') return false;
  const said = fileText(origin, '00280301');
  return said === 'NO' ? false : said === 'YES' ? true : null;
}

/** A JPEG's own loss, or what a DICOM file says of its past. */
function lossyOf(row: PictureRow, origin: Origin): ObjectFacts['lossy'] {
  const method = 'ISO_10918_1';
  if (row.media_type === 'image/jpeg') {
    return { ratio: (row.width * row.height * row.channels) / row.original_size, method };
  }
  if (fileText(origin, '00282110') !== '01') return null;
  const ratio = Number(fileText(origin, '00282112')?.split('\\')[0]);
  return {
    ratio: ratio > 0 ? ratio : 1,
    method: fileText(origin, '00282114')?.split('\\')[0] || method
  };
}

/** Bytes that all frames take uncompressed, for what is told of pixel data that was not read. */
export const samplesSize = (row: PictureRow): number =>
  row.width * row.height * row.channels * row.frames * (row.bits_stored > 8 ? 2 : 1);
