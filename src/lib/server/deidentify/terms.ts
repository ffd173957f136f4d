import { identityTerms } from '../../core/deidentify/residual';
import type { LeavingRule } from '../../core/deidentify/rule';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, within } from '../database/connection';
import { type Origin, fileText } from '../pictures/origin';
import type { VisitHead } from '../visits/visitHead';

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
const birthDateInFile = '00100030';

/** Names, numbers and days that point to a person. */
interface Pointing {
  names: string[];
  numbers: string[];
  days: string[];
}

/**
 * What points to a person and must not leave: by the chart and by charts that were joined into it; who works here; and the
 * clinic, unless it may be named.
 */
async function pointingTo(tx: Tx, { visit, patient }: VisitHead, rule: LeavingRule): Promise<Pointing> {
  const people = await tx.sql<{ name: string }>(
    'select display_name as name from user_account where clinic_id = $1',
    tx.clinicId
  );
  const joined = await tx.sql<{ names: string; number: string; born: string | null }>(
    `select family_name || ' ' || given_name as names, record_number as number, birth_date::text as born
     from patient where clinic_id = $1 and joined_into = $2`,
    tx.clinicId,
    patient.patientId
  );
  const numbers = await tx.sql<{ value: string }>(
    'select value from identifier where clinic_id = $1 and patient_id = $2',
    tx.clinicId,
    patient.patientId
  );
  const clinic = await Clinic.findByPk(tx.clinicId, within(tx));
  return {
    names: [
      patient.familyName,
      patient.givenName,
      patient.owner ?? '',
      ...joined.map(({ names }) => names),
      ...people.map(({ name }) => name)
    ],
    numbers: [
      patient.recordNumber,
      patient.nationalNumber ?? '',
      visit.accession,
      ...joined.map(({ number }) => number),
      ...numbers.map(({ value }) => value),
      // As a whole: its words stand in many others.
      rule.institution ? '' : (clinic?.name ?? '')
    ],
    days: [patient.birthDate ?? '', ...joined.map(({ born }) => born ?? '')]
  };
}

/** The terms of each of a visit's pictures: the person's, and those of the file it came in, which may know them otherwise. */
export async function termsOf(
  tx: Tx,
  head: VisitHead,
  rule: LeavingRule
): Promise<(origin: Origin) => string[]> {
  const { names, numbers, days } = await pointingTo(tx, head, rule);
  return (origin) => {
    const inFile = (tags: readonly string[]) => tags.map((tag) => fileText(origin, tag) ?? '');
    return identityTerms(
      [...names, ...inFile(namesInFile)],
      [...numbers, ...inFile(numbersInFile)],
      [...days, ...inFile([birthDateInFile])]
    );
  };
}
