/** A coded concept as DICOM writes it (PS3.3 8.8). */
export interface Code {
  value: string;
  /** SCT: SNOMED CT; DCM: DICOM itself; ISO3950: teeth; 99YONDER: ours, where no public scheme has a word for it. */
  scheme: 'SCT' | 'DCM' | 'ISO3950' | '99YONDER';
  meaning: string;
}

export const sct = (value: string, meaning: string): Code => ({ value, scheme: 'SCT', meaning });

export const dcm = (value: string, meaning: string): Code => ({ value, scheme: 'DCM', meaning });

/** A code of our own; the value follows from the meaning, so that it is the same in every clinic. */
export const localCode = (meaning: string): Code => ({
  value: meaning
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '_')
    .slice(0, 16),
  scheme: '99YONDER',
  meaning
});
