import { z } from 'zod';
import { type Notation } from '../../core/anatomy/teeth';
import { type Dataset, firstText } from '../../core/dicom/dataset';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { guideInReport } from '../../core/dicom/objects/guideInReport';
import {
  type GuideInReport,
  type ImageInReport,
  measurementReportDataset
} from '../../core/dicom/objects/measurementReport';
import { presentationStateDataset } from '../../core/dicom/objects/presentationState';
import { dicomUid } from '../../core/identity/uuid7';
import { guideSetsOf } from '../../core/picture/guideSets';
import { scaleInUse } from '../../core/picture/pictureLayers';
import { type PictureView, aspectOf } from '../../core/picture/pictureView';
import { isReading, readingsOf } from '../../core/picture/readings';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, within } from '../database/connection';
import { newUid } from '../ids';
import { type PictureRow, picturesOfVisit } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { objectFactsOf } from './pictureObject';

/** An object beside a picture's own: by which numbers it is known, when it was made and by whom. */
export interface MadeBeside {
  seriesUid: string;
  instanceUid: string;
  number: number;
  date: string;
  time: string;
  /** A user. */
  by: string;
}

const notationOf = async (tx: Tx): Promise<Notation> =>
  (await Clinic.findByPk(tx.clinicId, within(tx)))!.notation as Notation;

/** How a grey picture is seen and what is drawn on it, as a presentation state. */
export async function stateBeside(
  tx: Tx,
  row: PictureRow,
  view: PictureView,
  { by, ...made }: MadeBeside
): Promise<Dataset> {
  const facts = await objectFactsOf(tx, row, new Uint8Array());
  return presentationStateDataset({
    facts,
    // What its device's pictures open with was seen too.
    layers: { ...view.layers, look: view.layers.look ?? view.openLook ?? null },
    sopClassUid: firstText(datasetForPicture(facts), 'SOPClassUID')!,
    notation: await notationOf(tx),
    state: { ...made, creator: await nameOf(tx, by) }
  });
}

/** What was measured on a picture, as a structured report; null where nothing gives a value. */
export async function reportBeside(
  tx: Tx,
  row: PictureRow,
  view: PictureView,
  { by, ...made }: MadeBeside
): Promise<Dataset | null> {
  const facts = await objectFactsOf(tx, row, new Uint8Array());
  const scale = scaleInUse(view.layers, view.fileScale);
  const readings = readingsOf(view.layers, scale, aspectOf(view))
    .filter(({ item, values }) => isReading(item.kind) && values.length > 0)
    .map(({ item, note }) => ({ item, name: note.name, scale, trackingUid: trackingUidOf(item.id) }));
  const guides = await guidesOn(tx, view, by);
  if (readings.length + guides.length === 0) return null;
  return measurementReportDataset({
    facts,
    sopClassUid: firstText(datasetForPicture(facts), 'SOPClassUID')!,
    readings,
    guides,
    report: { ...made, observer: await nameOf(tx, by) }
  });
}

/** What a picture's report tells of the guides that were done on it, with the other pictures that they lie on. */
async function guidesOn(tx: Tx, view: PictureView, userId: string): Promise<GuideInReport[]> {
  const rows = await picturesOfVisit(tx, view.visitId);
  const sets = guideSetsOf(
    (await viewsOf(tx, rows, userId)).map((picture) => ({ picture, layers: picture.layers }))
  ).filter(({ views }) => [...views.values()].some(({ picture }) => picture.pictureId === view.pictureId));
  const wanted = new Set(
    sets.flatMap(({ views }) => [...views.values()].map(({ picture }) => picture.pictureId))
  );
  const images = new Map<string, ImageInReport>();
  for (const each of rows.filter(({ picture_id: id }) => wanted.has(id))) {
    const of = await objectFactsOf(tx, each, new Uint8Array());
    images.set(each.picture_id, {
      seriesUid: of.series.uid,
      sopClassUid: firstText(datasetForPicture(of), 'SOPClassUID')!,
      instanceUid: of.instance.uid
    });
  }
  return sets.flatMap((set) => {
    const told = guideInReport(set, view.pictureId, (id) => images.get(id) ?? null);
    return told ? [{ ...told, trackingUid: trackingUidOf(set.set) }] : [];
  });
}

/** The same reading is known by the same UID in every report of it. */
const trackingUidOf = (id: string): string => (z.uuid().safeParse(id).success ? dicomUid(id) : newUid());

/** A person's name as DICOM writes it: the family name first. */
async function nameOf(tx: Tx, userId: string): Promise<string> {
  const row = await tx.one<{ name: string }>(
    'select display_name as name from user_account where user_id = $1',
    userId
  );
  const parts = (row?.name ?? '').split(' ');
  return `${parts.at(-1) ?? ''}^${parts.slice(0, -1).join(' ')}`;
}
