import type { Change } from './deidentify';
import type { LeavingWords } from './leavingWords';

/** One picture as it would leave. */
export interface LeavingPicture {
  pictureId: string;
  /** What happens to it, in words, before any table. */
  words: LeavingWords;
  changes: Change[];
  checked: string[];
  /** Whether names may stand in the picture itself and nobody has said yet that none do. */
  mustLook: boolean;
}

export interface LeavingView {
  pseudonym: string;
  dateShiftDays: number;
  pictures: LeavingPicture[];
}
