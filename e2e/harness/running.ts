import { type ChildProcess, spawn } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { inject } from 'vitest';
import { buildDemo } from '../../demo/build';
import type { PastVisit } from '../../demo/past';
import type { RoomVisit } from '../../demo/rooms';
import { codeHash } from '../../src/lib/server/devices/enrolment';
import { type databaseUrls, freePort } from '../../scripts/cluster.mjs';
import { webServer } from '../../scripts/webServer.mjs';
import type { ClusterForTests } from './clusterSetup';
import { freshDatabase } from './database';

const enrolmentCode = 'enrol-the-sensor';

/** The built server with its stand-ins, on a database of its own, for one browser test file. */
export class RunningClinic {
  origin = '';
  archive = '';
  practice = '';
  claims = '';
  /** Where a film printer puts what it prints. */
  films = '';
  private processes = new Map<string, ChildProcess>();
  private env: NodeJS.ProcessEnv = {};
  private folder = '';
  /** What was simulated once, for all runs. */
  private renderedIn = '';
  private devices: readonly string[] = [];
  private ownerUrl = '';

  static async start(
    options: {
      sensor?: boolean;
      /** Whether there is a practice system that appointments come from. */
      practice?: boolean;
      /** Whether there is a claims office. */
      claims?: boolean;
      /** Whether there is a film printer. */
      film?: boolean;
      /** Whether the worker runs, which takes jobs. */
      worker?: boolean;
      past?: readonly PastVisit[];
      rooms?: readonly RoomVisit[];
      /** Whether a visit that is opened gets its device ready at once. */
      opensArmed?: boolean;
      /** The simulated devices that run. */
      devices?: readonly string[];
      cluster?: ClusterForTests;
      env?: NodeJS.ProcessEnv;
    } = {}
  ): Promise<RunningClinic> {
    const clinic = new RunningClinic();
    clinic.devices = options.devices ?? ['Sensor 1'];
    const cluster = options.cluster ?? inject('cluster');
    clinic.folder = fs.mkdtempSync(path.join(cluster.folder, 'run-'));
    clinic.films = path.join(clinic.folder, 'films');
    clinic.renderedIn = path.join(cluster.folder, 'rendered');
    const demo = {
      enrolmentCode,
      say: () => {},
      past: options.past ?? [],
      rooms: options.rooms ?? [],
      opensArmed: options.opensArmed ?? false
    };
    const urls = await clinic.database(cluster, demo);
    clinic.ownerUrl = urls.OWNER_DATABASE_URL;
    const [port, archivePort, practicePort, claimsPort] = [
      await freePort(),
      await freePort(),
      await freePort(),
      await freePort()
    ];
    const filmPort = options.film ? await freePort() : undefined;
    if (options.claims) clinic.claims = `http://127.0.0.1:${claimsPort}`;
    if (options.practice) clinic.practice = `http://127.0.0.1:${practicePort}`;
    clinic.origin = `http://127.0.0.1:${port}`;
    clinic.archive = `http://127.0.0.1:${archivePort}`;
    process.env.DATABASE_URL = urls.DATABASE_URL;
    process.env.YONDER_LANDING = clinic.landing;
    await buildDemo(urls.OWNER_DATABASE_URL, {
      ...demo,
      archiveUrl: clinic.archive,
      practiceUrl: clinic.practice || undefined,
      claimsUrl: clinic.claims || undefined,
      filmPort,
      now: new Date(),
      renderedIn: clinic.renderedIn
    });
    clinic.env = {
      ...process.env,
      ...urls,
      OWNER_DATABASE_URL: '',
      HOST: '127.0.0.1',
      PORT: String(port),
      ORIGIN: clinic.origin,
      BODY_SIZE_LIMIT: '2001M',
      SHUTDOWN_TIMEOUT: '1',
      NODE_ENV: 'production',
      YONDER_DEMO: '1',
      YONDER_KIT: '1',
      YONDER_LANDING: clinic.landing,
      YONDER_AUDIT_HEADS: path.join(clinic.folder, 'audit-heads.txt'),
      YONDER_FIRST_PAUSE_SECONDS: '1',
      YONDER_ARCHIVE_PATIENCE_MS: '2000',
      YONDER_PRACTICE_SECONDS: '1',
      VITEST: '',
      YONDER_BUILT: '1',
      YONDER_COLD: '1',
      ...options.env
    };
    clinic.spawn('archive', ['build/processes/archive.js'], {
      PORT: String(archivePort),
      ARCHIVE_FOLDER: path.join(clinic.folder, 'archive')
    });
    if (options.claims)
      clinic.spawn('claims', ['build/processes/claims.js'], {
        PORT: String(claimsPort),
        CLAIMS_FOLDER: path.join(clinic.folder, 'claims')
      });
    if (filmPort)
      clinic.spawn('film', ['build/processes/film.js'], {
        FILM_PORT: String(filmPort),
        PORT: String(await freePort()),
        FILM_FOLDER: clinic.films
      });
    if (options.practice)
      clinic.spawn('practice', ['build/processes/practice.js'], {
        PORT: String(practicePort)
      });
    clinic.startServer();
    await clinic.untilHealthy();
    if (options.worker ?? true) clinic.startWorker();
    if (options.sensor ?? true) clinic.startSensor();
    return clinic;
  }

  /**
   * A database of its own. Visits with pictures are made once for all files that want the same ones, as of this hour, and
   * copied: records and what has landed.
   */
  private async database(
    cluster: ClusterForTests,
    demo: Omit<Parameters<typeof buildDemo>[1], 'archiveUrl' | 'now'>
  ): Promise<ReturnType<typeof databaseUrls>> {
    const { past = [], rooms = [] } = demo;
    if (past.length + rooms.length === 0) return freshDatabase(cluster);
    const hour = new Date().toISOString().slice(0, 13);
    const name = `demo_${createHash('sha256')
      .update(JSON.stringify([demo, hour]))
      .digest('hex')
      .slice(0, 16)}`;
    const landing = path.join(cluster.folder, name);
    const urls = await freshDatabase(cluster, {
      name,
      make: async (template) => {
        process.env.DATABASE_URL = template.DATABASE_URL;
        process.env.QUEUE_DATABASE_URL = template.QUEUE_DATABASE_URL;
        process.env.YONDER_LANDING = landing;
        await buildDemo(template.OWNER_DATABASE_URL, {
          ...demo,
          archiveUrl: 'http://127.0.0.1:9',
          now: new Date(),
          renderedIn: this.renderedIn
        });
      }
    });
    if (fs.existsSync(landing)) fs.cpSync(landing, this.landing, { recursive: true });
    return urls;
  }

  private spawn(name: string, args: string[], env: NodeJS.ProcessEnv): void {
    const log = fs.openSync(path.join(this.folder, `${name}.log`), 'a');
    const child = spawn(process.execPath, args, {
      env: { ...process.env, NODE_OPTIONS: '', ...env },
      stdio: ['ignore', log, log]
    });
    this.processes.set(name, child);
  }

  /** The disk of a simulated device. */
  deviceFolder(name: string): string {
    return path.join(this.folder, 'devices', name.toLowerCase().replace(/\W+/g, '-'));
  }

  /** Where a process's words go. */
  log(name: string): string {
    return path.join(this.folder, `${name}.log`);
  }

  startServer(): void {
    this.spawn('server', webServer, this.env);
  }

  startWorker(): void {
    this.spawn('worker', ['build/processes/worker.js'], {
      ...this.env,
      YONDER_CONNECTIONS: '4'
    });
  }

  /** The doors for mail and other systems' pictures, and the ports they stand at. */
  async startDoors(): Promise<{ mail: number; dicom: number }> {
    const [mail, dicom] = [await freePort(), await freePort()];
    this.spawn('doors', ['build/processes/doors.js'], {
      ...this.env,
      YONDER_MAIL_PORT: String(mail),
      YONDER_DICOM_PORT: String(dicom)
    });
    return { mail, dicom };
  }

  startSensor(): void {
    this.spawn('sensor', ['--import', 'tsx', 'standins/devices/main.ts'], {
      YONDER_URL: this.origin,
      ENROLMENT_CODE: enrolmentCode,
      DEVICES: this.devices.join(','),
      SPOOL_FOLDER: path.join(this.folder, 'devices'),
      RENDERED_FOLDER: this.renderedIn
    });
  }

  /** Whether a process that was started has ended, by itself or killed. */
  isOver(name: 'server' | 'sensor' | 'worker'): boolean {
    const { exitCode, signalCode } = this.processes.get(name)!;
    return exitCode !== null || signalCode !== null;
  }

  async kill(name: 'server' | 'sensor' | 'worker', signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    if (this.isOver(name)) return;
    const child = this.processes.get(name)!;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await gone;
  }

  /** Of the server, its worker and the stand-ins that run. */
  pids(): number[] {
    return [...this.processes.values()].flatMap(({ pid, exitCode }) =>
      pid && exitCode === null ? [pid] : []
    );
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
  async rows<Row extends object>(sql: string, values: unknown[] = []): Promise<Row[]> {
    const owner = new pg.Client({ connectionString: this.ownerUrl });
    await owner.connect();
    const { rows } = await owner.query<Row>(sql, values);
    await owner.end();
    return rows;
  }

  /** Holds a whole table against everybody, as a long piece of upkeep would; gives back how to let go. */
  async hold(table: string): Promise<() => Promise<void>> {
    const owner = new pg.Client({ connectionString: this.ownerUrl });
    await owner.connect();
    await owner.query(`begin; lock table ${table} in access exclusive mode`);
    return () => owner.end();
  }

  /** A code for one device in a room of the demo clinic. */
  async newCode(room = 'Teeth'): Promise<string> {
    const code = randomUUID();
    await this.rows(
      `insert into enrolment (code_hash, clinic_id, room_id, expires_at)
       select '\\x${codeHash(code).toString('hex')}', clinic_id, room_id, now() + interval '1 hour' from room
       where name = '${room}' and clinic_id = (select clinic_id from user_account where sign_in_name = 'orsin')`
    );
    return code;
  }

  /** The originals of pictures, byte for byte, from the records or from the landing. */
  async originals(where = ''): Promise<Buffer[]> {
    const rows = await this.rows<{ clinic_id: string; sha256: Buffer; place: string }>(
      `select b.clinic_id, b.sha256, b.place from picture p
       join blob b on b.clinic_id = p.clinic_id and b.sha256 = p.original_sha256 ${where}`
    );
    const all = [];
    for (const { clinic_id, sha256, place } of rows) {
      const hex = sha256.toString('hex');
      // What has landed may be moved in between the question and the reading.
      const file = path.join(this.landing, clinic_id, hex);
      if (place === 'landed' && fs.existsSync(file)) all.push(fs.readFileSync(file));
      else all.push(await this.kept(clinic_id, hex));
    }
    return all;
  }

  private async kept(clinicId: string, hex: string): Promise<Buffer> {
    const parts = await this.rows<{ bytes: Buffer }>(
      `select bytes from blob_part where clinic_id = '${clinicId}' and sha256 = '\\x${hex}' order by part`
    );
    return Buffer.concat(parts.map((row) => row.bytes));
  }

  get landing(): string {
    return path.join(this.folder, 'landing');
  }

  async stop(): Promise<void> {
    for (const child of this.processes.values()) child.kill('SIGKILL');
  }
}
