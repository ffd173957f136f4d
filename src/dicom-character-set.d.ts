declare module 'dicom-character-set' {
  /** Bytes of a DICOM text value in its Specific Character Set (which may have several values) as a string. */
  export function convertBytes(
    specificCharacterSet: string,
    bytes: Uint8Array,
    options?: { vr?: string }
  ): string;
}
