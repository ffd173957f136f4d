import { Landing } from '../blobs/landing';
import { landingFolder } from '../config';
import { beforeClinic, errorInWords } from '../database/connection';
import { sha256 } from '../ids';
import { Problem } from '../problem';
import { rememberLevels } from '../pictures/fresh';
import type { LevelBytes } from '../pictures/levelBytes';
import { coarseInThread, digestInThread } from '../work/threads';
import { goesAlone, goingFirst } from '../work/turns';
import { tokenOf, unknownDevice } from './devices';
import { type ExposureOffer, bytesAnnounced, rubbish } from './exposureOffer';
import type { ExposureContext } from './exposurePlan';
import { ExposureWriting } from './exposureWriting';
import type { Acknowledged, Coming, Offered } from './offered';
import { keepUnasked } from './unasked';

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

async function startReceiving({ offer, body }: Offered): Promise<Coming> {
  const landing = await Landing.open();
  const digest = digestInThread({
    file: landing.part,
    progress: landing.progress,
    samples: { count: offer.width * offer.height, bitsStored: offer.bitsStored }
  });
  return {
    landing,
    received: quietly(landing.receive(body, bytesAnnounced(offer) + 1)),
    digest: quietly(digest)
  };
}

/** Tokens that were shown here before: their devices' bytes are let in while the records are still asked. */
const recognised = new Set<string>();

/**
 * Takes an exposure in. While its bytes go to the disk, and a thread works out their digest, the records are written in
 * one question: picture, take, arming and job. They are committed once the bytes are safe, and only then is the device
 * told; a device that hears nothing offers again, and the same key twice is one picture.
 */
export const takeExposure = (offered: Offered): Promise<Acknowledged> => goingFirst(() => taken(offered));

async function taken(offered: Offered): Promise<Acknowledged> {
  const token = offered.authorization ?? '';
  let coming = recognised.has(token) ? quietly(startReceiving(offered)) : null;
  let writing: ExposureWriting | null = null;
  try {
    const context = await contextOf(offered);
    recognised.add(token);
    if (context.known) return { pictureId: context.known, again: true };
    if (!context.armed) {
      coming ??= quietly(startReceiving(offered));
      return await keepUnasked(context, offered, await coming);
    }
    writing = new ExposureWriting(context, offered);
    coming ??= quietly(startReceiving(offered));
    return await written(offered, context.clinicId, writing, await coming);
  } catch (error) {
    if (error instanceof Problem && error.status === 401) recognised.delete(token);
    throw errorInWords(error);
  } finally {
    await writing?.leave();
    await leftOver(await coming?.catch(() => null));
  }
}

/** What came and was not settled is removed, once nobody writes to it any more. */
async function leftOver(coming: Coming | null | undefined): Promise<void> {
  await coming?.received.catch(() => {});
  await coming?.landing.discard();
}

async function written(
  offered: Offered,
  clinicId: string,
  writing: ExposureWriting,
  { landing, received, digest }: Coming
): Promise<Acknowledged> {
  const { offer } = offered;
  const expected = bytesAnnounced(offer);
  const lands = landingFolder() !== null;
  const computed = quietly(digest.then((found) => Buffer.from(found.sha256, 'hex')));
  let begun: Promise<string | null> | null = null;
  let safe: Promise<void> | null = null;
  let answered = (): void => {};
  const over = new Promise<void>((done) => (answered = done));
  try {
    await received;
    if (landing.size !== expected)
      throw rubbish(`The exposure holds ${landing.size} bytes where ${expected} were announced.`);
    // Where the device has said what the digest will be, the records need not wait for it; nor must bytes wait for them.
    begun = offered.digest ? quietly(writing.begin(offered.digest)) : null;
    const levels = quietly(coarseOf(landing, offer, computed, over));
    if (lands) safe = quietly(landing.settle(computed, clinicId));
    const sha = await computed;
    if (offered.digest && !offered.digest.equals(sha))
      throw rubbish('The exposure was changed on its way: its digest differs.');
    const known = await (begun ?? writing.begin(sha));
    if (known) return { pictureId: known, again: true };
    if (!lands) await writing.keep(sha, landing.part);
    await safe;
    rememberLevels(writing.pictureId, levels);
    await writing.finish(await digest);
    return { pictureId: writing.pictureId, again: false };
  } finally {
    answered();
    await begun?.catch(() => {});
    await safe?.catch(() => {});
  }
}

/**
 * Makes the sizes that the page which waits will ask for: once nothing more is worked out for the device, which then
 * waits for the disk; where others wait too, once it has its answer.
 */
async function coarseOf(
  landing: Landing,
  { width, height, bitsStored }: ExposureOffer,
  computed: Promise<Buffer>,
  over: Promise<void>
): Promise<LevelBytes[]> {
  const file = await landing.reading();
  try {
    await computed;
    if (!goesAlone()) await over;
    return await coarseInThread({ descriptor: file.fd, width, height, bitsStored });
  } finally {
    await file.close();
  }
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
