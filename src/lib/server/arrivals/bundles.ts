import { z } from 'zod';
import {
  type BundleView,
  type NearVisit,
  type PersonProposed,
  arrivalName
} from '../../core/arrivals/arrivalView';
import { nothingSaid } from '../../core/arrivals/says';
import { nameWords, otherForms } from '../../core/people/names';
import { type Candidate, type PersonSaid, whoseItMayBe } from '../../core/people/whose';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { withWords } from '../visits/finding';
import { allStanding } from '../visits/joining';
import { Patient } from '../visits/patientModel';
import { bandOf } from '../visits/visitHead';
import { visitsAround } from '../visits/visitList';
import { readAbout, saysOfAbout } from './about';
import { inFileOf } from './arrivals';
import { backToChart } from '../pictures/away';
import {
  type ArrivalRow,
  bundleRows,
  bundlesWaiting,
  heldRows,
  markGiven,
  markPutAway,
  waitingCount
} from './queries';

const mostBundles = 300;
const mostLooked = 5_000;

/** What lies on the sorting desk. */
export async function bundles(caller: Caller): Promise<BundleView[]> {
  await demand(caller, 'view charts', 'arrivals');
  return inClinic(caller.clinicId, async (tx) =>
    (await bundlesWaiting(tx, mostBundles)).map((row) => ({
      bundleId: row.bundle_id,
      source: row.source,
      from: row.from_name,
      address: row.address ?? '',
      room: row.room,
      name: arrivalName({ title: row.title, fileName: row.file_name, from: row.from_name }),
      inFile: inFileOf(row),
      count: row.count,
      papers: row.papers,
      firstId: row.arrival_id,
      firstKind: readAbout(row.about).kind,
      arrivedAt: row.came.toISOString(),
      intakeId: row.intake_id,
      subject: row.subject ?? '',
      note: row.note ?? '',
      forMe: row.for_user === caller.userId,
      unknownSender: row.unknown_sender ?? false,
      putAway: row.away
    }))
  );
}

/** How much waits, for the mark on every page. */
export const waitingFor = (caller: Caller): Promise<number> =>
  inClinic(caller.clinicId, async (tx) => (await waitingCount(tx, caller.userId)).all);

export interface WhoseBundle {
  proposed: PersonProposed[];
  /** One alone fits, by two things at least, and nothing contradicts it. */
  certain: boolean;
  /** Visits that went on where its device stands. */
  near: NearVisit[];
  /** What a new patient's chart would begin with. */
  said: PersonSaid;
}

/** Whose a bundle may be, with the reasons. Files of a bundle that name different people leave nothing certain. */
export async function whoseBundle(caller: Caller, bundleId: string): Promise<WhoseBundle> {
  await demand(caller, 'view charts', bundleId);
  return inClinic(caller.clinicId, async (tx) => {
    const rows = z.uuid().safeParse(bundleId).success ? await bundleRows(tx, bundleId, mostLooked) : [];
    if (rows.length === 0) throw notFound('This bundle');
    const [first] = rows;
    const near = first.room_id ? await visitsAround(tx, first.room_id, first.taken_at, caller.timeZone) : [];
    const said = rows.map(personOf);
    const [one] = said.filter(({ name, id }) => name || id);
    if (!one) return { proposed: [], certain: false, near, said: said[0] };
    const candidates = await candidatesFor(tx, one);
    const { list, certain } = whoseItMayBe(one, candidates, [caller.clinicName], caller.language);
    const several = said.some((each) => (each.name || each.id) && !sameSaid(each, one));
    const patients = await Patient.findAll({
      where: { patientId: list.map(({ patientId }) => patientId) },
      ...within(tx)
    });
    const byId = new Map(patients.map((patient) => [patient.patientId, patient]));
    return {
      proposed: list.map(({ patientId, for: speaks, against }) => ({
        patient: bandOf(byId.get(patientId)!),
        for: speaks,
        against
      })),
      certain: certain && !several,
      near,
      said: one
    };
  });
}

const sameSaid = (a: PersonSaid, b: PersonSaid): boolean =>
  a.name === b.name && a.id === b.id && a.birthDate === b.birthDate;

/** Whose a row says it is; of a mail or a phone nobody is told. */
function personOf(row: ArrivalRow): PersonSaid {
  const { person } = saysOfAbout(readAbout(row.about)) ?? nothingSaid;
  const { name, otherNames, id, issuer, birthDate, sex, owner } = person;
  return { name, otherNames, id, issuer, birthDate, sex, owner };
}

/** Patients who begin alike, were born the same day or have the number: few enough to be looked at closely. */
async function candidatesFor(tx: Tx, said: PersonSaid): Promise<Candidate[]> {
  const words = [said.name, ...said.otherNames].flatMap((name) => nameWords(name)).slice(0, 12);
  const start = (word: string) => word.slice(0, 3);
  const asked: string[][][] = [
    ...(said.id ? [[[nameWords(said.id).join('')]]] : []),
    ...words.filter((word) => word.length >= 2).map((word) => [[start(word), ...otherForms(word)]]),
    ...(said.birthDate ? [[[said.birthDate]]] : [])
  ];
  const byId = new Map<string, Patient>();
  for (const parts of asked)
    for (const patient of await withWords(tx, parts)) byId.set(patient.patientId, patient);
  const standing = await allStanding(tx, [...byId.values()]);
  const unique = [...new Map(standing.map((patient) => [patient.patientId, patient])).values()];
  const joined = await Patient.findAll({
    where: { joinedInto: unique.map(({ patientId }) => patientId) },
    ...within(tx)
  });
  return unique.map((patient) => ({
    ...(patient.get({ plain: true }) as unknown as Candidate),
    breed: patient.breed ?? null,
    formerly: joined
      .filter(({ joinedInto }) => joinedInto === patient.patientId)
      .map(({ givenName, familyName, recordNumber }) => ({ givenName, familyName, recordNumber }))
  }));
}

export const arrivalIdsWished = z.array(z.uuid()).min(1).max(5_000);

export const sortWish = z.discriminatedUnion('kind', [
  /** These lie in a bundle of their own from now on. */
  z.strictObject({ kind: z.literal('split'), arrivalIds: arrivalIdsWished }),
  /** All of one bundle lie with another. */
  z.strictObject({ kind: z.literal('join'), bundleId: z.uuid(), with: z.uuid() }),
  z.strictObject({ kind: z.literal('put-away'), arrivalIds: arrivalIdsWished }),
  z.strictObject({ kind: z.literal('bring-back'), arrivalIds: arrivalIdsWished }),
  /** What was taken out of a chart goes back into it, to where it lay. */
  z.strictObject({ kind: z.literal('to-chart'), arrivalIds: arrivalIdsWished }),
  /** A series that was made of numbered pictures is these pictures again. */
  z.strictObject({ kind: z.literal('singly'), arrivalIds: arrivalIdsWished }),
  z.strictObject({
    kind: z.literal('note'),
    arrivalIds: arrivalIdsWished,
    remark: z.string().trim().max(1_000)
  })
]);
export type SortWish = z.infer<typeof sortWish>;

/** What somebody does on the sorting desk, once for its key. */
export async function sortArrivals(
  caller: Caller,
  key: string,
  wish: SortWish
): Promise<{ bundleId: string }> {
  await demand(caller, 'bring in files', 'arrivals');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const bundleId = await sorted(tx, caller, wish);
      await announce(tx, { topic: 'arrivals' });
      return { bundleId };
    })
  );
}

async function sorted(tx: Tx, caller: Caller, wish: SortWish): Promise<string> {
  if (wish.kind === 'join') {
    const rows = await bundleRows(tx, wish.with, 1);
    if (rows.length === 0 || wish.bundleId === wish.with) throw notFound('This bundle');
    const moved = await tx.sql(
      `update arrival set bundle_id = $2 where clinic_id = $3 and bundle_id = $1 returning arrival_id`,
      wish.bundleId,
      wish.with,
      tx.clinicId
    );
    if (moved.length === 0) throw notFound('This bundle');
    await writeAudit(tx, caller, 'arrivals sorted', wish.with, { kind: 'join', pictures: moved.length });
    return wish.with;
  }
  const rows = await heldWaiting(tx, wish.arrivalIds);
  const held = rows.map(({ arrival_id }) => arrival_id);
  if (wish.kind === 'split') {
    const bundleId = newId();
    await tx.sql('update arrival set bundle_id = $1 where arrival_id = any($2::uuid[])', bundleId, held);
    await writeAudit(tx, caller, 'arrivals sorted', bundleId, { kind: 'split', pictures: held.length });
    return bundleId;
  }
  if (wish.kind === 'singly') {
    const single = await tx.sql(
      `update arrival p set part_of = null, bundle_id = w.bundle_id from arrival w
       where p.part_of = w.arrival_id and w.arrival_id = any($1::uuid[]) and p.about->>'kind' <> 'video'
       returning p.arrival_id`,
      held
    );
    if (single.length > 0) await markPutAway(tx, held, true);
    await writeAudit(tx, caller, 'arrivals sorted', held[0], { kind: 'singly', pictures: single.length });
    return rows[0].bundle_id;
  }
  if (wish.kind === 'to-chart') {
    await demand(caller, 'acquire', held[0]);
    const pictureIds = rows.flatMap(({ picture_id }) => picture_id ?? []);
    if (pictureIds.length !== rows.length) throw notFromChart();
    const visits = await backToChart(tx, caller, pictureIds);
    for (const row of rows) await markGiven(tx, row.arrival_id, visits.get(row.picture_id!)!);
    return rows[0].bundle_id;
  }
  if (wish.kind === 'note') {
    await tx.sql('update arrival set remark = $1 where arrival_id = any($2::uuid[])', wish.remark, held);
    return rows[0].bundle_id;
  }
  const away = wish.kind === 'put-away';
  await markPutAway(tx, held, away);
  if (away)
    for (const row of rows)
      await writeAudit(tx, caller, 'arrival put away', row.arrival_id, { from: row.from_name });
  return rows[0].bundle_id;
}

/** Those of a list, held; refused where one was given to somebody meanwhile. */
export async function heldWaiting(tx: Tx, arrivalIds: readonly string[]): Promise<ArrivalRow[]> {
  const rows = await heldRows(tx, arrivalIds);
  if (rows.length !== new Set(arrivalIds).size) throw notFound('One of these arrivals');
  if (rows.some(({ given_to }) => given_to)) throw givenAlready();
  return rows;
}

const notFromChart = () =>
  new Problem(
    'not-from-a-chart',
    'Not all of this was taken out of a chart.',
    'Give it to a visit instead.',
    409
  );

export const givenAlready = () =>
  new Problem(
    'given-already',
    'Somebody has given this to a visit in the meantime.',
    'Look for it in that patient’s chart.',
    409
  );
