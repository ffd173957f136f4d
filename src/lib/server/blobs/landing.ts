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
  private settled = false;

  private constructor(
    readonly part: string,
    private readonly handle: fs.promises.FileHandle
  ) {}

  /** A new file on the disk of the landed ones; among temporary ones where nothing lands. Nobody's yet. */
  static async open(): Promise<Landing> {
    const folder = comingFolder() ?? os.tmpdir();
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
   * Takes in everything that comes, and writes it in pieces: one while the next gathers, a small one first, so that
   * whoever follows the file begins at once.
   * @param most more than this many bytes are refused
   */
  async receive(body: AsyncIterable<Uint8Array>, most: number): Promise<void> {
    let gathered: Uint8Array[] = [];
    let bytes = 0;
    let piece = firstPieceBytes;
    let writing: Promise<void> = Promise.resolve();
    const write = async (): Promise<void> => {
      await writing;
      writing = this.append(gathered);
      writing.catch(() => {});
      gathered = [];
      bytes = 0;
      piece = Math.min(2 * piece, mostPieceBytes);
    };
    for await (const chunk of body) {
      this.size += chunk.length;
      if (this.size > most) throw tooLarge(most);
      gathered.push(chunk);
      bytes += chunk.length;
      if (bytes >= piece) await write();
    }
    if (bytes > 0) await write();
    await writing;
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
      await renamed(this.part, target);
      await syncFolder(path.dirname(target));
      this.settled = true;
    } catch (error) {
      throw inWords(error);
    }
  }

  /** Its bytes so far, for somebody who reads them while it is settled and closes this afterwards. */
  reading(): Promise<fs.promises.FileHandle> {
    return fs.promises.open(this.part, 'r');
  }

  private close(): Promise<void> {
    this.ended ??= this.handle.close();
    return this.ended;
  }

  /** Removes what was not settled. Safe at any time. */
  async discard(): Promise<void> {
    if (this.settled) return;
    this.end();
    await this.close().catch(() => {});
    await fs.promises.rm(this.part, { force: true });
  }
}

/** Large enough that a file takes few writes, small enough that whoever follows it is never far behind. */
const mostPieceBytes = 512 * 1024;
const firstPieceBytes = 64 * 1024;

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

/** Where files lie while they come: no clinic's folder, so that they can come before it is known whose they are. */
export function comingFolder(): string | null {
  const folder = landingFolder();
  return folder && path.join(folder, 'coming');
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

async function renamed(from: string, to: string): Promise<void> {
  try {
    await fs.promises.rename(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    await fs.promises.mkdir(path.dirname(to), { recursive: true, mode: 0o700 });
    await syncFolder(path.dirname(path.dirname(to)));
    await fs.promises.rename(from, to);
  }
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
