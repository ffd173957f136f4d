import type { DeliveryState } from '../parcel/road';
import type { Settled } from '../devices/choose';
import type { Fineness } from '../devices/deviceKind';
import type { PictureView } from '../picture/pictureView';
import type { Trade } from '../tray/pattern';
import type { Tray } from '../tray/tray';
import type { Pedal } from './pedal';
import type { Story } from './story';

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

export const lamps = ['absent', 'resting', 'arming', 'ready', 'exposing', 'reading', 'faulted'] as const;
export type LampState = (typeof lamps)[number];

/** What a device is armed for. */
export interface Armed {
  visitId: string;
  trayId: string;
  /** Null for a device that reads onto the bench, now that every slot has its take. */
  slotId: string | null;
  /** Whose visit it is, and who got the device ready. */
  patient: string;
  by: string;
}

/** A device of the visit's room. */
export interface DeviceView {
  deviceId: string;
  name: string;
  kind: string;
  lamp: LampState;
  lampWords: string;
  armed: Armed | null;
  /** How fine it can read, and how it does now; empty and null for devices of one fineness. */
  finenesses: readonly Fineness[];
  fineness: string | null;
}

/** One picture on its way to one destination. */
export interface DeliveryView {
  deliveryId: string;
  parcelId: string;
  /** Null for a parcel that goes as a whole. */
  pictureId: string | null;
  /** How many pictures its parcel has. */
  pictures: number;
  identity: 'identified' | 'deidentified';
  state: DeliveryState;
  attempts: number;
  reason: string;
  /** What a person can do. */
  next: string;
  readBackAt: string | null;
  nextTryAt: string | null;
  deliveredAt: string | null;
  destination: string;
  /** The number that a claims office follows it by. */
  tracking: string;
}

/** What the practice system was told of a visit's pictures in archives. */
export interface PracticeTold {
  name: string;
  /** Something is still to be told. */
  due: boolean;
  toldAt: string | null;
  instances: number;
  problem: string;
}

/** One of a visit's trays, as far as its events went. */
export interface TrayView {
  trayId: string;
  /** Counts the trays of a visit from 1. */
  number: number;
  /** Of the newest event that the tray holds. */
  seq: number;
  tray: Tray;
  /** How many events of it this program can't read; what they did is not in `tray`. */
  unread?: number;
}

/** A visit as its pages see it. */
export interface VisitView {
  visitId: string;
  /** When somebody said that it is done with; null while it is open. */
  closedAt: string | null;
  roomId: string;
  room: string;
  trade: Trade;
  openedAt: string;
  /** Why the patient comes, in the appointment's words. */
  reason: string;
  story: Story;
  /** Keys of the room's pedal, by what they do. */
  pedal: Pedal;
  /** The devices that whoever looks took in this room the last time. */
  habit: Settled;
  patient: PatientBand;
  trays: TrayView[];
  pictures: PictureView[];
  devices: DeviceView[];
  deliveries: DeliveryView[];
  /** Null where no practice system has to hear of it. */
  told: PracticeTold | null;
  /** Names of those who confirmed something, by user. */
  people: Record<string, string>;
}
