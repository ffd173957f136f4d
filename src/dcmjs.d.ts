declare module 'dcmjs' {
  type Attributes = Record<string, { vr: string; Value?: unknown[] }>;
  const dcmjs: {
    data: {
      /** A DICOM file: its meta information, and its data set by tag. */
      DicomDict: new (meta: Attributes) => {
        dict: Attributes;
        write(options?: { fragmentMultiframe?: boolean }): ArrayBuffer;
      };
    };
  };
  export default dcmjs;
}
