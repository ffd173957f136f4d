import { changes, deidentified } from '../../core/deidentify/deidentify';
import type { LeavingPicture, LeavingView } from '../../core/deidentify/leavingView';
import { identityTerms, termsStillIn } from '../../core/deidentify/residual';
import { leavingWords } from '../../core/deidentify/leavingWords';
import { pixelDataTag } from '../../core/dicom/dictionary';
import { type Dataset, firstText } from '../../core/dicom/dataset';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { pictureDataset, samplesSize } from '../objects/pictureObject';
import { type Caller, demand } from '../people/caller';
import { type Origin, fileText, readOrigin } from '../pictures/origin';
import { wholeSamples } from '../pictures/levels';
import { pictureRow } from '../pictures/views';
import { Problem } from '../problem';
import { type VisitHead, visitHead } from '../visits/visitHead';
import { lookFirst, unlooked } from './lettering';
import { pseudonymOf } from './pseudonyms';

export type Identity = 'identified' | 'deidentified';

/** The DICOM object of a picture as it leaves, with or without its identity. Reads all its samples. */
export async function datasetLeaving(
  clinicId: string,
  pictureId: string,
  identity: Identity
): Promise<Dataset> {
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId));
  const bytes = await wholeSamples(clinicId, row);
  return inClinic(clinicId, async (tx) => {
    const whole = await pictureDataset(tx, row, bytes);
    if (identity === 'identified') return whole;
    const after = deidentified(whole, await pseudonymOf(tx, row.patient_id));
    const found = termsStillIn(after, termsOf(await visitHead(tx, row.visit_id), readOrigin(row.facts)));
    if (found.length > 0) {
      throw new Problem(
        'identity-left',
        `De-identified, this picture would still carry part of a name or number, in ${whereWords(found)}. It was not sent.`,
        'Look at its attributes in De-identify.',
        409
      );
    }
    if ((await unlooked(tx, [row])).length > 0) throw lookFirst(1);
    return after;
  });
}

const whereWords = (found: readonly { where: string }[]): string =>
  [...new Set(found.map((each) => each.where))].slice(0, 6).join(', ');

/** Names and numbers of people that the file a picture came in holds, by their tags. */
const namesInFile = [
  '00100010',
  '00101001',
  '00101005',
  '00101060',
  '00102297',
  '00080090',
  '00081050',
  '00081070'
];
const numbersInFile = ['00100020', '00101000', '00080050', '00200010', '00102154'];

/** What points to the person: by the chart, and by the file, which may know them otherwise. */
function termsOf({ visit, patient }: VisitHead, origin: Origin): string[] {
  const fromFile = (tags: readonly string[]) => tags.map((tag) => fileText(origin, tag) ?? '');
  return identityTerms(
    [patient.familyName, patient.givenName, patient.owner ?? '', ...fromFile(namesInFile)],
    [patient.recordNumber, visit.accession, ...fromFile(numbersInFile)]
  );
}

/** What would leave: every attribute before and after, for each chosen picture. Showing it is in the audit. */
export async function leaving(caller: Caller, visitId: string, pictureIds: string[]): Promise<LeavingView> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const head = await visitHead(tx, visitId);
    const pseudonym = await pseudonymOf(tx, head.patient.patientId);
    const pictures = [];
    for (const pictureId of pictureIds) {
      const found = await leavingPicture(tx, head, pictureId, pseudonym);
      if (found) pictures.push(found);
    }
    await writeAudit(tx, caller, 'leaving shown', visitId, {
      patientId: head.patient.patientId,
      pictures: pictureIds.length
    });
    return { pseudonym: pseudonym.name, dateShiftDays: pseudonym.dateShiftDays, pictures };
  });
}

async function leavingPicture(
  tx: Tx,
  head: VisitHead,
  pictureId: string,
  pseudonym: Awaited<ReturnType<typeof pseudonymOf>>
): Promise<LeavingPicture | null> {
  const row = await pictureRow(tx, pictureId);
  if (row.visit_id !== head.visit.visitId) return null;
  const before = await pictureDataset(tx, row, new Uint8Array());
  const after = deidentified(before, pseudonym);
  const size = `${samplesSize(row).toLocaleString('en')} bytes`;
  const all = changes(before, readOrigin(row.facts).fileAttributes, after).map((change) =>
    change.tag === pixelDataTag ? { ...change, before: size, after: size } : change
  );
  const [mustLook] = await unlooked(tx, [row]);
  return {
    pictureId,
    words: leavingWords(all),
    changes: all,
    checked: checksOf(termsOf(head, readOrigin(row.facts)), after),
    mustLook: mustLook !== undefined
  };
}

/** Looks through what would leave for what must not be there, whatever the list says. */
function checksOf(terms: readonly string[], after: Dataset): string[] {
  const found = termsStillIn(after, terms);
  const privateCount = after.filter((element) => parseInt(element.tag.slice(0, 4), 16) % 2 === 1).length;
  const removed = firstText(after, 'PatientIdentityRemoved') === 'YES';
  return [
    found.length === 0
      ? 'Names and numbers of the chart and of the file were searched for in all free text: none found.'
      : `Still found: part of a name or number in ${whereWords(found)}. It will not be sent.`,
    privateCount === 0 ? 'No private attribute leaves.' : `${privateCount} private attributes would leave.`,
    `The object ${removed ? 'says' : 'does not say'} that its identity was removed.`
  ];
}
