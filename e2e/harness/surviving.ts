import { type ChildProcess, spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { ensureCluster, freePort, newPassword, startCluster } from '../../scripts/cluster.mjs';
import { type SeededRandom, seededRandom } from '../../src/lib/core/random';
import { TestDevice, accountOf, anchoredVisit } from './device';
import { RunningClinic } from './running';

type Database = Awaited<ReturnType<typeof startCluster>>;
const records = ['QS-1052', 'QS-1060', 'QS-1031'] as const;
/** The numbers of each device's exposures begin here, so that one in a wrong visit shows. */
const numbersApart = 10_000;
const mostWaiting = 3;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** What became of exposures from three devices while everything was killed. */
export interface Survival {
  exposures: number;
  lost: number;
  doubled: number;
  /** In another visit than the one whose device took it. */
  astray: number;
  /** Takes on trays, audit lines and arrival keys that are not one for each exposure. */
  miscounted: number;
  /** How often the server was found to have ended by itself. */
  fallen: number;
  kills: { server: number; database: number; device: number };
}

/** A device whose offering process is killed and started again; what it exposed lies on its disk all the time. */
class MortalDevice {
  private child: ChildProcess | null = null;
  made = 0;

  private constructor(
    private readonly clinic: RunningClinic,
    private readonly device: TestDevice,
    private readonly folder: string,
    readonly visitId: string,
    private readonly armingId: string,
    readonly first: number
  ) {}

  static async open(clinic: RunningClinic, folder: string, i: number): Promise<MortalDevice> {
    const place = path.join(folder, `mortal ${i}`);
    const device = new TestDevice(clinic, place, `Mortal ${i}`);
    await device.start();
    device.stop();
    const { visitId, armingId } = await anchoredVisit(clinic, device, records[i]);
    return new MortalDevice(clinic, device, place, visitId, armingId, i * numbersApart);
  }

  start(): void {
    const program = ['--import', 'tsx', 'e2e/harness/deviceProcess.ts'];
    this.child = spawn(process.execPath, [...program, this.clinic.origin, this.device.token, this.folder], {
      stdio: 'ignore',
      env: { ...process.env, NODE_OPTIONS: '', VITEST: '' }
    });
  }
  async kill(): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill('SIGKILL');
    await gone;
  }

  /** Exposes `count` times with pauses, as fast as what waits on its disk allows; the last once `beforeLast` is through. */
  async exposeAll(count: number, random: SeededRandom, beforeLast: Promise<void>): Promise<void> {
    while (this.made < count) {
      if (this.made === count - 1) await beforeLast;
      this.device.expose(this.armingId, this.first + ++this.made);
      await pause(400 * random.uniform());
      while (this.device.spool.count() > mostWaiting) await pause(25);
    }
  }
  untilEmpty = (): Promise<void> => this.device.untilEmpty(180_000);
}

interface Wish {
  exposures: number;
  seed: number;
  onprogress?: (made: number) => void;
}

/**
 * Exposures from three devices at once while the server, the database and the devices' own processes are killed at
 * random moments and started again, until all are acknowledged. On a database of its own in the folder: it is killed too.
 */
export async function survive(folder: string, wish: Wish): Promise<Survival> {
  fs.mkdirSync(folder, { recursive: true });
  const port = await freePort();
  const cluster = { folder, ownerPassword: newPassword(), appPassword: newPassword(), port };
  ensureCluster(folder, cluster.ownerPassword);
  const held = { database: await startCluster(folder, port) };
  try {
    const clinic = await RunningClinic.start({ sensor: false, cluster });
    try {
      return await surviveIn(clinic, folder, held, wish);
    } finally {
      await clinic.stop();
    }
  } finally {
    await held.database.stop();
  }
}

async function surviveIn(
  clinic: RunningClinic,
  folder: string,
  held: { database: Database },
  wish: Wish
): Promise<Survival> {
  const random = seededRandom(wish.seed);
  const kills = { server: 0, database: 0, device: 0 };
  const devices: MortalDevice[] = [];
  for (let i = 0; i < records.length; i++) devices.push(await MortalDevice.open(clinic, folder, i));
  let going = true;
  let killed = 0;
  let fallen = 0;
  const reviveServer = async () => {
    clinic.startServer();
    await clinic.untilHealthy();
  };
  let tellAllKilled = () => {};
  const allKilled = new Promise<void>((done) => (tellAllKilled = done));
  const killing = async () => {
    while (going) {
      if (Object.values(kills).every((count) => count > 0)) tellAllKilled();
      await pause(200 + 1300 * random.uniform());
      if (clinic.isOver('server')) {
        fallen += 1;
        await reviveServer();
      }
      // Each is killed once at least; after that whichever it is.
      const what = [0, 0.5, 0.9][killed++] ?? random.uniform();
      if (what < 0.45) {
        await clinic.kill('server');
        kills.server += 1;
        await reviveServer();
      } else if (what < 0.65) {
        await held.database.stop('SIGKILL');
        kills.database += 1;
        held.database = await startCluster(folder, held.database.port);
      } else {
        const device = devices[Math.floor(devices.length * random.uniform())];
        await device.kill();
        kills.device += 1;
        device.start();
      }
      wish.onprogress?.(devices.reduce((sum, { made }) => sum + made, 0));
    }
  };
  for (const device of devices) device.start();
  const killer = killing().finally(tellAllKilled);
  const each = Math.ceil(wish.exposures / devices.length);
  try {
    // Where something can't be started again, that is told, and not waited for.
    const broken = killer.then(() => new Promise<never>(() => {}));
    await Promise.race([
      Promise.all(
        devices.map((device, i) => device.exposeAll(each, seededRandom(wish.seed + i + 1), allKilled))
      ),
      broken
    ]);
    going = false;
    await killer;
    await Promise.all(devices.map((device) => device.untilEmpty()));
  } finally {
    going = false;
    await killer.catch(() => {});
    await Promise.all(devices.map((device) => device.kill()));
  }
  const survival: Survival = {
    exposures: each * devices.length,
    lost: 0,
    doubled: 0,
    astray: 0,
    miscounted: 0,
    fallen: fallen + (clinic.isOver('server') ? 1 : 0),
    kills
  };
  for (const device of devices) {
    const account = await accountOf(clinic, device.visitId);
    const own = account.numbers.filter((number) => number > device.first && number <= device.first + each);
    survival.lost += each - new Set(own).size;
    survival.doubled += own.length - new Set(own).size;
    survival.astray += account.numbers.length - own.length;
    for (const count of [account.takes, account.lines, account.keys])
      survival.miscounted += Math.abs(count - each);
  }
  return survival;
}
