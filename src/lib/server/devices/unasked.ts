import { insertBlob } from '../blobs/queries';
import { keepAtOnce } from '../blobs/keep';
import { landingFolder } from '../config';
import { keepArrival } from '../arrivals/keeping';
import { inClinic } from '../database/connection';
import { sha256 } from '../ids';
import { samplesMediaType } from '../pictures/origin';
import { tokenOf } from './devices';
import { bytesAnnounced, pictureKindOf, rubbish } from './exposureOffer';
import { type ExposureContext, believedTime, originOf } from './exposurePlan';
import type { Acknowledged, Coming, Offered } from './offered';
import { placeOfDevice } from './queries';

const reasonFor = (armingId: string | null, name: string): string =>
  armingId === null
    ? `Nobody had got ${name} ready when it exposed.`
    : `${name} says it was armed for this, and this clinic never armed it so.`;

/**
 * An exposure that nobody asked for, or of which nobody knows what for, lies in Arrivals until a person says whose it is:
 * never dropped, never guessed. Acknowledged once it is as safe as any other.
 */
export async function keepUnasked(
  context: ExposureContext,
  { authorization, key, offer, digest: announced }: Offered,
  { landing, received, digest }: Coming
): Promise<Acknowledged> {
  const { clinicId, deviceId, name, kind } = context;
  try {
    await received;
    if (landing.size !== bytesAnnounced(offer))
      throw rubbish(
        `The exposure holds ${landing.size} bytes where ${bytesAnnounced(offer)} were announced.`
      );
    const found = await digest;
    const sha = Buffer.from(found.sha256, 'hex');
    if (announced && !announced.equals(sha))
      throw rubbish('The exposure was changed on its way: its digest differs.');
    const lands = landingFolder() !== null;
    if (lands) await landing.settle(Promise.resolve(sha), clinicId);
    const { arrivalId, again } = await inClinic(clinicId, async (tx) => {
      if (lands) await insertBlob(tx, sha, landing.size, 'landed');
      else await keepAtOnce(tx, sha, landing.size, landing.part);
      const place = await placeOfDevice(tx, deviceId);
      const from = {
        clinicId,
        source: 'device' as const,
        name,
        roomId: place.roomId,
        userId: null,
        timeZone: place.timeZone,
        by: { device: sha256(tokenOf(authorization)!) }
      };
      return keepArrival(tx, from, {
        key: `${deviceId}:${key}`,
        digest: sha,
        fileName: '',
        title: '',
        remark: '',
        about: {
          version: 2,
          says: null,
          dated: true,
          mediaType: samplesMediaType,
          kind: pictureKindOf(kind),
          width: offer.width,
          height: offer.height,
          channels: 1,
          bitsStored: Math.max(offer.bitsStored, found.bitsUsed),
          offset: 0,
          frames: 1,
          frameMs: null,
          firstLook: found.firstLook!,
          origin: originOf(name, offer, context.opensWith),
          inFile: null
        },
        reason: reasonFor(offer.armingId, name),
        takenAt: believedTime(offer) ?? new Date()
      });
    });
    return { pictureId: arrivalId, again };
  } finally {
    await landing.discard();
  }
}
