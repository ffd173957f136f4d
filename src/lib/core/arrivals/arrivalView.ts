import type { PictureKind } from '../picture/pictureView';
import type { PatientBand } from '../visit/visitView';
import type { Shown } from './shows';

/** Where something came from that belongs to nobody yet. */
export type ArrivalSource = 'device' | 'folder' | 'phone' | 'drop' | 'disc' | 'mail' | 'network' | 'chart';

/** Whether a device exposed it, itself or into its folder: such a thing is never dropped nor removed. */
export const isExposure = (source: ArrivalSource): boolean => source === 'device' || source === 'folder';

/** Whether the moment it came is the moment it was taken. */
export const cameWhenTaken = (source: ArrivalSource): boolean =>
  isExposure(source) || source === 'phone' || source === 'chart';

/** Whose a file says it is. */
export interface InFile {
  /** As it is read: given name first, other scripts in brackets. */
  name: string;
  id: string;
  /** YYYY-MM-DD or as the file has it. */
  birthDate: string;
}

/** Something that came in and belongs to nobody yet, as pages see it. */
export interface ArrivalView {
  arrivalId: string;
  bundleId: string;
  source: ArrivalSource;
  /** The device, or who sent it. */
  from: string;
  /** Where its device stands. */
  room: string | null;
  roomId: string | null;
  fileName: string;
  title: string;
  remark: string;
  /** Why it lies here, in words. */
  reason: string;
  kind: PictureKind | 'paper' | 'video';
  /** Of a loop, a series, a paper. */
  frames: number;
  /** How many numbered pictures it was made of; they can be had singly again. */
  parts: number;
  takenAt: string;
  /** Whether that comes from the file itself; else it is when it came. */
  dated: boolean;
  arrivedAt: string;
  /** What a person should know of it: a clock that is wrong, a contradiction in the file. */
  remarks: string[];
  inFile: InFile | null;
  /** The series it belongs to, in words. */
  series: string;
  shows: Shown;
  putAway: boolean;
}

/** What lies together on the desk: pictures of one person and study that came together. */
export interface BundleView {
  bundleId: string;
  source: ArrivalSource;
  from: string;
  /** Of a mail: where it came from; else empty. */
  address: string;
  room: string | null;
  /** What its first one is called. */
  name: string;
  inFile: InFile | null;
  count: number;
  papers: number;
  firstId: string;
  firstKind: PictureKind | 'paper' | 'video';
  arrivedAt: string;
  intakeId: string | null;
  subject: string;
  note: string;
  forMe: boolean;
  unknownSender: boolean;
  putAway: boolean;
}

/** A visit that was under way in a room on a day. */
export interface NearVisit {
  visitId: string;
  openedAt: string;
  patientId: string;
  patient: string;
  recordNumber: string;
}

/** Somebody whose a bundle may be, with what speaks for it and what against. */
export interface PersonProposed {
  patient: PatientBand;
  for: string[];
  against: string[];
}

/** `arrivalName` is what it is called in a list: its title, else its file, else where it came from. */
export const arrivalName = ({
  title,
  fileName,
  from
}: Pick<ArrivalView, 'title' | 'fileName' | 'from'>): string =>
  title || fileName.split('/').at(-1) || `From ${from}`;
