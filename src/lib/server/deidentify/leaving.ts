import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { type PictureRow, factsOf, pictureRow, viewsOf } from '../pictures/pictures';
import type { PictureFactsStored } from '../pictures/facts';
import type { PictureView } from '../../core/picture/pictureView';
import { rasterOf } from '../pictures/rasters';
import { trayOfVisit } from '../trays/trays';
import { visitHead, type VisitHead } from '../visits/visits';
import { type Change, changes, deidentified } from '../../core/deidentify/deidentify';
import { type Dataset, firstText, inText } from '../../core/dicom/dataset';
import { dicomDate, dicomTime } from '../../core/dicom/dates';
import type { PictureFacts } from '../../core/dicom/objects/facts';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { pseudonymOf } from './pseudonyms';

export type Identity = 'identified' | 'deidentified';

/** The DICOM object of a picture as it would leave, with or without its identity. */
export async function datasetLeaving(tx: Tx, pictureId: string, identity: Identity): Promise<Dataset> {
  const row = await pictureRow(tx, pictureId);
  const whole = await identifiedDataset(tx, row);
  if (identity === 'identified') return whole;
  const after = deidentified(whole, await pseudonymOf(tx, row.patient_id));
  const found = identityStillIn(await visitHead(tx, row.visit_id), after);
  if (found.length > 0) {
    throw new Problem(
      'identity-left',
      `De-identified, this picture would still carry: ${found.join(', ')}. It was not sent.`,
      'Look at its attributes in De-identify.',
      409
    );
  }
  return after;
}

function dicomName(visit: VisitHead): string {
  if (visit.kind === 'animal') return `${visit.owner?.split(' ').at(-1) ?? ''}^${visit.given_name}`;
  return `${visit.family_name}^${visit.given_name}`;
}

async function identifiedDataset(tx: Tx, row: PictureRow): Promise<Dataset> {
  const visit = await visitHead(tx, row.visit_id);
  const { tray } = await trayOfVisit(tx, row.visit_id);
  const [view] = await viewsOf(tx, [row], tray);
  const facts = factsOf(row);
  const clinic = await tx.one<{ name: string }>('select name from clinic');
  return datasetForPicture({
    patient: {
      name: dicomName(visit),
      id: visit.record_number,
      birthDate: visit.birth_date?.replaceAll('-', '') ?? '',
      sex: visit.sex
    },
    study: {
      uid: visit.study_uid,
      date: dicomDate(visit.opened_at),
      time: dicomTime(visit.opened_at),
      id: visit.accession,
      accession: visit.accession,
      description: ''
    },
    series: seriesOf(view, facts.imagerPixelSpacing !== undefined, visit, tray.pattern ?? ''),
    instance: {
      uid: row.instance_uid,
      number: row.number,
      date: dicomDate(row.taken_at),
      time: dicomTime(row.taken_at)
    },
    equipment: { manufacturer: facts.manufacturer, model: facts.model, institution: clinic?.name ?? '' },
    raster: await rasterOf(tx, row),
    look: view.look,
    orientation: view.orientation,
    slot: view.slot,
    teeth: view.teeth.length > 0 ? view.teeth : (view.slot?.teeth ?? []),
    detectorSpacingMm: facts.imagerPixelSpacing ?? null,
    exposure: { kv: facts.kv, exposureMas: facts.exposureMas },
    burnedIn: burnedInOf(row, facts),
    lossy: lossyOf(row, facts)
  });
}

const fileText = (facts: PictureFactsStored, tag: string): string | undefined =>
  facts.fileAttributes.find((each) => each.tag === tag)?.text;

/** An x-ray detector writes nothing into its pictures. Other devices may: probes do, with the owner's name. */
function burnedInOf(row: PictureRow, facts: PictureFactsStored): boolean | null {
  if (row.source === 'device' && facts.imagerPixelSpacing) return false;
  const said = fileText(facts, '00280301');
  return said === 'NO' ? false : said === 'YES' ? true : null;
}

/** A JPEG's own loss, or what a DICOM file says of its past. */
function lossyOf(row: PictureRow, facts: PictureFactsStored): PictureFacts['lossy'] {
  const method = 'ISO_10918_1';
  if (row.media_type === 'image/jpeg') {
    return { ratio: (row.width * row.height * row.channels) / row.original_size, method };
  }
  if (fileText(facts, '00282110') !== '01') return null;
  const ratio = Number(fileText(facts, '00282112')?.split('\\')[0]);
  return {
    ratio: ratio > 0 ? ratio : 1,
    method: fileText(facts, '00282114')?.split('\\')[0] || method
  };
}

/** One series holds one modality: intra-oral radiographs, and what is wrapped, are two. */
function seriesOf(
  view: PictureView,
  hasSpacing: boolean,
  visit: VisitHead,
  pattern: string
): PictureFacts['series'] {
  const intraOral = view.slot !== null && view.channels === 1 && hasSpacing;
  return intraOral
    ? { uid: visit.series_uid, number: 1, description: pattern }
    : { uid: `${visit.series_uid}.2`, number: 2, description: '' };
}

/** Words of the patient's identity that stand, as whole words, in anything textual of a data set. */
function identityStillIn(visit: VisitHead, set: Dataset): string[] {
  const words = set
    .flatMap((element) => (Array.isArray(element.value) ? inText(element) : ''))
    .join(' ')
    .toLowerCase();
  return [visit.family_name, visit.given_name, visit.record_number, visit.accession, visit.owner ?? '']
    .map((word) => word.trim().toLowerCase())
    .filter((word) => word.length > 2)
    .filter((word) => ` ${words.replace(/[\\^,{}]/g, ' ').replace(/\s+/g, ' ')} `.includes(` ${word} `));
}

export interface LeavingView {
  pseudonym: string;
  dateShiftDays: number;
  pictures: { pictureId: string; changes: Change[]; checked: string[] }[];
}

/** What would leave: every attribute before and after, for each chosen picture. Showing it is in the audit. */
export async function leaving(caller: Caller, visitId: string, pictureIds: string[]): Promise<LeavingView> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const visit = await visitHead(tx, visitId);
    const pseudonym = await pseudonymOf(tx, visit.patient_id);
    const pictures = [];
    for (const pictureId of pictureIds) {
      const row = await pictureRow(tx, pictureId);
      if (row.visit_id !== visitId) continue;
      const before = await identifiedDataset(tx, row);
      const after = deidentified(before, pseudonym);
      pictures.push({
        pictureId,
        changes: changes(before, factsOf(row).fileAttributes, after),
        checked: checksOf(visit, after)
      });
    }
    await writeAudit(tx, caller.name, 'leaving shown', visitId, { pictures: pictureIds.length });
    return { pseudonym: pseudonym.name, dateShiftDays: pseudonym.dateShiftDays, pictures };
  });
}

/** Looks through what would leave for what must not be there, whatever the list says. */
function checksOf(visit: VisitHead, after: Dataset): string[] {
  const found = identityStillIn(visit, after);
  const privateCount = after.filter((element) => parseInt(element.tag.slice(0, 4), 16) % 2 === 1).length;
  const says = firstText(after, 'PatientIdentityRemoved') === 'YES';
  return [
    found.length === 0
      ? 'Name, number, owner and accession were searched for in every attribute: none found.'
      : `Still found: ${found.join(', ')}. It will not be sent.`,
    privateCount === 0 ? 'No private attribute leaves.' : `${privateCount} private attributes would leave.`,
    `The object ${says ? 'says' : 'does not say'} that its identity was removed.`,
    'The picture itself was not searched for lettering. Look at it: nothing is masked.'
  ];
}
