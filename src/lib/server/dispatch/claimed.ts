import type { StudyInstance } from '../../core/fhir/imagingStudy';
import type { Commitment } from '../../core/parcel/commitment';
import type { DestinationSettings } from '../../core/parcel/destination';
import type { ItemRow, ParcelRow } from './parcelRow';

/** A delivery that somebody has taken up. */
export interface Claimed {
  deliveryId: string;
  parcel: ParcelRow;
  items: ItemRow[];
  pictureId: string | null;
  /** Which film of the parcel it is, from 1. */
  film: number | null;
  name: string;
  settings: DestinationSettings;
  tries: number;
  /** Whether the picture was delivered there before, as it was then. */
  before: boolean;
}

/** What became of it. */
export interface Arrived {
  /** The picture's own object, where one was stored in an archive. */
  sent: StudyInstance | null;
  /** Whether what lies there was read back and is what was sent. */
  readBack: boolean;
  /** Whether an archive says that it keeps it, where it was asked. */
  commitment?: Commitment;
  /** What whoever follows it should know though it is there. */
  remark: string;
  /** The number that a claims office follows it by. */
  tracking?: string;
}
