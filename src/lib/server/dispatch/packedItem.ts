import type { FoundName } from '../../core/deidentify/parcelCheck';
import type { Dataset } from '../../core/dicom/dataset';
import type { PixelBody } from '../../core/dicom/pixelBody';
import type { Named } from '../../core/parcel/fileNames';
import type { Packing } from '../../core/parcel/packing';
import type { IdentityRule } from '../deidentify/identityRule';

/** A picture of a parcel, as a process of its own is told to pack it. */
export interface ItemWish extends IdentityRule, ObjectWish {
  clinicId: string;
  pictureId: string;
  packing: Packing;
  /** Who sends it: by them a state or a report is made. */
  madeBy: string;
  /** Whether what was built is looked through before it may go, pixels too. */
  check: boolean;
}

/** How whoever it goes to wants its objects. */
export interface ObjectWish {
  /** With plain samples alone, so that no JPEG stays as it came. */
  plain?: boolean;
  /** With the body by itself as well, of a picture that came without attributes. */
  apart?: boolean;
}

export interface PackedFile {
  part: 'picture' | 'state' | 'report' | 'header' | 'shown' | 'kept';
  /** Ending without its dot. */
  ending: string;
  /** Of a picture of several frames that are files of their own. */
  frame: number | null;
  bytes: Uint8Array;
  /** What a kept view is called, and what somebody wrote to it. */
  kept?: { name: string; remark: string };
  /** A DICOM object without its pixels, for the index. */
  set?: Dataset;
  /** Its pixel data by themselves, where they are wanted so. */
  body?: PixelBody;
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
