import fs from 'node:fs';
import { type Tx, inClinic } from '../database/connection';
import { sha256 } from '../ids';
import { landedFile } from './landing';
import { blobRow, holdLanded, insertBlob, insertPart, landedFor, markKept, partOf } from './queries';

/** Originals are kept in parts of this size, so that nothing ever has a large one whole in memory. */
export const partBytes = 1024 * 1024;

/** Puts a file's bytes into the records, part by part, in a transaction of whoever asks. */
export async function keepFile(tx: Tx, digest: Buffer, file: string): Promise<void> {
  const handle = await fs.promises.open(file, 'r');
  try {
    const buffer = Buffer.allocUnsafe(partBytes);
    for (let part = 0; ; part++) {
      const { bytesRead } = await handle.read(buffer, 0, partBytes, part * partBytes);
      if (bytesRead === 0) break;
      await insertPart(tx, digest, part, buffer.subarray(0, bytesRead));
      if (bytesRead < partBytes) break;
    }
  } finally {
    await handle.close();
  }
}

/** A new original straight into the records, where nothing lands. One that is known already stays as it is. */
export async function keepAtOnce(tx: Tx, digest: Buffer, size: number, file: string): Promise<void> {
  if (await insertBlob(tx, digest, size, 'kept')) await keepFile(tx, digest, file);
}

/** The same for bytes that were made here and not sent by anybody. @returns their digest */
export async function keepBytes(tx: Tx, bytes: Uint8Array): Promise<Buffer> {
  const digest = sha256(bytes);
  if (await insertBlob(tx, digest, bytes.length, 'kept')) {
    for (let at = 0, part = 0; at < bytes.length; at += partBytes, part++)
      await insertPart(tx, digest, part, Buffer.from(bytes.subarray(at, at + partBytes)));
  }
  return digest;
}

/**
 * Moves a landed original into the records and removes its file. Killed at any instant nothing is lost: the file goes
 * only once the records have it, and a file whose original is kept is swept.
 */
export async function moveIn(clinicId: string, digest: Buffer): Promise<boolean> {
  const file = landedFile(clinicId, digest);
  if (!file) return false;
  const moved = await inClinic(clinicId, async (tx) => {
    if (!(await holdLanded(tx, digest))) return false;
    await keepFile(tx, digest, file);
    await markKept(tx, digest);
    return true;
  });
  if (moved) await fs.promises.rm(file, { force: true });
  return moved;
}

/** Moves in what has lain in the landing for longer than its job would take. */
export async function moveStragglers(clinicId: string, seconds: number): Promise<number> {
  const rows = await inClinic(clinicId, (tx) => landedFor(tx, seconds));
  for (const row of rows) await moveIn(clinicId, row.sha256);
  return rows.length;
}

/** A stretch of an original's bytes, `to` not included. */
export interface Stretch {
  from: number;
  to: number;
}

/**
 * Part by part, from the landing or from the records, also while it is moved from one to the other; all of it, or only a
 * stretch.
 */
export async function* blobParts(
  clinicId: string,
  digest: Buffer,
  stretch?: Stretch
): AsyncGenerator<Buffer> {
  const row = await inClinic(clinicId, (tx) => blobRow(tx, digest));
  if (!row) throw new Error(`the original ${digest.toString('hex')} is missing`);
  const { from, to } = stretch ?? { from: 0, to: row.size };
  const handle = row.place === 'landed' ? await opened(clinicId, digest) : null;
  if (handle) yield* landedParts(handle, digest, { from, to });
  else yield* keptParts(clinicId, digest, { from, to });
}

async function* landedParts(
  handle: fs.promises.FileHandle,
  digest: Buffer,
  { from, to }: Stretch
): AsyncGenerator<Buffer> {
  try {
    for (let at = from; at < to;) {
      const buffer = Buffer.allocUnsafe(Math.min(partBytes, to - at));
      const { bytesRead } = await handle.read(buffer, 0, buffer.length, at);
      if (bytesRead === 0) throw new Error(`the landed original ${digest.toString('hex')} is cut off`);
      at += bytesRead;
      yield buffer.subarray(0, bytesRead);
    }
  } finally {
    await handle.close();
  }
}

async function* keptParts(clinicId: string, digest: Buffer, { from, to }: Stretch): AsyncGenerator<Buffer> {
  for (let part = Math.floor(from / partBytes); part * partBytes < to; part++) {
    const found = await inClinic(clinicId, (tx) => partOf(tx, digest, part));
    if (!found) throw new Error(`part ${part} of the original ${digest.toString('hex')} is missing`);
    const begin = part * partBytes;
    yield found.bytes.subarray(Math.max(0, from - begin), Math.min(found.bytes.length, to - begin));
  }
}

async function opened(clinicId: string, digest: Buffer): Promise<fs.promises.FileHandle | null> {
  const file = landedFile(clinicId, digest);
  try {
    return file ? await fs.promises.open(file, 'r') : null;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}

/** An original whole, or a stretch of it, for those who need it at once: what is decoded or written as an object. */
export async function wholeBlob(clinicId: string, digest: Buffer, stretch?: Stretch): Promise<Buffer> {
  const parts = [];
  for await (const part of blobParts(clinicId, digest, stretch)) parts.push(part);
  return Buffer.concat(parts);
}

/** An original as a stream of the web, for an answer. */
export function blobStream(clinicId: string, digest: Buffer, stretch?: Stretch): ReadableStream<Uint8Array> {
  const parts = blobParts(clinicId, digest, stretch);
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await parts.next();
      if (next.done) controller.close();
      else controller.enqueue(new Uint8Array(next.value));
    },
    async cancel() {
      await parts.return(undefined);
    }
  });
}
