import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { landingFolder } from '../config';
import { Problem } from '../problem';
import { newProgress, progressAt, tell } from './progress';

/** Bytes on their way in: being written to a file, while others may follow how far it is. */
export class Landing {
  /** How far the file is, for whoever reads it while it grows, in any thread. */
  readonly progress = newProgress();
  size = 0;
  private ended: Promise<void> | null = null;

  private constructor(
    readonly part: string,
    private readonly handle: fs.promises.FileHandle
  ) {}

  /** A new file beside the landed ones; among temporary ones where nothing lands. */
  static async open(clinicId: string): Promise<Landing> {
    const folder = clinicFolder(clinicId) ?? os.tmpdir();
    const part = path.join(folder, `${randomUUID()}.part`);
    try {
      return new Landing(part, await fs.promises.open(part, 'wx+', 0o600));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw inWords(error);
      await fs.promises.mkdir(folder, { recursive: true, mode: 0o700 });
      return new Landing(part, await fs.promises.open(part, 'wx+', 0o600));
    }
  }

  /**
   * Takes in everything that comes. What comes while some is being written is written together afterwards, so the file
   * grows in a few large steps.
   * @param most more than this many bytes are refused
   */
  async receive(body: AsyncIterable<Uint8Array>, most: number): Promise<void> {
    let waiting: Uint8Array[] = [];
    let writing: Promise<void> | null = null;
    const write = (): Promise<void> => {
      const now = waiting;
      waiting = [];
      return this.append(now);
    };
    for await (const chunk of body) {
      this.size += chunk.length;
      if (this.size > most) throw tooLarge(most);
      waiting.push(chunk);
      if (writing === null) {
        writing = write().finally(() => (writing = null));
        writing.catch(() => {});
      } else if (waiting.length > mostWaiting) await writing;
    }
    if (writing) await writing;
    while (waiting.length > 0) await write();
    this.end();
  }

  private async append(chunks: Uint8Array[]): Promise<void> {
    try {
      const { bytesWritten } = await this.handle.writev(chunks);
      const wanted = chunks.reduce((sum, chunk) => sum + chunk.length, 0);
      if (bytesWritten !== wanted) throw new Error('not all of it could be written');
      Atomics.add(this.progress, progressAt.bytes, bytesWritten);
      tell(this.progress);
    } catch (error) {
      throw inWords(error);
    }
  }

  /** Whoever follows the file is told that nothing more will come, whatever happened. */
  private end(): void {
    Atomics.store(this.progress, progressAt.ended, 1);
    tell(this.progress);
  }

  /**
   * The bytes are safe when this is done: written through to the disk, under their own name, and the name too. Only
   * where a landing is; elsewhere the records themselves keep them.
   */
  async settle(digest: Promise<Buffer>, clinicId: string): Promise<void> {
    try {
      await this.handle.datasync();
      const target = landedFile(clinicId, await digest)!;
      await this.close();
      await fs.promises.rename(this.part, target);
      await syncFolder(path.dirname(target));
    } catch (error) {
      throw inWords(error);
    }
  }

  private close(): Promise<void> {
    this.ended ??= this.handle.close();
    return this.ended;
  }

  /** Removes what was not settled. Safe at any time. */
  async discard(): Promise<void> {
    this.end();
    await this.close().catch(() => {});
    await fs.promises.rm(this.part, { force: true });
  }
}

/** So many pieces wait to be written before the sender is made to wait. */
const mostWaiting = 64;

const tooLarge = (most: number) =>
  new Problem(
    'too-large',
    `This is larger than ${Math.round(most / 1024 / 1024)} MB.`,
    'Export it again, smaller.',
    413
  );

/** A disk that is full or broken is something a person can act on; whoever sent the bytes keeps them. */
function inWords(error: unknown): unknown {
  const { code } = error as NodeJS.ErrnoException;
  if (code !== 'ENOSPC' && code !== 'EDQUOT' && code !== 'EROFS' && code !== 'EIO') return error;
  return new Problem(
    'disk-full',
    'The disk of the clinic’s server takes nothing more in.',
    'Nothing is lost: the device keeps it and offers it again. Make room on the server’s disk.',
    503
  );
}

export function clinicFolder(clinicId: string): string | null {
  const folder = landingFolder();
  return folder && path.join(folder, clinicId);
}

/** Where an original lies while it is landed. */
export function landedFile(clinicId: string, digest: Buffer): string | null {
  const folder = clinicFolder(clinicId);
  return folder && path.join(folder, digest.toString('hex'));
}

/** A file's new name is on the disk only once its folder is. */
async function syncFolder(folder: string): Promise<void> {
  const handle = await fs.promises.open(folder, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}
