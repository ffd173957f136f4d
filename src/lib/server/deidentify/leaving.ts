import { changes, deidentified } from '../../core/deidentify/deidentify';
import type { LeavingPicture, LeavingView } from '../../core/deidentify/leavingView';
import { leavingWords } from '../../core/deidentify/leavingWords';
import { type Dataset, firstText, inText } from '../../core/dicom/dataset';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { pictureDataset, samplesSize } from '../objects/pictureObject';
import { type Caller, demand } from '../people/caller';
import { readOrigin } from '../pictures/origin';
import { wholeSamples } from '../pictures/levels';
import { pictureRow } from '../pictures/views';
import { Problem } from '../problem';
import { type VisitHead, visitHead } from '../visits/visitHead';
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
  });
}

/** Words of the patient's identity that stand, as whole words, in anything textual of a data set. */
function identityStillIn({ visit, patient }: VisitHead, set: Dataset): string[] {
  const words = set
    .flatMap((element) => (Array.isArray(element.value) ? inText(element) : ''))
    .join(' ')
    .toLowerCase();
  return [patient.familyName, patient.givenName, patient.recordNumber, visit.accession, patient.owner ?? '']
    .map((word) => word.trim().toLowerCase())
    .filter((word) => word.length > 2)
    .filter((word) => ` ${words.replace(/[\\^,{}]/g, ' ').replace(/\s+/g, ' ')} `.includes(` ${word} `));
}

const pixelDataTag = '7FE00010';

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
  return { pictureId, words: leavingWords(all), changes: all, checked: checksOf(head, after) };
}

/** Looks through what would leave for what must not be there, whatever the list says. */
function checksOf(head: VisitHead, after: Dataset): string[] {
  const found = identityStillIn(head, after);
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
