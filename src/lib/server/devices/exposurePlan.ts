import { scaleFromFile } from '../../core/calibration/scale';
import { noLayers } from '../../core/picture/pictureLayers';
import type { PictureView } from '../../core/picture/pictureView';
import { windowLook } from '../../core/raster/look/look';
import { upright } from '../../core/raster/orientation';
import { type StoredTrayEvent, type TrayEvent, storedTrayEvent } from '../../core/tray/events/all';
import { type NumberedEvent as NumberedTrayEvent, liveEvents } from '../../core/tray/log';
import type { PatternBook } from '../../core/tray/pattern';
import { fold, reduce } from '../../core/tray/reduce';
import { changedStanding } from '../../core/tray/standing';
import type { News } from '../news/announce';
import { type Origin, readOpening, samplesMediaType } from '../pictures/origin';
import { type NewArming, alignment, lookAgain } from './arming';
import type { RoomDevice } from './queries';
import { type ExposureOffer, bytesAnnounced, pictureKindOf } from './exposureOffer';

export type NumberedEvent = StoredTrayEvent & { seq: number };

/** What is known of an exposure before its bytes: who offers it, whether it came before, what it was armed for. */
export interface ExposureContext {
  deviceId: string;
  clinicId: string;
  name: string;
  kind: string;
  /** One of the clinic's own looks that its pictures open with; read by `readOpening`. */
  opensWith: unknown;
  known: string | null;
  armed: {
    /** Null for the tray's bench. */
    slotId: string | null;
    trayId: string;
    visitId: string;
    patientId: string;
    events: NumberedEvent[];
    /** Plates that were read in this visit, and when. */
    plates: Record<string, string>;
    /** Who got the device ready. */
    userId: string | null;
    devices: RoomDevice[];
  } | null;
}

export interface ExposurePlan {
  /** For the records, as `store_exposure` takes it; what depends on the bytes is added there. */
  write: object;
  arming: NewArming[];
  news: News[];
  /** The picture as pages will see it, but for its number and first look. */
  view: PictureView;
}

const untilSeen = windowLook({ center: 0, width: 1 });

/** What an exposure makes of a tray that stands where these events have led. */
export function plannedExposure(
  { armed, name, kind: deviceKind, deviceId, opensWith }: ExposureContext,
  { offer, key }: { offer: ExposureOffer; key: string },
  ids: { pictureId: string; instanceUid: string },
  tray: { seq: number; log: NumberedTrayEvent[]; book: PatternBook }
): ExposurePlan {
  const { trayId, visitId, patientId, userId, devices } = armed!;
  const { pictureId, instanceUid } = ids;
  const before = fold(liveEvents(tray.log), tray.book);
  const twice = offer.plate === undefined ? undefined : armed!.plates[offer.plate];
  const asked = armed!.slotId !== null && before.retakes.includes(armed!.slotId);
  const slotId = twice && !asked ? null : armed!.slotId;
  const event: TrayEvent = { kind: 'take-added', takeId: pictureId, slotId, exposed: true };
  const after = reduce(before, event, tray.book);
  const seq = tray.seq + 1;
  const arming = alignment(devices, trayId, after, deviceId);
  const slot = slotId === null ? null : (after.wells[slotId]?.slot ?? null);
  const known = originOf(name, offer, opensWith);
  const origin =
    twice && !asked ? { ...known, remarks: [...known.remarks, plateTwice(offer.plate!)] } : known;
  const takenAt = believedTime(offer) ?? new Date();
  const { scale: fileScale, doubt: scaleDoubt } = scaleFromFile(origin);
  const shape = {
    width: offer.width,
    height: offer.height,
    channels: 1 as const,
    bitsStored: offer.bitsStored,
    offset: 0,
    frames: 1,
    frameMs: null
  };
  const common = {
    ...shape,
    pictureId,
    visitId,
    patientId,
    trayId,
    kind: pictureKindOf(deviceKind),
    fileName: ''
  };
  return {
    arming,
    news: [
      ...arming.map((each) => lookAgain(each.deviceId)),
      { topic: 'tray', visitId, trayId, seq, events: [event] }
    ],
    view: {
      ...common,
      source: 'device',
      takenAt: takenAt.toISOString(),
      firstTakenAt: null,
      number: 0,
      from: name,
      remarks: origin.remarks,
      slot,
      links: [],
      placed: false,
      firstLook: untilSeen,
      firstOrientation: slot ? slot.orientation : upright,
      fileScale,
      scaleDoubt,
      layers: noLayers,
      people: {},
      advice: null,
      seq: 0,
      canTakeBack: false,
      canBringBack: false
    },
    write: {
      ...common,
      seq: tray.seq,
      key: `${deviceId}:${key}`,
      by: name,
      userId,
      size: bytesAnnounced(offer),
      mediaType: samplesMediaType,
      source: 'device',
      facts: origin,
      firstLook: untilSeen,
      takenAt: takenAt.toISOString(),
      instanceUid,
      events: [{ seq, ...storedTrayEvent(event) }],
      standing: changedStanding(before, after),
      standingSeq: seq,
      arming
    }
  };
}

/** A device keeps exposures for a few weeks while nobody takes them; its clock may be a little fast. */
const longestKeptMs = 60 * 86_400_000;
const fastMs = 5 * 60_000;

/** When the device says that it exposed, unless that can't be; then the moment it came in stands for it. */
export function believedTime({ takenAt }: ExposureOffer): Date | null {
  const at = new Date(takenAt);
  const ago = Date.now() - at.getTime();
  return ago > -fastMs && ago < longestKeptMs ? at : null;
}

const plateTwice = (plate: string): string =>
  `Plate ${plate} was read in this visit before, so this lies on the bench. If it was exposed again, drag it to its slot.`;

const oddTime = ({ takenAt }: ExposureOffer): string =>
  `The device says it exposed at ${takenAt.slice(0, 19).replace('T', ' ')} UTC, which can’t be; the picture stands under the moment it came in. Set the device’s clock.`;

export const originOf = (from: string, offer: ExposureOffer, opensWith: unknown): Origin => ({
  version: 2,
  from,
  manufacturer: offer.manufacturer,
  model: offer.model,
  imagerPixelSpacing: [offer.pitchMm, offer.pitchMm],
  kv: offer.kv,
  exposureMas: offer.exposureMas,
  plate: offer.plate,
  opensWith: readOpening(opensWith),
  fileAttributes: [],
  remarks: believedTime(offer) ? [] : [oddTime(offer)]
});
