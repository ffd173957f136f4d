import type { PictureView } from '../picture/pictureView';
import type { Tray } from '../tray/tray';

/** What stands on the name band. */
export interface PatientBand {
  patientId: string;
  kind: 'person' | 'animal';
  name: string;
  familyName: string;
  birthDate: string | null;
  sex: string;
  recordNumber: string;
  species: string | null;
  owner: string | null;
  alert: string | null;
}

/** A device of the visit's room. */
export interface DeviceView {
  deviceId: string;
  name: string;
  lamp: string;
  lampWords: string;
  /** The slot it waits for, when that is one of this visit. */
  slotId: string | null;
  armedElsewhere: boolean;
}

/** One picture on its way to one destination. */
export interface DeliveryView {
  deliveryId: string;
  pictureId: string;
  identity: 'identified' | 'deidentified';
  state: 'waiting' | 'sending' | 'delivered' | 'failed';
  attempts: number;
  reason: string;
  nextTryAt: string | null;
  deliveredAt: string | null;
  destination: string;
}

/** A visit as its pages see it. */
export interface VisitView {
  visitId: string;
  room: string;
  trade: string;
  openedAt: string;
  patient: PatientBand;
  tray: Tray;
  pictures: PictureView[];
  devices: DeviceView[];
  deliveries: DeliveryView[];
}
