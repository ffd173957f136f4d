import { identityTerms, termsInText } from '../../core/deidentify/residual';
import type { PatientBand } from '../../core/visit/visitView';

/** What tells who the patient is, where it stands in words that people wrote. */
export function namesIn(
  patient: Pick<PatientBand, 'name' | 'familyName' | 'owner' | 'recordNumber' | 'birthDate'>,
  words: string
): string[] {
  const terms = identityTerms(
    [patient.name, patient.familyName, patient.owner ?? ''],
    [patient.recordNumber],
    patient.birthDate ? [patient.birthDate] : []
  );
  return termsInText(words, terms);
}
