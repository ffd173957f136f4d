import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll } from 'vitest';
import { closeDatabase, inClinic } from '../../src/lib/server/database/connection';
import { newId, sha256 } from '../../src/lib/server/ids';
import { startQueue, stopQueue } from '../../src/lib/server/jobs/boss';
import type { Caller } from '../../src/lib/server/people/caller';
import type { Role } from '../../src/lib/server/people/roles';
import { passwordHash } from '../../src/lib/server/people/signIn';
import { enrol } from '../../src/lib/server/devices/enrolment';
import { seedClinic } from '../../src/lib/server/clinics/newClinic';
import { type BroughtIn, type FileFromOutside, bringIn } from '../../src/lib/server/pictures/bringIn';
import { type StoredTray, heldFirstTray } from '../../src/lib/server/trays/trays';
import { openVisit } from '../../src/lib/server/visits/visits';
import { stopLooks } from '../../src/lib/server/audit/looks';
import { stopProcesses } from '../../src/lib/server/work/processes';
import { stopThreads } from '../../src/lib/server/work/threads';
import { freshDatabase } from './database';

export const testPassword = 'a quiet harbour';
/** Half a day and more from the machine's own, so that a day that is not the clinic's shows. */
export const testTimeZone = 'Pacific/Auckland';

/** Two small clinics in a database of their own, for the services' tests of one file. */
export class TestClinic {
  readonly clinicId = newId();
  readonly otherClinicId = newId();
  readonly roomId = newId();
  readonly patientId = newId();
  readonly destinationId = newId();
  readonly landing = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-landing-'));
  private users = new Map<string, Caller>();
  owner!: pg.Client;

  caller(role: Role = 'clinician'): Caller {
    return this.users.get(role)!;
  }
  get stranger(): Caller {
    return this.users.get('stranger')!;
  }

  async open(): Promise<void> {
    const urls = await freshDatabase();
    process.env.DATABASE_URL = urls.DATABASE_URL;
    process.env.YONDER_LANDING = this.landing;
    process.env.YONDER_AUDIT_HEADS = path.join(this.landing, 'heads.txt');
    this.owner = new pg.Client({ connectionString: urls.OWNER_DATABASE_URL });
    await this.owner.connect();
    for (const [id, name] of [
      [this.clinicId, 'First'],
      [this.otherClinicId, 'Second']
    ]) {
      await this.owner.query('insert into clinic values ($1, $2, $3, $4, $5)', [
        id,
        name,
        'fdi',
        sha256(newId()),
        testTimeZone
      ]);
      await inClinic(id, seedClinic);
    }
    await this.owner.query('insert into room values ($1, $2, $3, $4, 0)', [
      this.roomId,
      this.clinicId,
      'Teeth',
      'teeth'
    ]);
    await this.owner.query(
      `insert into patient (patient_id, clinic_id, kind, family_name, given_name, birth_date, sex, record_number)
       values ($1, $2, 'person', 'Wavecrest', 'Odile', '1980-04-05', 'F', 'REC-77')`,
      [this.patientId, this.clinicId]
    );
    const hash = await passwordHash(testPassword);
    for (const role of ['assistant', 'clinician', 'front-desk', 'administrator', 'stranger'] as const) {
      const stranger = role === 'stranger';
      const caller: Caller = {
        userId: newId(),
        session: sha256(newId()).toString('hex'),
        clinicId: stranger ? this.otherClinicId : this.clinicId,
        role: stranger ? 'clinician' : role,
        name: `The ${role}`,
        clinicName: '',
        notation: 'fdi',
        language: 'en-GB',
        timeZone: testTimeZone
      };
      this.users.set(role, caller);
      await this.owner.query('insert into user_account values ($1, $2, $3, $4, $5, $6)', [
        caller.userId,
        caller.clinicId,
        role,
        caller.name,
        caller.role,
        hash
      ]);
      await this.owner.query(
        `insert into user_session values (decode($1, 'hex'), $2, $3, now() + interval '1 day')`,
        [caller.session, caller.clinicId, caller.userId]
      );
    }
    await startQueue();
  }

  /** Another patient of the first clinic. */
  async newPatient(familyName: string, givenName: string, recordNumber: string): Promise<string> {
    const id = newId();
    await this.owner.query(
      `insert into patient (patient_id, clinic_id, kind, family_name, given_name, birth_date, sex, record_number)
       values ($1, $2, 'person', $3, $4, '1971-02-03', 'F', $5)`,
      [id, this.clinicId, familyName, givenName, recordNumber]
    );
    return id;
  }

  newVisit(patientId = this.patientId): Promise<string> {
    return openVisit(this.caller(), patientId, this.roomId, new Date(Date.now() - 86_400_000 * ++this.days));
  }
  private days = 0;

  /** The visit's first tray as it stands. */
  trayOf(visitId: string): Promise<StoredTray> {
    return this.inside((tx) => heldFirstTray(tx, visitId));
  }

  /** Brings bytes in as a file on the bench of a visit. */
  async bring(
    visitId: string,
    fileName: string,
    bytes: Uint8Array,
    changes: Partial<FileFromOutside> & { as?: Caller } = {}
  ): Promise<string> {
    return (await this.bringing(visitId, fileName, bytes, changes)).pictureId;
  }

  /** The same, with what is said of it. */
  bringing(
    visitId: string,
    fileName: string,
    bytes: Uint8Array,
    changes: Partial<FileFromOutside> & { as?: Caller } = {}
  ): Promise<BroughtIn> {
    const { as, ...rest } = changes;
    const file = { visitId, trayId: null, slotId: null, fileName, key: newId(), ...rest };
    async function* body() {
      yield bytes;
    }
    return bringIn(as ?? this.caller(), { ...file, body: body() });
  }

  /** A code for a device in the room of the first clinic. */
  async newCode(replaces: string | null = null): Promise<string> {
    return (await enrol(this.caller('administrator'), { roomId: this.roomId, replaces })).code;
  }

  /** Until somebody waits for a lock that another holds. */
  async untilSomebodyWaits(): Promise<void> {
    for (let i = 0; i < 400; i++) {
      const { rows } = await this.owner.query('select 1 from pg_locks where not granted limit 1');
      if (rows.length > 0) return;
      await new Promise((done) => setTimeout(done, 25));
    }
    throw new Error('nobody waits for a lock');
  }

  async setDestination(url: string): Promise<void> {
    await this.owner.query(
      `insert into destination values ($1, $2, 'Archive', $3) on conflict (destination_id) do update set url = excluded.url`,
      [this.destinationId, this.clinicId, url]
    );
  }

  async count(table: string): Promise<number> {
    const { rows } = await this.owner.query(`select count(*) from ${table}`);
    return Number(rows[0].count);
  }

  inside<T>(act: Parameters<typeof inClinic<T>>[1]): Promise<T> {
    return inClinic(this.clinicId, act);
  }

  async close(): Promise<void> {
    await stopLooks();
    await stopThreads();
    await stopProcesses();
    fs.rmSync(this.landing, { recursive: true, force: true });
    await stopQueue();
    await closeDatabase();
    await this.owner.end();
  }
}

/** The clinic for a test file: opened before its tests, closed after them. */
export function useClinic(): TestClinic {
  const clinic = new TestClinic();
  beforeAll(() => clinic.open());
  afterAll(() => clinic.close());
  return clinic;
}
