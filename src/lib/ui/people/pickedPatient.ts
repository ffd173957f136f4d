/** Somebody who was picked from a list of those who fit. */
export interface PickedPatient {
  patientId: string;
  name: string;
  detail: string;
}
