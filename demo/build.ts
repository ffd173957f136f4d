import { createHash, randomBytes } from 'node:crypto';
import { availableParallelism } from 'node:os';
import { Sequelize } from 'sequelize';
import { closeDatabase, inClinic } from '../src/lib/server/database/connection';
import { newId, sha256 } from '../src/lib/server/ids';
import { startQueue, stopQueue } from '../src/lib/server/jobs/boss';
import type { Caller } from '../src/lib/server/people/caller';
import { passwordHash } from '../src/lib/server/people/signIn';
import { stopDecoding } from '../src/lib/server/pictures/decode/pool';
import { openAppointment } from '../src/lib/server/visits/visits';
import { RenderPool } from '../standins/render/pool';
import { type PastVisit, past } from './past';
import { takeSeries } from './teeth';
import {
  type DemoPatient,
  day,
  otherClinic,
  otherPassword,
  password,
  patients,
  people,
  rooms
} from './clinic';

const dayStartsAtHour = 8;
const hourMs = 3_600_000;
const dayMs = 24 * hourMs;

/** The same key for the same name every time, so that an interrupted build goes on where it stopped. */
function keyOf(name: string): string {
  const hex = createHash('sha256').update(`quill-sound ${name}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-7${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

type Run = (sql: string, ...values: unknown[]) => Promise<void>;

async function addClinic(run: Run, id: string, name: string, enrolmentCode: string): Promise<void> {
  await run(
    'insert into clinic (clinic_id, name, enrolment_hash, secret) values ($1, $2, $3, $4) on conflict do nothing',
    id,
    name,
    sha256(enrolmentCode),
    randomBytes(32)
  );
}

async function addPerson(
  run: Run,
  clinicId: string,
  who: { signIn: string; name: string; role: string },
  secret: string
) {
  await run(
    `insert into user_account (user_id, clinic_id, sign_in_name, display_name, role, password_hash)
     values ($1, $2, $3, $4, $5, $6) on conflict do nothing`,
    keyOf(`user ${who.signIn}`),
    clinicId,
    who.signIn,
    who.name,
    who.role,
    await passwordHash(secret)
  );
}

async function addPatient(run: Run, clinicId: string, patient: DemoPatient): Promise<void> {
  await run(
    `insert into patient (patient_id, clinic_id, kind, family_name, given_name, birth_date, sex, record_number, species, owner, alert)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) on conflict do nothing`,
    keyOf(`patient ${patient.record}`),
    clinicId,
    patient.kind ?? 'person',
    patient.family,
    patient.given,
    patient.birth,
    patient.sex,
    patient.record,
    patient.species ?? null,
    patient.owner ?? null,
    patient.alert ?? null
  );
}

async function addRooms(
  run: Run,
  clinicId: string,
  names: readonly { name: string; trade: string }[],
  mark: string
) {
  for (const [place, room] of names.entries()) {
    await run(
      'insert into room (room_id, clinic_id, name, trade, place) values ($1, $2, $3, $4, $5) on conflict do nothing',
      keyOf(`room ${mark}${room.name}`),
      clinicId,
      room.name,
      room.trade,
      place
    );
  }
}

/** The appointments of the day that holds `now`. On another day they are made for that one. */
async function addDay(run: Run, clinicId: string, now: Date): Promise<void> {
  const start = new Date(now);
  start.setHours(dayStartsAtHour, 0, 0, 0);
  for (const [i, each] of day.entries()) {
    await run(
      `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
       values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing`,
      keyOf(`appointment ${start.toDateString()} ${i}`),
      clinicId,
      keyOf(`patient ${each.patient}`),
      keyOf(`room ${each.room}`),
      new Date(start.getTime() + each.at * 60_000),
      each.minutes,
      each.reason
    );
  }
}

/** An earlier visit's appointment, under the same key whenever the build goes on. */
async function addPastAppointment(run: Run, clinicId: string, visit: PastVisit, now: Date): Promise<void> {
  if (visit.daysAgo === 0) return;
  await run(
    `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
     values ($1, $2, $3, $4, $5, 30, $6) on conflict do nothing`,
    pastKey(visit),
    clinicId,
    keyOf(`patient ${visit.patient}`),
    keyOf('room Teeth'),
    new Date(now.getTime() - visit.daysAgo * dayMs),
    visit.reason
  );
}

const pastKey = (visit: PastVisit) => keyOf(`past ${visit.patient} ${visit.daysAgo}`);

async function makePastVisit(
  caller: Caller,
  pool: RenderPool,
  visit: PastVisit,
  number: number,
  now: Date
): Promise<void> {
  const at = new Date(now.getTime() - visit.daysAgo * dayMs);
  const appointment = visit.daysAgo === 0 ? keyOf(`appointment ${now.toDateString()} 0`) : pastKey(visit);
  const visitId = await openAppointment(caller, appointment, at);
  await takeSeries(
    caller,
    pool,
    { visitId, patientId: keyOf(`patient ${visit.patient}`), at, seed: 1000 * (number + 1) },
    { ...visit.series, confirmedBy: visit.confirmed ? 'Orsin Vael' : null }
  );
}

/** Builds the demo clinic, or what is still missing of it, and today's appointments. */
export async function buildDemo(
  ownerUrl: string,
  options: {
    archiveUrl: string;
    enrolmentCode: string;
    now: Date;
    say: (words: string) => void;
    /** The earlier visits to make; all unless said otherwise. */
    past?: readonly PastVisit[];
  }
): Promise<void> {
  const owner = new Sequelize(ownerUrl, { dialect: 'postgres', logging: false });
  const run: Run = async (sql, ...values) => {
    await owner.query(sql, { bind: values });
  };
  const clinicId = keyOf('clinic');
  const otherId = keyOf('other clinic');
  try {
    await addClinic(run, clinicId, 'Quill Sound Community Clinic', options.enrolmentCode);
    await addClinic(run, otherId, otherClinic.name, newId());
    await run(
      'update clinic set enrolment_hash = $2 where clinic_id = $1',
      clinicId,
      sha256(options.enrolmentCode)
    );
    for (const person of people) await addPerson(run, clinicId, person, password);
    await addPerson(
      run,
      otherId,
      { signIn: 'tamsin', name: 'Tamsin Orrey', role: 'clinician' },
      otherPassword
    );
    await addRooms(run, clinicId, rooms, '');
    await addRooms(run, otherId, [{ name: 'Room', trade: 'teeth' }], 'other ');
    for (const patient of patients) await addPatient(run, clinicId, patient);
    await addPatient(run, otherId, otherClinic.patient);
    await run(
      `insert into destination (destination_id, clinic_id, name, url) values ($1, $2, 'Mainland archive', $3)
       on conflict (destination_id) do update set url = excluded.url`,
      keyOf('destination'),
      clinicId,
      options.archiveUrl
    );
    await addDay(run, clinicId, options.now);
    for (const visit of options.past ?? past) await addPastAppointment(run, clinicId, visit, options.now);
  } finally {
    await owner.close();
  }
  const caller: Caller = {
    userId: keyOf('user mara'),
    clinicId,
    role: 'assistant',
    name: 'Mara Fennick',
    clinicName: 'Quill Sound Community Clinic',
    notation: 'fdi'
  };
  await startQueue();
  const made = await inClinic(clinicId, (tx) =>
    tx.one<{ count: string }>("select count(*) from arrival_key where key like 'demo %'")
  );
  const wanted = options.past ?? past;
  const finished = Number(made?.count) >= wanted.reduce((sum, visit) => sum + visit.series.shots.length, 0);
  if (!finished) {
    const pool = new RenderPool(availableParallelism());
    for (const [i, visit] of wanted.entries()) {
      options.say(`Making the demo clinic: visit ${i + 1} of ${wanted.length}.`);
      await makePastVisit(caller, pool, visit, i, options.now);
    }
    await pool.stop();
  }
  stopDecoding();
  await stopQueue();
  await closeDatabase();
}
