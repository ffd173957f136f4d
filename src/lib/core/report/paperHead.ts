import { initialsOf } from '../people/names';
import { dateInWords } from '../time/clinicTime';
import type { PatientBand } from '../visit/visitView';

/** How a patient is named on paper. */
export const paperNames = ['initials', 'full'] as const;
export type PaperNames = (typeof paperNames)[number];

/** Whole years, and months while below two years. Both are calendar days, YYYY-MM-DD. */
export function ageInWords(birthDate: string, today: string): string {
  const [birth, now] = [birthDate, today].map((date) => date.split('-').map(Number));
  let months = (now[0] - birth[0]) * 12 + now[1] - birth[1];
  if (now[2] < birth[2]) months -= 1;
  return months < 24 ? `${months} months` : `${Math.floor(months / 12)} years`;
}

/**
 * What stands at the head of a paper: by initials nothing that tells who it is, but how old and of what species.
 * @param today at the clinic, YYYY-MM-DD
 * @param language that dates are written in
 */
export function paperHead(
  patient: Pick<PatientBand, 'kind' | 'name' | 'recordNumber' | 'birthDate' | 'species' | 'owner'>,
  names: PaperNames,
  today: string,
  language: string
): { title: string; about: string } {
  const isFull = names === 'full';
  const { birthDate } = patient;
  const born = birthDate && `born ${dateInWords(birthDate, language)}`;
  return {
    title: isFull ? patient.name : initialsOf(patient),
    about: [
      isFull && patient.recordNumber,
      birthDate && (isFull ? born : ageInWords(birthDate, today)),
      patient.species,
      isFull && patient.owner
    ]
      .filter(Boolean)
      .join(' · ')
  };
}
