import type { PatientBand } from '../visit/visitView';

/** Somebody who was found, and why, where the name alone does not say. */
export type FoundPatient = PatientBand & { why: string[] };
