import { Landing, landedFile } from '../blobs/landing';
import { landingFolder } from '../config';
import { beforeClinic, meantInWords } from '../database/connection';
import { sha256 } from '../ids';
import { rememberLevels } from '../pictures/fresh';
import { coarseInThread, digestInThread } from '../work/threads';
import { tokenOf, unknownDevice } from './devices';
import { type ExposureOffer, bytesAnnounced, neverArmed, rubbish } from './exposureOffer';
import type { ExposureContext } from './exposurePlan';
import { ExposureWriting } from './exposureWriting';

export interface Offered {
  authorization: string | null;
  key: string;
  offer: ExposureOffer;
  /** SHA-256 as the device has it, if it says. */
  digest: Buffer | null;
  body: AsyncIterable<Uint8Array>;
}

export interface Acknowledged {
  pictureId: string;
  /** Whether the key was known: then nothing was stored again. */
  again: boolean;
}

async function contextOf({ authorization, key, offer }: Offered): Promise<ExposureContext> {
  const token = tokenOf(authorization);
  const [row] = token
    ? await beforeClinic<{ context: ExposureContext | null }>(
        'select exposure_context($1, $2, $3) as context',
        sha256(token),
        key,
        offer.armingId
      )
    : [];
  if (!row?.context) throw unknownDevice();
  return row.context;
}

/**
 * Takes an exposure in. While its bytes go to the disk, and a thread works out their digest, the records are written in
 * one question: picture, take, arming and job. They are committed once the bytes are safe, and only then is the device
 * told; a device that hears nothing offers again, and the same key twice is one picture.
 */
export async function takeExposure(offered: Offered): Promise<Acknowledged> {
  const context = await contextOf(offered);
  if (context.known) return { pictureId: context.known, again: true };
  if (!context.armed) throw neverArmed();
  const { offer, body } = offered;
  const expected = bytesAnnounced(offer);
  const landing = await Landing.open(context.clinicId);
  const writing = new ExposureWriting(context, offered);
  const digest = quietly(
    digestInThread({
      file: landing.part,
      progress: landing.progress,
      samples: { count: offer.width * offer.height, bitsStored: offer.bitsStored }
    })
  );
  const own = quietly(digest.then((found) => Buffer.from(found.sha256, 'hex')));
  // Where the device has said what the digest will be, the records need not wait for it.
  const early = offered.digest ? quietly(writing.begin(offered.digest)) : null;
  try {
    await landing.receive(body, expected + 1);
    if (landing.size !== expected)
      throw rubbish(`The exposure holds ${landing.size} bytes where ${expected} were announced.`);
    const lands = landingFolder() !== null;
    const safe = lands ? quietly(landing.settle(own, context.clinicId)) : null;
    const sha = await own;
    if (offered.digest && !offered.digest.equals(sha))
      throw rubbish('The exposure was changed on its way: its digest differs.');
    const known = await (early ?? writing.begin(sha));
    if (!lands && !known) await writing.keep(sha, landing.part);
    await safe;
    if (known) {
      await writing.leave();
      await landing.discard();
      return { pictureId: known, again: true };
    }
    await writing.finish((await digest).firstLook!);
    const file = lands ? landedFile(context.clinicId, sha)! : landing.part;
    showSoon(writing.pictureId, offer, file, lands ? null : landing);
    return { pictureId: writing.pictureId, again: false };
  } catch (error) {
    await early?.catch(() => {});
    await writing.leave();
    await landing.discard();
    throw meantInWords(error);
  }
}

/** Makes the sizes that the page which waits will ask for, while the acknowledgement goes out. */
function showSoon(pictureId: string, offer: ExposureOffer, file: string, temporary: Landing | null): void {
  const { width, height, bitsStored } = offer;
  const making = coarseInThread({ file, width, height, bitsStored });
  rememberLevels(pictureId, making);
  if (temporary) void making.catch(() => {}).then(() => temporary.discard());
}

/** Its failure is heard by whoever waits for it later; until then nobody has to. */
function quietly<T>(promise: Promise<T>): Promise<T> {
  promise.catch(() => {});
  return promise;
}

/** How many originals still lie in files of the landing, over all clinics. */
export async function stillLanded(): Promise<number> {
  const [row] = await beforeClinic<{ count: string }>('select landed_count() as count');
  return Number(row.count);
}
