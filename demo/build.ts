import { createHash, randomBytes } from 'node:crypto';
import { availableParallelism } from 'node:os';
import fs from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { dayAfter, dayInWords, dayOf } from '../src/lib/core/time/clinicTime';
import { plainLanguage } from '../src/lib/core/time/language';
import { type CategoryRule, categoryRuleSchema } from '../src/lib/core/picture/categoryRule';
import type { StoryText } from '../src/lib/core/visit/story';
import { Marker } from '../src/lib/server/clinics/markerModel';
import { seedClinic } from '../src/lib/server/clinics/newClinic';
import { Room } from '../src/lib/server/clinics/roomModel';
import { type Tx, closeDatabase, inClinic, within } from '../src/lib/server/database/connection';
import {
  type DestinationSettings,
  destinationSettings,
  plainDestination
} from '../src/lib/core/parcel/destination';
import { plainPacking } from '../src/lib/core/parcel/packing';
import { LeavingRuleRow } from '../src/lib/server/deidentify/ruleModel';
import { cleanLogo } from '../src/lib/server/clinics/cleanLogo';
import { ColleagueRow } from '../src/lib/server/letters/colleagueModel';
import { Destination } from '../src/lib/server/dispatch/destinationModel';
import { sendParcel } from '../src/lib/server/dispatch/parcels';
import { startQueue, stopQueue } from '../src/lib/server/jobs/boss';
import type { By } from '../src/lib/server/audit/write';
import { codeHash } from '../src/lib/server/devices/enrolment';
import type { Caller } from '../src/lib/server/people/caller';
import type { Role } from '../src/lib/server/people/roles';
import { passwordHash } from '../src/lib/server/people/signIn';
import { User } from '../src/lib/server/people/userModel';
import { addPaper } from '../src/lib/server/papers/papers';
import { settlePicture } from '../src/lib/server/pictures/settle';
import { Appointment } from '../src/lib/server/visits/appointmentModel';
import { Patient } from '../src/lib/server/visits/patientModel';
import { writeStory } from '../src/lib/server/visits/story';
import { openAppointment } from '../src/lib/server/visits/visits';
import { stopProcesses } from '../src/lib/server/work/processes';
import { RenderPool } from '../standins/render/pool';
import { addArrivals } from './arrivals';
import {
  type DemoAppointment,
  clinicAddress,
  colleagues,
  type DemoPatient,
  day,
  markers,
  nextDay,
  otherClinic,
  otherPassword,
  password,
  patients,
  people,
  rooms as clinicRooms,
  timeZone
} from './clinic';
import { addCases } from './cases';
import { deviceCode, devices } from './devices';
import { type PastVisit, inVain, past } from './past';
import { type Letter, letterPdf } from './letter';
import { practiceIdOf, practiceName, startOf } from './practiceDay';
import type { DemoVisit } from './picture';
import { type RoomVisit, beginRoom, roomVisits } from './rooms';
import { beginSeries } from './teeth';

const minuteMs = 60_000;
const dayMs = 24 * 60 * minuteMs;

/** The same key for the same name every time, so that an interrupted build goes on where it stopped. */
function keyOf(name: string): string {
  const hex = createHash('sha256').update(`quill-sound ${name}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-7${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** What is there already stays as it is. */
const unlessThere = (tx: Tx) => ({ ignoreDuplicates: true, ...within(tx) });

async function asOwner(ownerUrl: string, work: (owner: pg.Client) => Promise<void>): Promise<void> {
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  try {
    await work(owner);
  } finally {
    await owner.end();
  }
}

/** Clinics themselves are made by the tables' owner: nobody who signs in may. */
const addClinics = (ownerUrl: string): Promise<void> =>
  asOwner(ownerUrl, async (owner) => {
    for (const [id, name] of [
      [keyOf('clinic'), 'Quill Sound Community Clinic'],
      [keyOf('other clinic'), otherClinic.name]
    ])
      await owner.query(
        `insert into clinic (clinic_id, name, secret, time_zone) values ($1, $2, $3, $4)
         on conflict (clinic_id) do nothing`,
        [id, name, randomBytes(32), timeZone]
      );
  });

/** Lets the simulated devices in with codes made of the launcher's, also in place of their earlier selves. */
const letDevicesIn = (ownerUrl: string, code: string): Promise<void> =>
  asOwner(ownerUrl, async (owner) => {
    for (const { name, room } of devices)
      await owner.query(
        `insert into enrolment (code_hash, clinic_id, room_id, device_id, expires_at)
         select $2, r.clinic_id, r.room_id, d.device_id, now() + interval '12 hours'
         from room r left join device d on d.clinic_id = r.clinic_id and d.name = $3
         where r.clinic_id = $1 and r.name = $4
         on conflict (code_hash) do update
           set used_at = null, device_id = excluded.device_id, expires_at = excluded.expires_at`,
        [keyOf('clinic'), codeHash(deviceCode(code, name)), name, room]
      );
  });

async function addPeople(
  tx: Tx,
  all: readonly { signIn: string; name: string; role: Role }[],
  secret: string
): Promise<void> {
  const hash = await passwordHash(secret);
  await User.bulkCreate(
    all.map((who) => ({
      userId: keyOf(`user ${who.signIn}`),
      clinicId: tx.clinicId,
      signInName: who.signIn,
      displayName: who.name,
      role: who.role,
      passwordHash: hash
    })),
    unlessThere(tx)
  );
}

const addPatients = (tx: Tx, all: readonly DemoPatient[]): Promise<unknown> =>
  Patient.bulkCreate(
    all.map((patient) => ({
      patientId: keyOf(`patient ${patient.record}`),
      clinicId: tx.clinicId,
      kind: patient.kind ?? ('person' as const),
      familyName: patient.family,
      givenName: patient.given,
      birthDate: patient.birth,
      sex: patient.sex,
      recordNumber: patient.record,
      species: patient.species ?? null,
      owner: patient.owner ?? null,
      alert: patient.alert ?? null
    })),
    unlessThere(tx)
  );

const addRooms = (
  tx: Tx,
  all: readonly { name: string; trade: Room['trade'] }[],
  mark: string,
  opensArmed = false
): Promise<unknown> =>
  Room.bulkCreate(
    all.map(({ name, trade }, place) => ({
      roomId: keyOf(`room ${mark}${name}`),
      clinicId: tx.clinicId,
      name,
      trade,
      place,
      opensArmed
    })),
    unlessThere(tx)
  );

/** The appointments of a calendar day of the clinic. */
function addDay(tx: Tx, date: string, all: readonly DemoAppointment[]): Promise<unknown> {
  return Appointment.bulkCreate(
    all.map((each, i) => ({
      appointmentId: keyOf(`appointment ${date} ${i}`),
      clinicId: tx.clinicId,
      patientId: keyOf(`patient ${each.patient}`),
      roomId: keyOf(`room ${each.room}`),
      startsAt: startOf(date, each),
      practiceId: practiceIdOf(date, i),
      minutes: each.minutes,
      reason: each.reason
    })),
    unlessThere(tx)
  );
}

interface Dated {
  patient: string;
  room: string;
  daysAgo: number;
  reason: string;
  story?: Partial<Record<StoryText, string>>;
  letters?: readonly Letter[];
}

/** The appointment a visit is opened from: today's own, or an earlier one under a key that stays the same. */
function appointmentKey(visit: Dated, now: Date): string {
  if (visit.daysAgo > 0) return keyOf(`past ${visit.room} ${visit.patient} ${visit.daysAgo}`);
  const place = day.findIndex((each) => each.patient === visit.patient && each.room === visit.room);
  return keyOf(`appointment ${dayOf(now, timeZone)} ${place}`);
}

const addPast = (tx: Tx, all: readonly Dated[], now: Date): Promise<unknown> =>
  Appointment.bulkCreate(
    all
      .filter((visit) => visit.daysAgo > 0)
      .map((visit) => ({
        appointmentId: appointmentKey(visit, now),
        clinicId: tx.clinicId,
        patientId: keyOf(`patient ${visit.patient}`),
        roomId: keyOf(`room ${visit.room}`),
        startsAt: new Date(now.getTime() - visit.daysAgo * dayMs),
        minutes: 30,
        reason: visit.reason
      })),
    unlessThere(tx)
  );

const visitDay = (visit: Dated, now: Date) => new Date(now.getTime() - visit.daysAgo * dayMs);

async function openDated(caller: Caller, visit: Dated, now: Date): Promise<DemoVisit> {
  const at = visitDay(visit, now);
  const visitId = await openAppointment(caller, appointmentKey(visit, now), at);
  return { visitId, patientId: keyOf(`patient ${visit.patient}`), at };
}

const picturesOf = (clinicId: string, where: string, ...values: unknown[]): Promise<string[]> =>
  inClinic(clinicId, async (tx) =>
    (await tx.sql<{ picture_id: string }>(`select picture_id from picture ${where}`, ...values)).map(
      (row) => row.picture_id
    )
  );

/** What is told of some of the visits, by the clinician. */
async function addStories(caller: Caller, visits: readonly Dated[], now: Date): Promise<void> {
  const clinician = {
    ...caller,
    userId: keyOf('user orsin'),
    role: 'clinician' as const,
    name: 'Orsin Vael'
  };
  for (const visit of visits) {
    const { visitId } = await openDated(clinician, visit, now);
    for (const [part, body] of Object.entries(visit.story!))
      await writeStory(clinician, visitId, keyOf(`story ${visitId} ${part}`), {
        part: part as StoryText,
        body
      });
    for (const letter of visit.letters ?? []) {
      const bytes = await letterPdf(
        letter,
        dayInWords(visitDay(visit, now), { timeZone, language: plainLanguage })
      );
      await addPaper(clinician, {
        visitId,
        fileName: letter.fileName,
        key: keyOf(`paper ${visitId} ${letter.fileName}`),
        body: (async function* () {
          yield bytes;
        })()
      });
    }
  }
}

/** One parcel to a place that lets nobody in: what trouble looks like. */
async function sendInVain(caller: Caller, visit: Dated, now: Date): Promise<void> {
  const { visitId } = await openDated(caller, visit, now);
  await sendParcel(caller, visitId, keyOf('parcel in vain'), {
    destinationId: keyOf('destination locked'),
    identity: 'identified',
    pictureIds: await picturesOf(caller.clinicId, 'where visit_id = $1', visitId)
  });
}

/** Beside the archives: a folder that others share, and a colleague who gets mail. What was changed of them since stays. */
async function addDestinations(
  tx: Tx,
  { claimsUrl, filmPort }: Pick<DemoWish, 'claimsUrl' | 'filmPort'>
): Promise<void> {
  const [shared] = (process.env.YONDER_SHARED_FOLDERS ?? '').split(path.delimiter).filter(Boolean);
  const [, , teaching] = await LeavingRuleRow.findAll({ order: [['position', 'asc']], ...within(tx) });
  const all: [key: string, name: string, settings: DestinationSettings][] = [
    ...(shared
      ? [
          [
            'destination harbour',
            'Harbour bench',
            {
              ...plainDestination({ kind: 'folder', folder: path.join(shared, 'harbour') }),
              packing: { ...plainPacking, format: 'package', drawings: 'beside' }
            }
          ] as [string, string, DestinationSettings]
        ]
      : []),
    [
      'destination mail',
      'Dr. Brackwater by mail',
      {
        ...plainDestination({ kind: 'mail', to: 'brackwater@mainland.example' }),
        identity: 'deidentified',
        ruleId: teaching?.ruleId ?? null,
        packing: { ...plainPacking, format: 'jpeg', names: '{who} {what} {n}' },
        words: {
          fresh: 'A new patient for you. Who it is I tell you by telephone.',
          known: 'More of a patient you have seen pictures of before.'
        }
      }
    ],
    ...(claimsUrl
      ? [
          [
            'destination claims',
            'Mutual of the Isles, claims',
            {
              ...plainDestination({ kind: 'claims', url: claimsUrl, token: '' }),
              packing: { ...plainPacking, format: 'jpeg' }
            }
          ] as [string, string, DestinationSettings]
        ]
      : []),
    ...(filmPort
      ? [
          [
            'destination film',
            'Film printer, back office',
            plainDestination({
              kind: 'film',
              host: '127.0.0.1',
              port: filmPort,
              called: 'FILMS',
              calling: 'YONDER',
              sizes: ['14INX17IN', '10INX12IN', 'A4'],
              medium: 'CLEAR FILM',
              colour: false
            })
          ] as [string, string, DestinationSettings]
        ]
      : [])
  ];
  for (const [key, name, settings] of all)
    await Destination.findOrCreate({
      where: { destinationId: keyOf(key) },
      defaults: {
        destinationId: keyOf(key),
        clinicId: tx.clinicId,
        name,
        kind: settings.address.kind,
        url: '',
        settings: { version: destinationSettings.version, body: settings }
      },
      ...within(tx)
    });
}

interface DemoWish {
  archiveUrl: string;
  /** Of the practice system, where there is one. */
  practiceUrl?: string;
  /** Of the claims office, where there is one. */
  claimsUrl?: string;
  /** Of the film printer, where there is one. */
  filmPort?: number;
  enrolmentCode: string;
  now: Date;
  say: (words: string) => void;
  /** The earlier visits to make; all unless said otherwise. */
  past?: readonly PastVisit[];
  rooms?: readonly RoomVisit[];
  /** Whether a visit that is opened gets its device ready at once. */
  opensArmed?: boolean;
  /** Where discs lie that the server may read; without it nothing waits in Arrivals. */
  discs?: string;
  /** A folder where rendered pictures are kept for the next demo that is built. */
  renderedIn?: string;
}

/** Builds the demo clinic, or what is still missing of it, and the appointments of today and tomorrow. */
export async function buildDemo(ownerUrl: string, wish: DemoWish): Promise<void> {
  const teeth = wish.past ?? past;
  const rooms = wish.rooms ?? (wish.past ? [] : roomVisits);
  const clinicId = keyOf('clinic');
  const caller: Caller & By = {
    userId: keyOf('user mara'),
    session: '',
    system: 'demo',
    clinicId,
    role: 'assistant',
    name: 'Mara Fennick',
    clinicName: 'Quill Sound Community Clinic',
    notation: 'fdi',
    language: plainLanguage,
    timeZone
  };
  await addClinics(ownerUrl);
  await startQueue();
  try {
    await inClinic(clinicId, (tx) => addRecords(tx, wish, [...teeth, ...rooms]));
    await inClinic(keyOf('other clinic'), addOtherClinic);
    await letDevicesIn(ownerUrl, wish.enrolmentCode);
    if (await isMissingSome(clinicId, teeth, rooms)) {
      await addPictures(caller, wish, teeth, rooms);
      const told = rooms.filter(({ story }) => story);
      await addStories(caller, told, wish.now);
      if (wish.past === undefined) {
        await sendInVain(caller, inVain, wish.now);
        await addCases(caller, keyOf);
      }
    }
    if (wish.discs) await addWaiting(ownerUrl, caller, wish, wish.discs);
  } finally {
    await stopProcesses();
    await stopQueue();
    await closeDatabase();
  }
}

async function addRecords(
  tx: Tx,
  { archiveUrl, practiceUrl, claimsUrl, filmPort, now, opensArmed = true }: DemoWish,
  visits: readonly Dated[]
): Promise<void> {
  await seedClinic(tx);
  await addPeople(tx, people, password);
  await addRooms(tx, clinicRooms, '', opensArmed);
  await addPatients(tx, patients);
  await Marker.bulkCreate(
    markers.map((marker) => ({ clinicId: tx.clinicId, markerId: keyOf(`marker ${marker.name}`), ...marker })),
    unlessThere(tx)
  );
  for (const [key, name, url] of [
    ['destination', 'Mainland archive', archiveUrl],
    ['destination locked', 'Teal Harbour specialist', `${archiveUrl}/locked`]
  ])
    await Destination.upsert({ destinationId: keyOf(key), clinicId: tx.clinicId, name, url }, within(tx));
  await addDestinations(tx, { claimsUrl, filmPort });
  if (practiceUrl)
    await tx.sql(
      `insert into practice_system (clinic_id, name, url) values ($1, $2, $3)
       on conflict (clinic_id) do update set name = excluded.name, url = excluded.url`,
      tx.clinicId,
      practiceName,
      practiceUrl
    );
  await addLetters(tx);
  await addCategories(tx);
  const today = dayOf(now, timeZone);
  await addDay(tx, today, day);
  await addDay(tx, dayAfter(today, 1), nextDay);
  await addPast(tx, visits, now);
}

/** Whom the clinic writes to, and what stands at the head of its papers. */
async function addLetters(tx: Tx): Promise<void> {
  const logo = await cleanLogo(fs.readFileSync('demo/logo.svg'));
  await tx.sql(
    'insert into letterhead (clinic_id, address, logo) values ($1, $2, $3) on conflict do nothing',
    tx.clinicId,
    clinicAddress,
    logo
  );
  for (const colleague of colleagues)
    await ColleagueRow.findOrCreate({
      where: { colleagueId: keyOf(`colleague ${colleague.name}`) },
      defaults: {
        clinicId: tx.clinicId,
        colleagueId: keyOf(`colleague ${colleague.name}`),
        ...colleague,
        destinationId: colleague.likes === 'folder' ? await harbourBench(tx) : null
      },
      ...within(tx)
    });
}

async function harbourBench(tx: Tx): Promise<string | null> {
  const row = await Destination.findByPk(keyOf('destination harbour'), within(tx));
  return row?.destinationId ?? null;
}

/** What pictures are filed under: one by hand, one by rule. */
async function addCategories(tx: Tx): Promise<void> {
  const categories: [string, CategoryRule | null][] = [
    ['Before treatment', null],
    ['Bitewings', categoryRuleSchema.parse({ views: ['bitewing'] })]
  ];
  for (const [place, [name, rule]] of categories.entries())
    await tx.sql(
      `insert into category (clinic_id, category_id, name, rule, place) values ($1, $2, $3, $4::jsonb, $5)
       on conflict do nothing`,
      tx.clinicId,
      keyOf(`category ${name}`),
      name,
      rule && JSON.stringify(rule),
      place
    );
}

async function addOtherClinic(tx: Tx): Promise<void> {
  await seedClinic(tx);
  await addPeople(tx, [{ signIn: 'tamsin', name: 'Tamsin Orrey', role: 'clinician' }], otherPassword);
  await addRooms(tx, [{ name: 'Room', trade: 'teeth' }], 'other ');
  await addPatients(tx, [otherClinic.patient]);
}

async function isMissingSome(
  clinicId: string,
  teeth: readonly PastVisit[],
  rooms: readonly RoomVisit[]
): Promise<boolean> {
  const made = await inClinic(clinicId, (tx) =>
    tx.one<{ count: number }>("select count(*)::int as count from arrival_key where key like 'demo %'")
  );
  const wanted =
    teeth.reduce((sum, visit) => sum + visit.series.shots.length, 0) +
    rooms.reduce((sum, visit) => sum + visit.pictures.length, 0);
  return made!.count < wanted;
}

/** What waits in Arrivals, and the folder that discs are read from. */
async function addWaiting(
  ownerUrl: string,
  caller: Caller & By,
  { now, say, renderedIn }: DemoWish,
  discs: string
): Promise<void> {
  await asOwner(ownerUrl, async (owner) => {
    await owner.query(
      `update clinic set read_folders = array[$2] where clinic_id = $1 and read_folders = '{}'`,
      [caller.clinicId, discs]
    );
  });
  say('Making what waits in Arrivals.');
  const pool = new RenderPool(availableParallelism(), renderedIn);
  await addArrivals({
    caller,
    userOf: (signIn) => keyOf(`user ${signIn}`),
    roomOf: (name) => keyOf(`room ${name}`),
    pool,
    discs,
    now
  });
  await pool.stop();
}

async function addPictures(
  caller: Caller,
  { now, say, renderedIn }: DemoWish,
  teeth: readonly PastVisit[],
  rooms: readonly RoomVisit[]
): Promise<void> {
  const pool = new RenderPool(availableParallelism(), renderedIn);
  // All pictures are rendered while the first are stored already, the longest ones first.
  const finishes: (() => Promise<void>)[] = [];
  for (const visit of rooms)
    finishes.push(await beginRoom(caller, pool, await openDated(caller, visit, now), visit));
  for (const [i, visit] of teeth.entries()) {
    const opened = await openDated(caller, visit, now);
    const wish = { ...visit.series, confirmedBy: visit.confirmed ? keyOf('user orsin') : null };
    finishes.push(await beginSeries(caller, pool, { ...opened, seed: 1000 * (i + 1) }, wish));
  }
  for (const [i, finish] of finishes.entries()) {
    say(`Making the demo clinic: visit ${i + 1} of ${finishes.length}.`);
    await finish();
  }
  await pool.stop();
  say('Making small pictures of them.');
  for (const pictureId of await picturesOf(caller.clinicId, ''))
    await settlePicture(caller.clinicId, pictureId);
}
