import fs from 'node:fs';
import { keepAtOnce } from '../blobs/keep';
import { Landing, landedFile } from '../blobs/landing';
import { insertBlob } from '../blobs/queries';
import { landingFolder } from '../config';
import type { Tx } from '../database/connection';
import { openOutsideFile } from '../work/processes';
import { digestInThread } from '../work/threads';

/** A file from outside that is here whole and was opened. */
export interface Received<Found> {
  found: Found;
  digest: Buffer;
  size: number;
  /** Where its bytes are until the records have them; null where they are landed. */
  part: string | null;
  /** Where its bytes can be read while it is worked on. */
  file: string;
}

/** A picture that is here whole and was opened. */
export type ReceivedFile = Received<Awaited<ReturnType<typeof openOutsideFile>>>;

export const mostFileBytes = 256 * 1024 * 1024;

/** A file's bytes, opened when they are asked for: one that can't be read goes wrong for whoever reads it, and nowhere else. */
export async function* bytesOfFile(file: string): AsyncGenerator<Uint8Array> {
  yield* fs.createReadStream(file) as AsyncIterable<Uint8Array>;
}

/** Takes a picture in. */
export const withReceived = <T>(
  clinicId: string,
  body: AsyncIterable<Uint8Array>,
  work: (file: ReceivedFile) => Promise<T>
): Promise<T> => withOpened(clinicId, body, openOutsideFile, work);

/** Takes a file in: landed and opened inside limits. What is made of it is done before anything is tidied away. */
export async function withOpened<Found, T>(
  clinicId: string,
  body: AsyncIterable<Uint8Array>,
  open: (file: string) => Promise<Found>,
  work: (file: Received<Found>) => Promise<T>,
  /** Whether its bytes are to be kept: a package that is unpacked is not. */
  { settles = () => true, most = mostFileBytes }: { settles?: (found: Found) => boolean; most?: number } = {}
): Promise<T> {
  const landing = await Landing.open();
  const digest = digestInThread({ file: landing.part, progress: landing.progress, samples: null });
  digest.catch(() => {});
  try {
    await landing.receive(body, most);
    const found = await open(landing.part);
    const sha = Buffer.from((await digest).sha256, 'hex');
    const lands = landingFolder() !== null && settles(found);
    const { size, part } = landing;
    if (lands) await landing.settle(Promise.resolve(sha), clinicId);
    const file = lands ? landedFile(clinicId, sha)! : part;
    return await work({ found, digest: sha, size, part: lands ? null : part, file });
  } finally {
    await landing.discard();
  }
}

/** Its original among the others, in the transaction of whoever makes something of it. */
export async function keepReceived(tx: Tx, { digest, size, part }: Received<unknown>): Promise<void> {
  if (part) await keepAtOnce(tx, digest, size, part);
  else await insertBlob(tx, digest, size, 'landed');
}
