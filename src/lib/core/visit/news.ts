import type { PictureView } from '../picture/pictureView';
import type { TrayEvent } from '../tray/events/all';
import type { DeviceView } from './visitView';

/**
 * What happened at a clinic, told part by part, so that a page takes in that part alone. What is small goes along; what
 * is not is fetched.
 */
export type News =
  /** A device of a room: its lamp, its words, what it waits for. */
  | { topic: 'lamp'; roomId: string; device: DeviceView }
  /** Events of a tray up to a number; without them the page fetches the tray. */
  | { topic: 'tray'; visitId: string; trayId: string; seq: number; events: TrayEvent[] | null }
  /** A picture is new or was changed; without its view the page fetches it. */
  | { topic: 'picture'; visitId: string; pictureId: string; view: PictureView | null }
  /** A picture was moved to another visit. */
  | { topic: 'picture-left'; visitId: string; pictureId: string }
  /** A device that waited for this visit was taken over by somebody for another. */
  | { topic: 'taken-over'; visitId: string; device: string; by: string }
  | { topic: 'deliveries'; visitId: string }
  /** A parcel went on, or stands still. */
  | { topic: 'dispatch'; parcelId: string }
  /** A teaching case was packed further, or changed. */
  | { topic: 'shelf'; caseId: string }
  /** Much of a visit may be otherwise: whose it is. */
  | { topic: 'visit'; visitId: string }
  /** Somebody wrote a part of the visit's story. */
  | { topic: 'story'; visitId: string }
  /** Lines of a plate that is being read: small grey samples, base64, for looking on only. */
  | {
      topic: 'reading';
      visitId: string;
      deviceId: string;
      device: string;
      readingId: string;
      plate: string;
      width: number;
      height: number;
      from: number;
      rows: string;
    }
  /** Something came in that belongs to nobody yet, or was given to somebody. */
  | { topic: 'arrivals' }
  /** Something came that was sent to one person. */
  | { topic: 'sent-to'; userId: string; from: string; subject: string; count: number }
  /** A visit was opened, an appointment came or went. */
  | { topic: 'day' };
