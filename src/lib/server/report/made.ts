import type { PaperNames } from '../../core/report/paperHead';

/** A PDF as a process of its own makes it. */
export interface PdfMade {
  bytes: Uint8Array;
  /** Letters that no font has. */
  unwritable: string[];
}

/** A paper as it stands now, and what somebody has to hear before it is shared. */
export interface PaperMade extends PdfMade {
  names: PaperNames;
  /** What points to the patient and stands in the words of a paper by initials. */
  named: string[];
}
