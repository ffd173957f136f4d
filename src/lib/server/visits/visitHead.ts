import { z } from 'zod';
import type { PatientBand } from '../../core/visit/visitView';
import { Room } from '../clinics/roomModel';
import { type Tx, within } from '../database/connection';
import { notFound } from '../problem';
import { Patient } from './patientModel';
import { Visit } from './visitModel';

/** A visit with its patient and room, as everything that concerns it needs it. */
export interface VisitHead {
  visit: Visit;
  patient: Patient;
  room: Room;
}

export async function visitHead(tx: Tx, visitId: string): Promise<VisitHead> {
  if (!z.uuid().safeParse(visitId).success) throw notFound('This visit');
  const visit = await Visit.findByPk(visitId, {
    include: [
      { model: Patient, as: 'patient' },
      { model: Room, as: 'room' }
    ],
    ...within(tx)
  });
  if (!visit) throw notFound('This visit');
  return { visit, patient: visit.patient!, room: visit.room! };
}

const sexWords = { F: 'female', M: 'male', O: 'other', '': '' } as const;

export const fullName = ({ kind, givenName, familyName }: Patient): string =>
  kind === 'animal' ? givenName : `${givenName} ${familyName}`.trim();

/** What stands on the name band. */
export const bandOf = (patient: Patient): PatientBand => ({
  patientId: patient.patientId,
  kind: patient.kind,
  name: fullName(patient),
  familyName: patient.familyName,
  birthDate: patient.birthDate,
  sex: sexWords[patient.sex],
  recordNumber: patient.recordNumber,
  species: patient.species,
  owner: patient.owner,
  alert: patient.alert
});
