import { Readable } from 'node:stream';
import yazl from 'yazl';
import { log } from '../log';
import { Problem } from '../problem';
import type { ParcelFile } from './parcelFiles';

/** Pictures that are packed already get no smaller. */
const alreadySmall = /\.(jpg|png|tif|pdf)$/;

/** What whoever packs is told of how it ended. */
interface Ended {
  /** All of it was read by whoever fetches. */
  taken?: () => Promise<void>;
  /** Whoever fetches went away before. */
  left?: () => Promise<void>;
  /** One of them can't go, or can't be made. */
  stopped?: (problem: Problem) => Promise<void>;
}

/** Files as a ZIP, made while it is fetched. */
export function zipStream(files: AsyncIterable<ParcelFile>, ended: Ended = {}): ReadableStream<Uint8Array> {
  const zip = new yazl.ZipFile();
  const out = zip.outputStream as Readable;
  void filled(files, ended, zip, out);
  return Readable.toWeb(out) as ReadableStream<Uint8Array>;
}

/** A ZIP keeps the source of each file until its end: what was read is let go of here. */
function readOnce(bytes: Uint8Array): Readable {
  let held: Buffer | null = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return new Readable({
    read() {
      const all = held;
      held = null;
      this.push(all);
    }
  });
}

/** One file after the other, each only once whoever fetches has taken the one before: a slow line holds no memory. */
async function filled(
  files: AsyncIterable<ParcelFile>,
  { taken, left, stopped }: Ended,
  zip: yazl.ZipFile,
  out: Readable
): Promise<void> {
  try {
    for await (const { path, bytes } of files) {
      if (out.destroyed) break;
      const source = readOnce(bytes);
      const read = new Promise<void>((resolve, reject) => {
        source.once('close', resolve);
        source.once('error', reject);
        out.once('close', resolve);
      });
      zip.addReadStream(source, path, { compress: !alreadySmall.test(path) });
      await read;
    }
    zip.end();
    if (!out.closed) await new Promise<void>((resolve) => out.once('close', resolve));
    await (out.readableEnded ? taken : left)?.();
  } catch (error) {
    // The ZIP ends in its middle, so that nobody takes it for whole.
    out.destroy(error as Error);
    if (!(error instanceof Problem)) log.error({ err: error }, 'a parcel could not be packed');
    else if (error.status < 500)
      await stopped?.(error).catch((err: unknown) => log.error({ err }, 'a parcel could not be stopped'));
  }
}
