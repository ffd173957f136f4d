import type { FoundName } from '../../core/deidentify/parcelCheck';
import type { Dataset } from '../../core/dicom/dataset';
import type { Named } from '../../core/parcel/fileNames';
import type { Packing } from '../../core/parcel/packing';
import type { IdentityRule } from '../deidentify/identityRule';

/** A picture of a parcel, as a process of its own is told to pack it. */
export interface ItemWish extends IdentityRule {
  clinicId: string;
  pictureId: string;
  packing: Packing;
  /** Who sends it: by them a state or a report is made. */
  madeBy: string;
  /** Whether what was built is looked through before it may go, pixels too. */
  check: boolean;
}

export interface PackedFile {
  part: 'picture' | 'state' | 'report' | 'header' | 'shown';
  /** Ending without its dot. */
  ending: string;
  /** Of a picture of several frames that are files of their own. */
  frame: number | null;
  bytes: Uint8Array;
  /** A DICOM object without its pixels, for the index. */
  set?: Dataset;
}

/** What the pages of a package tell of a picture. */
export interface PackedAbout extends Named {
  pictureId: string;
  frames: number;
  frameMs: number | null;
  width: number;
  height: number;
}

export interface ItemPacked {
  about: PackedAbout;
  files: PackedFile[];
  found: FoundName[];
  /** Of all its files, so that what leaves can be told to be what was looked through. */
  digest: string;
}
