import { dayAfter, dayOf, dayRange } from '../src/lib/core/time/clinicTime';
import { type DemoAppointment, type DemoPatient, day, nextDay, patients, timeZone } from './clinic';

/** Who gives the record numbers of the demo clinic: they are the practice system's own. */
export const recordIssuer = 'urn:quill-sound:records';
export const practiceName = 'Harbour desk';
export const dayStartsAtHour = 8;
const minuteMs = 60_000;

export const practiceIdOf = (date: string, place: number): string => `${date}-${place}`;

/** When an appointment of a day begins. */
export const startOf = (date: string, { at }: DemoAppointment): Date =>
  new Date(dayRange(date, timeZone).start.getTime() + (dayStartsAtHour * 60 + at) * minuteMs);

const animalUrl = 'http://hl7.org/fhir/StructureDefinition/patient-animal';
const genders = { F: 'female', M: 'male', O: 'other', '': 'unknown' } as const;

const patientResource = (patient: DemoPatient) => ({
  resourceType: 'Patient',
  id: patient.record,
  identifier: [{ system: recordIssuer, value: patient.record }],
  name: [{ use: 'official', family: patient.family || undefined, given: [patient.given] }],
  gender: genders[patient.sex],
  birthDate: patient.birth ?? undefined,
  ...(patient.kind === 'animal'
    ? {
        extension: [
          {
            url: animalUrl,
            extension: [{ url: 'species', valueCodeableConcept: { text: patient.species } }]
          }
        ],
        contact: [{ name: { text: patient.owner } }]
      }
    : {})
});

const appointmentResources = (date: string, all: readonly DemoAppointment[]) =>
  all.map((each, place) => ({
    resourceType: 'Appointment',
    id: practiceIdOf(date, place),
    status: 'booked',
    start: startOf(date, each).toISOString(),
    minutesDuration: each.minutes,
    reasonCode: [{ text: each.reason }],
    participant: [
      { actor: { reference: `Patient/${each.patient}` }, status: 'accepted' },
      { actor: { reference: `Location/${each.room}`, display: each.room }, status: 'accepted' }
    ]
  }));

/** What the practice system of the demo clinic holds: today's and tomorrow's appointments, and their patients. */
export function demoDay(now: Date) {
  const today = dayOf(now, timeZone);
  return [
    ...patients.map(patientResource),
    ...appointmentResources(today, day),
    ...appointmentResources(dayAfter(today, 1), nextDay)
  ];
}
