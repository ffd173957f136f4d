import { type ChildProcess, fork } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { Problem } from '../../problem';
import type { Decoded } from './decoded';

/** Limits for one file. A child that oversteps one is ended and the file refused in words. */
const mostMs = 5_000;
const mostResidentBytes = 1_000_000_000;
const watchEveryMs = 50;

interface Answer {
  id?: number;
  ready?: true;
  decoded?: Decoded;
  refused?: { code: string; sentence: string; next: string } | null;
  fault?: string | null;
}

let child: ChildProcess | null = null;
let ready: Promise<void> = Promise.resolve();
let waiting: Promise<unknown> = Promise.resolve();
let counter = 0;

function childFile(): string {
  return path.resolve('src/lib/server/pictures/decode/child.ts');
}

function startChild(): ChildProcess {
  const started = fork(childFile(), [], {
    execArgv: ['--import', 'tsx', '--max-old-space-size=700'],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc']
  });
  started.unref();
  started.channel?.unref();
  ready = new Promise((resolve) => {
    started.once('message', () => resolve());
    started.once('exit', () => resolve());
  });
  started.once('exit', () => {
    if (child === started) child = null;
  });
  return started;
}

/** Starts the child ahead of time, so that the first file does not wait for it. */
export function warmUp(): void {
  child ??= startChild();
}

export function stopDecoding(): void {
  child?.kill('SIGKILL');
  child = null;
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
    'damaged',
    'This file is damaged in a way that stops it from being opened.',
    'Copy it again from where it came, or ask the sender for it once more.',
    422
  );

/** Opens a file from outside, in the child, one after the other, inside the limits. */
export function decodeFile(bytes: Uint8Array): Promise<Decoded> {
  const result = waiting.then(() => decodeNow(bytes));
  waiting = result.catch(() => {});
  return result;
}

async function decodeNow(bytes: Uint8Array): Promise<Decoded> {
  child ??= startChild();
  const worker = child;
  await ready;
  const id = ++counter;
  return new Promise<Decoded>((resolve, reject) => {
    const end = (problem: Problem) => {
      finish();
      worker.kill('SIGKILL');
      if (child === worker) child = null;
      reject(problem);
    };
    const onMessage = (answer: Answer) => {
      if (answer.id !== id) return;
      finish();
      if (answer.decoded) resolve(answer.decoded);
      else if (answer.refused)
        reject(new Problem(answer.refused.code, answer.refused.sentence, answer.refused.next, 422));
      else reject(broke());
    };
    const onExit = () => end(broke());
    const clock = setTimeout(() => end(tooLong()), mostMs);
    const watch = setInterval(() => {
      if (residentBytes(worker.pid!) > mostResidentBytes) end(tooBig());
    }, watchEveryMs);
    const finish = () => {
      clearTimeout(clock);
      clearInterval(watch);
      worker.off('message', onMessage);
      worker.off('exit', onExit);
    };
    worker.on('message', onMessage);
    worker.once('exit', onExit);
    worker.send({ id, bytes });
  });
}
