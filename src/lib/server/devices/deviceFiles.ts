import { z } from 'zod';
import { fileArrives } from '../arrivals/keeping';
import { type Tx, inClinic } from '../database/connection';
import { sha256 } from '../ids';
import { putIntoVisit } from '../pictures/bringIn';
import { readOpening } from '../pictures/origin';
import { pictureOfKey } from '../pictures/queries';
import { withReceived } from '../pictures/receiving';
import { deviceOf, tokenOf } from './devices';
import type { Acknowledged } from './offered';
import { placeOfDevice } from './queries';

/** What a device says of a file that it offers (docs/device-protocol.md). */
export const fileOffer = z.object({
  armingId: z.uuid().nullable(),
  fileName: z.string().max(200)
});
export type FileOffer = z.infer<typeof fileOffer>;

interface OfferedFile {
  authorization: string | null;
  key: string;
  offer: FileOffer;
  body: AsyncIterable<Uint8Array>;
}

interface Target {
  trayId: string;
  slotId: string;
  visitId: string;
}

/** What a device was armed for when it made something, whether or not it still is. */
const armedFor = (tx: Tx, deviceId: string, armingId: string | null): Promise<Target | undefined> =>
  tx.one(
    `select a.tray_id as "trayId", a.slot_id as "slotId", t.visit_id as "visitId" from arming a join tray t using (tray_id)
     where a.arming_id = $1 and a.device_id = $2`,
    armingId,
    deviceId
  );

/**
 * Takes a file from a device: into the slot that it was armed for, else to Arrivals. Acknowledged once it is kept, and
 * the same key twice is one picture.
 */
export async function takeDeviceFile(offered: OfferedFile): Promise<Acknowledged> {
  const device = await deviceOf(offered.authorization);
  const key = `${device.deviceId}:${offered.key}`;
  const { known, target, place } = await inClinic(device.clinicId, async (tx) => ({
    known: await pictureOfKey(tx, key),
    target: await armedFor(tx, device.deviceId, offered.offer.armingId),
    place: await placeOfDevice(tx, device.deviceId)
  }));
  if (known) return { pictureId: known, again: true };
  const opensWith = readOpening(place.opensWith);
  const by = { device: sha256(tokenOf(offered.authorization)!) };
  if (target)
    return withReceived(device.clinicId, offered.body, (received) =>
      inClinic(device.clinicId, async (tx) => {
        const { fileName } = offered.offer;
        const made = { from: device.name, opensWith, exposed: true, exposedBy: device.deviceId };
        const who = { actor: { name: device.name, userId: null }, by, timeZone: place.timeZone };
        const put = await putIntoVisit(tx, { ...target, key, fileName, ...made, ...who }, received);
        return { pictureId: put.pictureId, again: put.again };
      })
    );
  const { clinicId, name } = device;
  const { roomId, timeZone } = place;
  const { arrivalId, again } = await fileArrives(
    { clinicId, source: 'folder', name, opensWith, roomId, userId: null, timeZone, by },
    {
      key,
      fileName: offered.offer.fileName,
      reason: `It came into ${name} while nobody waited for it.`,
      body: offered.body
    }
  );
  return { pictureId: arrivalId, again };
}
