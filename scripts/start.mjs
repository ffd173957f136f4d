// Brings the whole clinic up, prints where it is, and takes it down again on Ctrl-C.
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import {
  PlainError,
  databaseUrls,
  ensureCluster,
  ensureDatabase,
  freePort,
  newPassword,
  portIsFree,
  startCluster
} from './cluster.mjs';
import { keepRunning, openLog, runNode } from './keeper.mjs';
import { webServer } from './webServer.mjs';

const root = path.resolve(import.meta.dirname, '..');
const dataFolder = path.join(root, '.data');
const stateFile = path.join(dataFolder, 'state.json');
const lockFile = path.join(dataFolder, 'running.pid');
const leastFreeBytes = 600 * 1024 * 1024;
const usualPort = 4780;

const say = (/** @type {string} */ words) => console.log(`  ${words}`);

/** @typedef {{ownerPassword: string, appPassword: string, enrolmentCode: string, databasePort?: number, archivePort?: number, claimsPort?: number, practicePort?: number, webPort?: number, mailPort?: number, dicomPort?: number, mailboxPort?: number, filmPort?: number}} State */

/** @returns {State} */
function readState() {
  if (fs.existsSync(stateFile)) {
    try {
      return JSON.parse(fs.readFileSync(stateFile, 'utf8'));
    } catch {
      throw new PlainError(
        `${stateFile} can't be read, and it holds the database's password. Put it back from a copy, or start over with ./yonder reset.`
      );
    }
  }
  return { ownerPassword: newPassword(), appPassword: newPassword(), enrolmentCode: newPassword() };
}

function writeState(/** @type {State} */ state) {
  const aside = `${stateFile}.new`;
  fs.writeFileSync(aside, JSON.stringify(state, null, 2), { mode: 0o600 });
  fs.renameSync(aside, stateFile);
}

function isLauncher(/** @type {number} */ pid) {
  try {
    return fs.readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs');
  } catch {
    return false;
  }
}

function takeLock() {
  if (fs.existsSync(lockFile)) {
    const pid = Number(fs.readFileSync(lockFile, 'utf8'));
    if (isLauncher(pid)) {
      throw new PlainError(
        `Yonder Tray is already running from this folder (process ${pid}). Use it, or stop it with Ctrl-C in its terminal.`
      );
    }
  }
  fs.writeFileSync(lockFile, String(process.pid));
}

function checkDisk() {
  const disk = fs.statfsSync(dataFolder);
  const free = disk.bavail * disk.bsize;
  if (free < leastFreeBytes) {
    throw new PlainError(
      `Only ${Math.round(free / 1e6)} MB are free on the disk that holds ${dataFolder}; starting needs ${Math.round(leastFreeBytes / 1e6)} MB. Make room and start again. Nothing was changed.`
    );
  }
}

/** A port that was ours before, else the wanted one, else the next that is free. */
async function webPort(/** @type {State} */ state) {
  const asked = process.env.YONDER_PORT ? Number(process.env.YONDER_PORT) : undefined;
  if (asked !== undefined) {
    if (!(await portIsFree(asked))) {
      throw new PlainError(
        `Port ${asked} (YONDER_PORT) is in use by another program. Choose another, or leave YONDER_PORT out.`
      );
    }
    return asked;
  }
  for (let port = state.webPort ?? usualPort; port < usualPort + 200; port++) {
    if (await portIsFree(port)) {
      if (state.webPort && port !== state.webPort) say(`Port ${state.webPort} is in use; taking ${port}.`);
      return port;
    }
  }
  return freePort();
}

async function keptPort(/** @type {number | undefined} */ former) {
  return former && (await portIsFree(former)) ? former : freePort();
}

/** Starts the database; on another port when somebody took this one in the same moment. */
async function openDatabase(/** @type {string} */ folder, /** @type {number} */ port) {
  try {
    return await startCluster(folder, port);
  } catch (error) {
    if (await portIsFree(port)) throw error;
    return startCluster(folder, await freePort());
  }
}

/** @type {import('./keeper.mjs').Kept[]} */
const running = [];
let stopping = false;

async function stopAll(/** @type {number} */ code) {
  if (stopping) return;
  stopping = true;
  for (const each of running.reverse()) await each.stop();
  fs.rmSync(lockFile, { force: true });
  process.exit(code);
}

const complain = (/** @type {string} */ words) => console.error(`  ${words}`);

/** A process of ours, kept running; its words go to a log of its own. */
async function startProcess(
  /** @type {string} */ name,
  /** @type {string[]} */ args,
  /** @type {NodeJS.ProcessEnv} */ env
) {
  const log = openLog(dataFolder, name);
  const start = () => runNode(root, args, env, log);
  running.push(await keepRunning(`The ${name}`, start, complain));
}

async function untilAnswers(/** @type {string} */ url, /** @type {string} */ name) {
  for (let tries = 0; tries < 300 && !stopping; tries++) {
    try {
      const answer = await fetch(url);
      if (answer.status < 500) return;
    } catch {
      // not listening yet
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  if (stopping) return new Promise(() => {});
  throw new PlainError(`${name} does not answer. Its last words are in .data/${name}.log.`);
}

async function main() {
  const started = Date.now();
  fs.mkdirSync(dataFolder, { recursive: true });
  takeLock();
  process.on('SIGINT', () => {
    console.log('\nStopping.');
    void stopAll(0);
  });
  process.on('SIGTERM', () => void stopAll(0));
  checkDisk();
  process.env.YONDER_BUILT = '1';
  const state = readState();
  writeState(state);

  say('Starting the database.');
  const databaseFolder = path.join(dataFolder, 'database');
  fs.mkdirSync(databaseFolder, { recursive: true });
  ensureCluster(databaseFolder, state.ownerPassword, say);
  const cluster = await openDatabase(databaseFolder, await keptPort(state.databasePort));
  state.databasePort = cluster.port;
  const { port } = cluster;
  /** @type {typeof cluster | null} */
  let first = cluster;
  const startDatabase = async () => {
    const started = first ?? (await startCluster(databaseFolder, port));
    first = null;
    return started;
  };
  running.push(await keepRunning('The database', startDatabase, complain));
  const database = { ...state, port: state.databasePort, database: 'yonder' };
  await ensureDatabase(database);
  const urls = databaseUrls(database);

  state.webPort = await webPort(state);
  state.archivePort = await keptPort(state.archivePort);
  state.practicePort = await keptPort(state.practicePort);
  state.claimsPort = await keptPort(state.claimsPort);
  state.filmPort = await keptPort(state.filmPort);
  writeState(state);
  const origin = `http://127.0.0.1:${state.webPort}`;
  const archiveUrl = `http://127.0.0.1:${state.archivePort}`;
  const claimsUrl = `http://127.0.0.1:${state.claimsPort}`;
  const practiceUrl = `http://127.0.0.1:${state.practicePort}`;

  // Where parcels may be written for others, unless whoever runs this names other folders.
  const sharedFolder = process.env.YONDER_SHARED_FOLDERS ?? path.join(dataFolder, 'shared');
  if (!process.env.YONDER_SHARED_FOLDERS)
    fs.mkdirSync(path.join(sharedFolder, 'harbour'), { recursive: true });

  say('Bringing the tables up to date.');
  const prepared = await new Promise((resolve) => {
    const preparing = spawn(process.execPath, ['--import', 'tsx', 'scripts/prepare.ts'], {
      cwd: root,
      env: {
        ...process.env,
        ...urls,
        ARCHIVE_URL: archiveUrl,
        PRACTICE_URL: practiceUrl,
        CLAIMS_URL: claimsUrl,
        FILM_PORT: String(state.filmPort),
        ENROLMENT_CODE: state.enrolmentCode,
        YONDER_DISCS: path.join(dataFolder, 'discs'),
        YONDER_SHARED_FOLDERS: sharedFolder
      },
      stdio: ['ignore', 'inherit', 'inherit']
    });
    preparing.once('exit', resolve);
  });
  if (stopping) return;
  if (prepared !== 0) {
    throw new PlainError(
      'The tables or the demo clinic could not be made ready (see above). Nothing is lost; start again, it goes on where it stopped.'
    );
  }

  say(
    'Starting the archive, the practice system, the claims office, the film printer, the mailbox, the server, its worker and the devices.'
  );
  await startProcess('archive', ['build/processes/archive.js'], {
    PORT: String(state.archivePort),
    ARCHIVE_FOLDER: path.join(dataFolder, 'archive')
  });
  await untilAnswers(`${archiveUrl}/status`, 'archive');
  await startProcess('practice system', ['build/processes/practice.js'], {
    PORT: String(state.practicePort)
  });
  await startProcess('claims office', ['build/processes/claims.js'], {
    PORT: String(state.claimsPort),
    CLAIMS_FOLDER: path.join(dataFolder, 'claims')
  });
  await startProcess('film printer', ['build/processes/film.js'], {
    FILM_PORT: String(state.filmPort),
    PORT: String(await keptPort(undefined)),
    FILM_FOLDER: path.join(dataFolder, 'film')
  });
  const [mailPort, dicomPort] = [await keptPort(state.mailPort), await keptPort(state.dicomPort)];
  const [mailboxPort, mailboxStatusPort] = [await keptPort(state.mailboxPort), await keptPort(undefined)];
  writeState(Object.assign(state, { mailPort, dicomPort, mailboxPort }));
  await startProcess('mailbox', ['build/processes/mailbox.js'], {
    SMTP_PORT: String(mailboxPort),
    PORT: String(mailboxStatusPort),
    MAILBOX_FOLDER: path.join(dataFolder, 'mailbox')
  });
  const records = {
    ...urls,
    OWNER_DATABASE_URL: '',
    YONDER_LANDING: process.env.YONDER_LANDING ?? path.join(dataFolder, 'landing'),
    YONDER_AUDIT_HEADS: path.join(dataFolder, 'audit-heads.txt'),
    YONDER_MAIL_PORT: String(mailPort),
    YONDER_DICOM_PORT: String(dicomPort),
    YONDER_SMTP_HOST: process.env.YONDER_SMTP_HOST ?? '127.0.0.1',
    YONDER_SMTP_PORT: process.env.YONDER_SMTP_PORT ?? String(mailboxPort),
    YONDER_SHARED_FOLDERS: sharedFolder,
    NODE_ENV: 'production'
  };
  await startProcess('server', webServer, {
    ...records,
    HOST: '127.0.0.1',
    PORT: String(state.webPort),
    ORIGIN: origin,
    BODY_SIZE_LIMIT: '2001M',
    SHUTDOWN_TIMEOUT: '1',
    YONDER_DEMO: '1'
  });
  await untilAnswers(`${origin}/health`, 'server');
  await startProcess('worker', ['build/processes/worker.js'], records);
  await startProcess('doors', ['build/processes/doors.js'], records);
  await startProcess('devices', ['--import', 'tsx', 'standins/devices/main.ts'], {
    YONDER_URL: origin,
    ENROLMENT_CODE: state.enrolmentCode,
    SPOOL_FOLDER: path.join(dataFolder, 'devices')
  });

  const people = fs.readFileSync(path.join(root, 'demo', 'people.txt'), 'utf8').trimEnd();
  console.log(`
Yonder Tray is running (${((Date.now() - started) / 1000).toFixed(1)} s):

    ${origin}

${people}

Ctrl-C stops everything. All data stays in .data/.`);
}

main().catch((error) => {
  console.error(`\n${error instanceof PlainError ? error.message : (error?.stack ?? error)}`);
  if (error?.code === 'ENOSPC')
    console.error('The disk is full. Make room and start again; nothing is lost.');
  void stopAll(1);
});
