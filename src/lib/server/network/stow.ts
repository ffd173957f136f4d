import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { randomUUID } from 'node:crypto';
import { Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Dicer } from '@fastify/busboy';
import { NotReadable, readDicom } from '../../core/dicom/read';
import { code } from '../../core/dicom/readValues';
import { finishIntake } from '../arrivals/intakeEnd';
import { takeIn } from '../arrivals/takeIn';
import { bytesOfFile } from '../pictures/receiving';
import { Problem } from '../problem';
import { callerByToken, openNetworkIntake } from './systems';

const mostParts = 5_000;

/** One instance's outcome, as DICOM JSON (PS3.18 10.5.3, PS3.3 C.12.1.1 and CC). */
interface Stored {
  classUid: string;
  instanceUid: string;
  /** Why it failed (PS3.18 I.2.2); 0 where it is here. */
  reason: number;
  words: string;
}

const cannotUnderstand = 0xc000;

/** Takes in what another system stores by DICOMweb: each instance is an arrival before it is told so. */
export async function stored(
  authorization: string | null,
  contentType: string,
  body: AsyncIterable<Uint8Array>
): Promise<{ status: number; answer: object }> {
  const from = await callerByToken(authorization);
  const boundary = /^multipart\/related\b.*boundary="?([^";]+)"?/i.exec(contentType)?.[1];
  if (!boundary)
    throw new Problem(
      'not-multipart',
      'This is not sent as multipart/related.',
      'Send application/dicom instances as PS3.18 has it.',
      415
    );
  const folder = await fs.promises.mkdtemp(path.join(os.tmpdir(), 'yonder-stow-'));
  try {
    const files = await parts(boundary, body, folder);
    const intakeId = await openNetworkIntake(from);
    const all: Stored[] = [];
    for (const [i, file] of files.entries()) {
      const uids = await uidsOf(file);
      const taken = await takeIn(from, intakeId, {
        path: `${i + 1}/${uids.instanceUid || 'instance'}.dcm`,
        body: bytesOfFile(file)
      });
      const here = taken.outcome === 'kept' || taken.outcome === 'known';
      all.push({ ...uids, reason: here ? 0 : cannotUnderstand, words: taken.sentence ?? '' });
    }
    await finishIntake(from, intakeId, false);
    const failed = all.filter(({ reason }) => reason !== 0);
    return {
      status: failed.length === 0 ? 200 : failed.length === all.length ? 409 : 202,
      answer: answerOf(all)
    };
  } finally {
    await fs.promises.rm(folder, { recursive: true, force: true });
  }
}

async function parts(boundary: string, body: AsyncIterable<Uint8Array>, folder: string): Promise<string[]> {
  const files: string[] = [];
  const writing: Promise<void>[] = [];
  const dicer = new Dicer({ boundary });
  dicer.on('part', (part) => {
    const file = path.join(folder, `${randomUUID()}.part`);
    if (files.length >= mostParts) {
      part.resume();
      return;
    }
    files.push(file);
    const done = pipeline(part as unknown as Readable, fs.createWriteStream(file));
    done.catch(() => {});
    writing.push(done);
  });
  try {
    await pipeline(Readable.from(body), dicer as unknown as Writable);
    await Promise.all(writing);
  } catch {
    throw new Problem(
      'cut-off',
      'The message ends before its last boundary.',
      'Send it again; nothing of it was kept.',
      400
    );
  }
  return files;
}

async function uidsOf(file: string): Promise<{ classUid: string; instanceUid: string }> {
  try {
    const set = readDicom(await fs.promises.readFile(file), () => new Uint8Array());
    return { classUid: code(set, '00080016') ?? '', instanceUid: (code(set, '00080018') ?? '').slice(0, 64) };
  } catch (error) {
    if (!(error instanceof NotReadable)) throw error;
    return { classUid: '', instanceUid: '' };
  }
}

function answerOf(all: readonly Stored[]): object {
  const item = ({ classUid, instanceUid, reason, words }: Stored) => ({
    '00081150': { vr: 'UI', Value: [classUid] },
    '00081155': { vr: 'UI', Value: [instanceUid] },
    ...(reason === 0
      ? {}
      : { '00081197': { vr: 'US', Value: [reason] }, '00000902': { vr: 'LO', Value: [words.slice(0, 64)] } })
  });
  const here = all.filter(({ reason }) => reason === 0).map(item);
  const failed = all.filter(({ reason }) => reason !== 0).map(item);
  return {
    ...(here.length > 0 ? { '00081199': { vr: 'SQ', Value: here } } : {}),
    ...(failed.length > 0 ? { '00081198': { vr: 'SQ', Value: failed } } : {})
  };
}
