import { type ChildProcess, spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { inject } from 'vitest';
import { buildDemo } from '../../demo/build';
import type { PastVisit } from '../../demo/past';
import { freePort } from '../../scripts/cluster.mjs';
import type { ClusterForTests } from './clusterSetup';
import { freshDatabase } from './database';

const enrolmentCode = 'enrol-the-sensor';

/** The built server with its stand-ins, on a database of its own, for one browser test file. */
export class RunningClinic {
  origin = '';
  archive = '';
  private processes = new Map<string, ChildProcess>();
  private env: NodeJS.ProcessEnv = {};
  private folder = '';
  private ownerUrl = '';
  readonly enrolmentCode = enrolmentCode;

  static async start(
    options: { sensor?: boolean; past?: readonly PastVisit[]; cluster?: ClusterForTests } = {}
  ): Promise<RunningClinic> {
    const clinic = new RunningClinic();
    const cluster = options.cluster ?? inject('cluster');
    clinic.folder = path.join(cluster.folder, `run-${Date.now()}`);
    fs.mkdirSync(clinic.folder, { recursive: true });
    const urls = await freshDatabase(cluster);
    clinic.ownerUrl = urls.OWNER_DATABASE_URL;
    const [port, archivePort] = [await freePort(), await freePort()];
    clinic.origin = `http://127.0.0.1:${port}`;
    clinic.archive = `http://127.0.0.1:${archivePort}`;
    process.env.DATABASE_URL = urls.DATABASE_URL;
    await buildDemo(urls.OWNER_DATABASE_URL, {
      archiveUrl: clinic.archive,
      enrolmentCode,
      now: new Date(),
      say: () => {},
      past: options.past ?? []
    });
    clinic.env = {
      ...process.env,
      ...urls,
      OWNER_DATABASE_URL: '',
      HOST: '127.0.0.1',
      PORT: String(port),
      ORIGIN: clinic.origin,
      BODY_SIZE_LIMIT: '600M',
      SHUTDOWN_TIMEOUT: '1',
      NODE_ENV: 'production',
      YONDER_DEMO: '1',
      YONDER_FIRST_PAUSE_SECONDS: '1',
      YONDER_ARCHIVE_PATIENCE_MS: '2000',
      VITEST: ''
    };
    clinic.spawn('archive', ['--import', 'tsx', 'standins/archive/main.ts'], {
      PORT: String(archivePort),
      ARCHIVE_FOLDER: path.join(clinic.folder, 'archive')
    });
    clinic.startServer();
    await clinic.untilHealthy();
    if (options.sensor ?? true) clinic.startSensor();
    return clinic;
  }

  private spawn(name: string, args: string[], env: NodeJS.ProcessEnv): void {
    const log = fs.openSync(path.join(this.folder, `${name}.log`), 'a');
    const child = spawn(process.execPath, args, {
      env: { ...process.env, ...env },
      stdio: ['ignore', log, log]
    });
    this.processes.set(name, child);
  }

  startServer(): void {
    this.spawn('server', ['build/index.js'], this.env);
  }

  startSensor(): void {
    this.spawn('sensor', ['--import', 'tsx', 'standins/sensor/main.ts'], {
      YONDER_URL: this.origin,
      ENROLMENT_CODE: enrolmentCode,
      SPOOL_FOLDER: path.join(this.folder, 'sensor')
    });
  }

  async kill(name: 'server' | 'sensor', signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const child = this.processes.get(name)!;
    if (child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await gone;
  }

  async untilHealthy(): Promise<void> {
    for (let tries = 0; tries < 300; tries++) {
      const answer = await fetch(`${this.origin}/health`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error(
      `the server did not start: ${fs.readFileSync(path.join(this.folder, 'server.log'), 'utf8')}`
    );
  }

  async archiveFault(kind: string, count?: number): Promise<void> {
    await fetch(`${this.archive}/faults`, { method: 'PUT', body: JSON.stringify({ kind, count }) });
  }

  /** How often the archive received each instance. */
  async receipts(): Promise<Record<string, number>> {
    return (await (await fetch(`${this.archive}/receipts`)).json()) as Record<string, number>;
  }

  /** Rows of any table, as the tables' owner sees them. */
  async rows<Row extends object>(sql: string): Promise<Row[]> {
    const owner = new pg.Client({ connectionString: this.ownerUrl });
    await owner.connect();
    const { rows } = await owner.query<Row>(sql);
    await owner.end();
    return rows;
  }

  /** The originals of all pictures, byte for byte. */
  async originals(): Promise<Buffer[]> {
    return (await this.rows<{ bytes: Buffer }>('select bytes from blob')).map((row) => row.bytes);
  }

  async stop(): Promise<void> {
    for (const child of this.processes.values()) child.kill('SIGKILL');
  }
}
