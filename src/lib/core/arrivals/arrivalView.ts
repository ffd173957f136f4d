import type { PictureKind } from '../picture/pictureView';

/** Where something came from that belongs to nobody yet. */
export type ArrivalSource = 'device' | 'folder' | 'phone';

/** Something that came in and belongs to nobody yet, as pages see it. */
export interface ArrivalView {
  arrivalId: string;
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
  kind: PictureKind;
  takenAt: string;
  arrivedAt: string;
  /** What a person should know of it: a clock that is wrong, a contradiction in the file. */
  remarks: string[];
  /** What the file says of whose it is. */
  inFile: { name: string; id: string; birthDate: string } | null;
  putAway: boolean;
}

/** `arrivalName` is what it is called in a list: its title, else its file, else where it came from. */
export const arrivalName = ({ title, fileName, from }: ArrivalView): string =>
  title || fileName || `From ${from}`;
