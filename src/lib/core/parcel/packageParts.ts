import type { Named } from './fileNames';

/** Who pictures of a parcel are of; by a pseudonym alone where they leave without their identity. */
export interface ParcelPatient {
  id: string;
  name: { family: string; given: string } | null;
  /** YYYY-MM-DD. */
  born: string | null;
  sex: '' | 'F' | 'M' | 'O';
}

/** A paper that lies in a package. */
export interface PackedPaper {
  title: string;
  /** Where it lies, in the package. */
  file: string;
}

/** A picture as the page of a package shows it. */
export interface PageOf extends Named {
  frames: number;
  /** Milliseconds from frame to frame. */
  frameMs: number | null;
  width: number;
  height: number;
  /** Pictures to look at, in the package: one a frame. */
  files: string[];
  /** What somebody wrote to it. */
  remark?: string;
  /** The same with what was found drawn on it, hidden until it is asked for; none where nothing is. */
  found?: string[];
  uids: {
    studyUid: string;
    seriesUid: string;
    instanceUid: string;
    sopClass: string;
    modality: string;
  } | null;
}
