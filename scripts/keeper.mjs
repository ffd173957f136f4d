// Keeps processes running: what dies is started again, with growing pauses, and said in words. Their words go to logs.
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { createStream } from 'rotating-file-stream';

const firstPauseMs = 500;
const longestPauseMs = 30_000;
/** Whatever ran for so long is well: the next pause is the first again. */
const wellAfterMs = 60_000;
const logSize = '4M';
const oldLogs = 2;

/**
 * A log that nobody else may read and that never grows past a few megabytes: the oldest part goes.
 * @param {string} folder @param {string} name
 */
export function openLog(folder, name) {
  const file = path.join(folder, `${name}.log`);
  // One that an earlier version left open to all is closed to them.
  for (const each of fs.readdirSync(folder).filter((other) => other.startsWith(`${name}.log`)))
    fs.chmodSync(path.join(folder, each), 0o600);
  const stream = createStream((time, index) => (time ? `${name}.log.${index ?? 1}` : `${name}.log`), {
    path: folder,
    size: logSize,
    maxFiles: oldLogs,
    mode: 0o600,
    history: `.${name}.log.history`
  });
  stream.on('error', () => {
    // A full disk: what is said meanwhile is lost, and nothing else.
  });
  if (!fs.existsSync(file)) fs.closeSync(fs.openSync(file, 'a', 0o600));
  return stream;
}

/**
 * @typedef {{ exited: Promise<unknown>, stop: () => Promise<void> }} Running
 * @typedef {{ stop: () => Promise<void>, present: () => Running | null }} Kept
 */

/**
 * Starts something and keeps it running.
 * @param {string} name
 * @param {() => Running | Promise<Running>} start
 * @param {(words: string) => void} say
 * @param {{ firstPauseMs?: number }} [options]
 * @returns {Promise<Kept>} once it was started; rejects when the first start fails
 */
export async function keepRunning(name, start, say, options = {}) {
  const shortest = options.firstPauseMs ?? firstPauseMs;
  let stopping = false;
  let wake = () => {};
  /** @type {Running | null} */
  let running = await start();

  const keep = async () => {
    let pause = shortest;
    while (!stopping) {
      const since = Date.now();
      await running?.exited;
      running = null;
      if (stopping) return;
      if (Date.now() - since > wellAfterMs) pause = shortest;
      say(
        `${name} stopped by itself. It is started again${pause < 1000 ? '' : ` in ${Math.round(pause / 1000)} s`}.`
      );
      await new Promise((resolve) => {
        wake = () => resolve(undefined);
        setTimeout(resolve, pause);
      });
      pause = Math.min(longestPauseMs, pause * 2);
      if (stopping) return;
      try {
        running = await start();
      } catch (error) {
        say(`${name} could not be started: ${error instanceof Error ? error.message : error}`);
        running = null;
      }
    }
  };
  const over = keep();
  return {
    present: () => running,
    stop: async () => {
      stopping = true;
      wake();
      await running?.stop();
      await over;
    }
  };
}

/**
 * A Node process of ours, its words in its log; it dies with whoever started it, whatever happens to that.
 * @param {string} cwd @param {string[]} args @param {NodeJS.ProcessEnv} env @param {NodeJS.WritableStream} log
 * @returns {Running & { pid: number }}
 */
export function runNode(cwd, args, env, log) {
  const child = spawn('setpriv', ['--pdeathsig', 'TERM', process.execPath, ...args], {
    cwd,
    env: { ...process.env, ...env },
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe']
  });
  child.stdout.pipe(log, { end: false });
  child.stderr.pipe(log, { end: false });
  let over = false;
  const exited = new Promise((resolve) => {
    const end = () => {
      over = true;
      resolve(undefined);
    };
    child.once('exit', end);
    child.once('error', end);
  });
  return {
    pid: /** @type {number} */ (child.pid),
    exited,
    stop: async () => {
      if (!over) child.kill('SIGTERM');
      const late = setTimeout(() => child.kill('SIGKILL'), 8000);
      await exited;
      clearTimeout(late);
    }
  };
}
