import fs from 'node:fs';
import path from 'node:path';
import { Tinypool } from 'tinypool';
import { Problem } from '../problem';
import type { LevelBytes } from '../pictures/levelBytes';
import type { PreviewWish } from '../pictures/previewWish';
import type { OpenedFile } from '../pictures/decode/opened';
import type { FileAnswer } from './fileAnswer';

/** Limits for one file from outside. A process that oversteps one is ended and the file refused in words. */
const mostResidentBytes = 1_000_000_000;
const watchEveryMs = 50;
const leastMs = 5_000;
/** Large files may take longer, by their size on disk. */
const msPerMegabyte = 120;

/** Two of each, so that nobody waits behind one file that takes long. */
const processes = 2;

/** The pool gives its processes nothing but what it is told to. */
const inherited = () =>
  Object.fromEntries(
    Object.entries(process.env).filter((each): each is [string, string] => each[1] !== undefined)
  );

const newPool = (): Tinypool =>
  new Tinypool({
    filename: path.resolve('src/lib/server/work/process.mjs'),
    runtime: 'child_process',
    serialization: 'advanced',
    env: inherited(),
    execArgv: ['--max-old-space-size=700'],
    minThreads: 1,
    maxThreads: processes,
    idleTimeout: 60_000
  });

let files: Tinypool | null = null;
let pictures: Tinypool | null = null;

/** Starts the processes ahead of time, so that the first file does not wait for one. */
export function startProcesses(): void {
  files ??= newPool();
  pictures ??= newPool();
}

export async function stopProcesses(): Promise<void> {
  const stopping = [files, pictures];
  files = pictures = null;
  await Promise.all(stopping.map((pool) => pool?.destroy().catch(() => {})));
}

function residentBytes(pid: number): number {
  try {
    return Number(fs.readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
}

const tooLong = () =>
  new Problem(
    'too-hard',
    'This file took longer to open than any sound one does, so it was put aside.',
    'Export it again from where it came.',
    422
  );
const tooBig = () =>
  new Problem(
    'too-large',
    'This file needs more memory to open than any sound one does, so it was put aside.',
    'Export it again, smaller.',
    422
  );
const broke = () =>
  new Problem(
    'not-opened',
    'This file could not be opened: what opens files broke off over it.',
    'Try it once more. If it stays so, ask the sender for it again.',
    422
  );

/** Runs one task on a file from outside, inside the limits. */
async function guarded<T>(name: string, wish: { file: string }): Promise<T> {
  files ??= newPool();
  const limit = new AbortController();
  let over: Problem | null = null;
  const end = (problem: Problem) => {
    over ??= problem;
    limit.abort();
  };
  let pid = 0;
  let clock: NodeJS.Timeout | undefined;
  const { size } = await fs.promises.stat(wish.file);
  // The clock runs from when a process has taken the file, not while it waits for one.
  const started = (message: unknown) => {
    pid = (message as { pid?: number }).pid ?? 0;
    clock = setTimeout(() => end(tooLong()), leastMs + (size / 1e6) * msPerMegabyte);
  };
  const watch = setInterval(() => {
    if (pid > 0 && residentBytes(pid) > mostResidentBytes) end(tooBig());
  }, watchEveryMs);
  try {
    const answer = (await files.run(wish, {
      name,
      signal: limit.signal,
      channel: { onMessage: () => {}, postMessage: started, onClose: () => {} }
    })) as FileAnswer<T>;
    if ('done' in answer) return answer.done;
    const { code, sentence, next } = answer.refused;
    throw new Problem(code, sentence, next, 422);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw over ?? broke();
  } finally {
    clearTimeout(clock);
    clearInterval(watch);
  }
}

/** A file from outside: what it is, its first frame at every size, and a small picture. */
export const openOutsideFile = (
  file: string
): Promise<{ opened: OpenedFile; levels: LevelBytes[]; small: Uint8Array }> => guarded('openFile', { file });

export const openOutsideFrame = (file: string, frame: number): Promise<LevelBytes[]> =>
  guarded<LevelBytes[]>('openFrame', { file, frame } as { file: string });

/** A small picture, made and kept where nobody at a chair has to wait for it. */
export function previewOutside(wish: PreviewWish): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'preview' });
}
