import type { Change } from './deidentify';
import type { LeavingWords } from './leavingWords';
import type { SaidAttribute } from '../dicom/said';
import type { LeavingRule } from './rule';

/** One picture as it would leave. */
export interface LeavingPicture {
  pictureId: string;
  /** What happens to it, in words, before any table. */
  words: LeavingWords;
  changes: Change[];
  /** What somebody said of it, in place of what is proposed; null where its file has attributes of its own. */
  said: SaidAttribute[] | null;
  checked: string[];
  /** Whether names may stand in the picture itself, so that somebody has to look before it leaves. */
  asks: boolean;
  /** Whether somebody has, and says that with its veils none do. */
  looked: boolean;
}

export interface LeavingView {
  ruleId: string;
  rule: string;
  /** What the rule does, a line a matter. */
  ruleWords: string[];
  dates: LeavingRule['dates'];
  pseudonym: string;
  dateShiftDays: number;
  pictures: LeavingPicture[];
}
