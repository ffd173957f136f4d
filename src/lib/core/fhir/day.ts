import { type FhirAppointment, type FhirPatient, fhirAppointment, fhirPatient } from './resources';

/** A patient as a practice system has it, in our words. */
export interface PracticePatient {
  /** The resource's own id there. */
  id: string;
  identifiers: { issuer: string; value: string }[];
  kind: 'person' | 'animal';
  givenName: string;
  familyName: string;
  /** YYYY-MM-DD; null where it is not known to the day. */
  birthDate: string | null;
  sex: '' | 'F' | 'M' | 'O';
  species: string | null;
  breed: string | null;
  owner: string | null;
}

/** An appointment as a practice system has it. */
export interface PracticeAppointment {
  id: string;
  patient: string;
  /** The room, by what the practice system calls it. */
  room: string;
  startsAt: string;
  minutes: number;
  reason: string;
  /** It will not take place, or was entered in error. */
  off: boolean;
}

/** HL7's extension for patients that are animals (R4, patient-animal). */
const animalUrl = 'http://hl7.org/fhir/StructureDefinition/patient-animal';
const usualMinutes = 30;
const offStates = new Set(['cancelled', 'noshow', 'entered-in-error']);
const sexes = { male: 'M', female: 'F', other: 'O', unknown: '' } as const;

/** The name in use: the official one, else the usual one, else the first that is not an old one. */
function nameOf({ name = [] }: FhirPatient): { given: string; family: string } {
  const current = name.filter(({ use }) => use !== 'old');
  const best =
    current.find(({ use }) => use === 'official') ??
    current.find(({ use }) => use === 'usual') ??
    current[0] ??
    name[0];
  const given = (best?.given ?? []).join(' ').trim();
  const family = best?.family?.trim() ?? '';
  // A name that is only there as one text is kept whole.
  return given || family ? { given, family } : { given: best?.text?.trim() ?? '', family: '' };
}

function animalOf({ extension = [] }: FhirPatient): { species: string | null; breed: string | null } | null {
  const animal = extension.find(({ url }) => url === animalUrl);
  if (!animal) return null;
  const said = (what: string) => {
    const part = animal.extension?.find(({ url }) => url === what);
    const concept = part?.valueCodeableConcept;
    return concept?.text ?? concept?.coding?.[0]?.display ?? part?.valueString ?? null;
  };
  return { species: said('species'), breed: said('breed') };
}

export function patientOfFhir(patient: FhirPatient): PracticePatient {
  const { given, family } = nameOf(patient);
  const animal = animalOf(patient);
  return {
    id: patient.id,
    identifiers: (patient.identifier ?? []).flatMap(({ system = '', value = '', use }) =>
      value && use !== 'old' ? [{ issuer: system, value }] : []
    ),
    kind: animal ? 'animal' : 'person',
    givenName: given,
    familyName: family,
    birthDate: /^\d{4}-\d{2}-\d{2}$/.test(patient.birthDate ?? '') ? patient.birthDate! : null,
    sex: sexes[patient.gender ?? 'unknown'],
    species: animal?.species ?? null,
    breed: animal?.breed ?? null,
    owner: animal ? (patient.contact?.[0]?.name?.text ?? null) : null
  };
}

function minutesOf({ start, end, minutesDuration }: FhirAppointment): number {
  if (minutesDuration) return Math.round(minutesDuration);
  const between = start && end ? (Date.parse(end) - Date.parse(start)) / 60_000 : 0;
  return between > 0 ? Math.round(between) : usualMinutes;
}

/** @returns null for one without a patient or without an hour: nothing can be made of it */
export function appointmentOfFhir(appointment: FhirAppointment): PracticeAppointment | null {
  const actors = appointment.participant.flatMap(({ actor }) => (actor ? [actor] : []));
  const patient = actors.find(({ reference = '' }) => /(^|\/)Patient\//.test(reference));
  const room = actors.find(({ reference = '' }) => /(^|\/)Location\//.test(reference));
  if (!patient || !appointment.start) return null;
  const reason = appointment.reasonCode?.[0];
  return {
    id: appointment.id,
    patient: patient.reference!.split('/').at(-1)!,
    room: room?.display ?? '',
    startsAt: new Date(appointment.start).toISOString(),
    minutes: minutesOf(appointment),
    reason: reason?.text ?? reason?.coding?.[0]?.display ?? appointment.description ?? '',
    off: offStates.has(appointment.status)
  };
}

export interface PracticeDay {
  patients: Map<string, PracticePatient>;
  appointments: PracticeAppointment[];
  /** How many resources could not be read. */
  unread: number;
}

/** What a bundle of a day's appointments, with their patients, says. What can't be read is counted, and harms nothing else. */
export function dayOfBundle(resources: readonly unknown[]): PracticeDay {
  const patients = new Map<string, PracticePatient>();
  const appointments: PracticeAppointment[] = [];
  let unread = 0;
  for (const resource of resources) {
    const patient = fhirPatient.safeParse(resource);
    if (patient.success) {
      patients.set(patient.data.id, patientOfFhir(patient.data));
      continue;
    }
    const appointment = fhirAppointment.safeParse(resource);
    const made = appointment.success ? appointmentOfFhir(appointment.data) : null;
    if (made) appointments.push(made);
    else unread += 1;
  }
  return { patients, appointments, unread };
}
