import { createHash, randomBytes } from 'node:crypto';
import { availableParallelism } from 'node:os';
import { Sequelize } from 'sequelize';
import { closeDatabase, inClinic } from '../src/lib/server/database/connection';
import { newId, sha256 } from '../src/lib/server/ids';
import { startQueue, stopQueue } from '../src/lib/server/jobs/boss';
import type { Caller } from '../src/lib/server/people/caller';
import { passwordHash } from '../src/lib/server/people/signIn';
import { stopDecoding } from '../src/lib/server/pictures/decode/pool';
import { sendParcel } from '../src/lib/server/dispatch/parcels';
import { openAppointment } from '../src/lib/server/visits/visits';
import { RenderPool } from '../standins/render/pool';
import { type PastVisit, inVain, past } from './past';
import type { DemoVisit } from './picture';
import { type RoomVisit, roomVisits, beginBench } from './rooms';
import { beginSeries } from './teeth';
import {
  type DemoPatient,
  day,
  otherClinic,
  otherPassword,
  password,
  patients,
  people,
  rooms as clinicRooms
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

interface Dated {
  patient: string;
  room: string;
  daysAgo: number;
  reason: string;
}

/** The appointment a visit is opened from: today's own, or an earlier one under a key that stays the same. */
function appointmentKey(visit: Dated, now: Date): string {
  if (visit.daysAgo > 0) return keyOf(`past ${visit.room} ${visit.patient} ${visit.daysAgo}`);
  const place = day.findIndex((each) => each.patient === visit.patient && each.room === visit.room);
  return keyOf(`appointment ${now.toDateString()} ${place}`);
}

async function addPastAppointment(run: Run, clinicId: string, visit: Dated, now: Date): Promise<void> {
  if (visit.daysAgo === 0) return;
  await run(
    `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
     values ($1, $2, $3, $4, $5, 30, $6) on conflict do nothing`,
    appointmentKey(visit, now),
    clinicId,
    keyOf(`patient ${visit.patient}`),
    keyOf(`room ${visit.room}`),
    new Date(now.getTime() - visit.daysAgo * dayMs),
    visit.reason
  );
}

async function openDated(caller: Caller, visit: Dated, now: Date): Promise<DemoVisit> {
  const at = new Date(now.getTime() - visit.daysAgo * dayMs);
  const visitId = await openAppointment(caller, appointmentKey(visit, now), at);
  return { visitId, patientId: keyOf(`patient ${visit.patient}`), at };
}

/** One parcel to a place that lets nobody in: what trouble looks like. */
async function sendInVain(caller: Caller, visit: Dated, now: Date): Promise<void> {
  const { visitId } = await openDated(caller, visit, now);
  const pictures = await inClinic(caller.clinicId, (tx) =>
    tx.sql<{ picture_id: string }>('select picture_id from picture where visit_id = $1', visitId)
  );
  await sendParcel(caller, visitId, {
    key: keyOf('parcel in vain'),
    destinationId: keyOf('destination locked'),
    identity: 'identified',
    pictureIds: pictures.map((row) => row.picture_id)
  });
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
    rooms?: readonly RoomVisit[];
  }
): Promise<void> {
  const owner = new Sequelize(ownerUrl, { dialect: 'postgres', logging: false });
  const run: Run = async (sql, ...values) => {
    await owner.query(sql, { bind: values });
  };
  const teeth = options.past ?? past;
  const rooms = options.rooms ?? (options.past ? [] : roomVisits);
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
    await addRooms(run, clinicId, clinicRooms, '');
    await addRooms(run, otherId, [{ name: 'Room', trade: 'teeth' }], 'other ');
    for (const patient of patients) await addPatient(run, clinicId, patient);
    await addPatient(run, otherId, otherClinic.patient);
    for (const [key, name, url] of [
      ['destination', 'Mainland archive', options.archiveUrl],
      ['destination locked', 'Teal Harbour specialist', `${options.archiveUrl}/locked`]
    ])
      await run(
        `insert into destination (destination_id, clinic_id, name, url) values ($1, $2, $3, $4)
         on conflict (destination_id) do update set url = excluded.url`,
        keyOf(key),
        clinicId,
        name,
        url
      );
    await addDay(run, clinicId, options.now);
    for (const visit of [...teeth, ...rooms]) await addPastAppointment(run, clinicId, visit, options.now);
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
  const wanted =
    teeth.reduce((sum, visit) => sum + visit.series.shots.length, 0) +
    rooms.reduce((sum, visit) => sum + visit.pictures.length, 0);
  if (Number(made?.count) < wanted) {
    const pool = new RenderPool(availableParallelism());
    // All pictures are rendered while the first are stored already, the longest ones first.
    const finishes: (() => Promise<void>)[] = [];
    for (const visit of rooms)
      finishes.push(await beginBench(caller, pool, await openDated(caller, visit, options.now), visit));
    for (const [i, visit] of teeth.entries()) {
      const opened = await openDated(caller, visit, options.now);
      const wish = { ...visit.series, confirmedBy: visit.confirmed ? 'Orsin Vael' : null };
      finishes.push(await beginSeries(caller, pool, { ...opened, seed: 1000 * (i + 1) }, wish));
    }
    for (const [i, finish] of finishes.entries()) {
      options.say(`Making the demo clinic: visit ${i + 1} of ${finishes.length}.`);
      await finish();
    }
    await pool.stop();
    if (options.past === undefined) await sendInVain(caller, inVain, options.now);
  }
  stopDecoding();
  await stopQueue();
  await closeDatabase();
}
