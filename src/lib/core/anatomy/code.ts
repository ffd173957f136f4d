/** A coded concept as DICOM writes it (PS3.3 8.8). */
export interface Code {
  value: string;
  /** SCT: SNOMED CT; DCM: DICOM itself; ISO3950: teeth; 99YONDER: ours, where no public scheme has a word for it. */
  scheme: 'SCT' | 'DCM' | 'ISO3950' | '99YONDER';
  meaning: string;
}

export const sct = (value: string, meaning: string): Code => ({ value, scheme: 'SCT', meaning });

export const dcm = (value: string, meaning: string): Code => ({ value, scheme: 'DCM', meaning });

/**
 * A code of our own for something that has a key: its value is a hash of the key (FNV-1a, twice over), because names
 * that begin alike would share one that is cut from them.
 */
export function keyedCode(key: string, meaning: string): Code {
  const hash = (seed: number) => {
    let h = seed >>> 0;
    for (const byte of new TextEncoder().encode(key)) h = Math.imul(h ^ byte, 0x01000193) >>> 0;
    return h.toString(16).padStart(8, '0');
  };
  return { value: `${hash(0x811c9dc5)}${hash(0x5bd1e995)}`.slice(0, 16), scheme: '99YONDER', meaning };
}

/** A code of our own; the value follows from the meaning, so that it is the same in every clinic. */
export const localCode = (meaning: string): Code => ({
  value: meaning
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '_')
    .slice(0, 16),
  scheme: '99YONDER',
  meaning
});
