import type { ArrivalSource } from '../../core/arrivals/arrivalView';
import type { Tx } from '../database/connection';

export interface ArrivalRow {
  /** How many pictures have become its frames; only asked for where a bundle is looked through. */
  parts?: number;
  arrival_id: string;
  source: ArrivalSource;
  from_name: string;
  room_id: string | null;
  room: string | null;
  user_id: string | null;
  original_sha256: Buffer;
  file_name: string;
  title: string;
  remark: string;
  about: unknown;
  reason: string;
  taken_at: Date;
  arrived_at: Date;
  given_to: string | null;
  put_away_at: Date | null;
  bundle_id: string;
  bundle_key: string;
  intake_id: string | null;
  /** Of one that was taken out of a chart: the picture that it is. */
  picture_id: string | null;
}

const columns = `a.arrival_id, a.source, a.from_name, a.room_id, r.name as room, a.user_id, a.original_sha256, a.file_name, a.title,
  a.remark, a.about, a.reason, a.taken_at, a.arrived_at, a.given_to, a.put_away_at, a.bundle_id, a.bundle_key, a.intake_id, a.picture_id
  from arrival a left join room r using (room_id)`;
const waiting = 'a.given_to is null and a.part_of is null';

/** What an intake brought that waits still, as it came. */
export const waitingOfIntake = (tx: Tx, intakeId: string): Promise<ArrivalRow[]> =>
  tx.sql(
    `select ${columns} where a.clinic_id = $1 and a.intake_id = $2 and ${waiting} order by a.arrived_at, a.arrival_id`,
    tx.clinicId,
    intakeId
  );

/** A bundle's, without the long list of attributes that each file has. */
export const bundleRows = (tx: Tx, bundleId: string, limit: number): Promise<ArrivalRow[]> =>
  tx.sql(
    `select ${columns.replace(
      'a.about,',
      `a.about #- '{origin,fileAttributes}' as about,
       (select count(*)::int from arrival p where p.part_of = a.arrival_id and p.about->>'kind' <> 'video') as parts,`
    )}
     where a.clinic_id = $1 and a.bundle_id = $2 and ${waiting} limit $3`,
    tx.clinicId,
    bundleId,
    limit
  );

export type BundleRow = ArrivalRow & {
  count: number;
  papers: number;
  away: boolean;
  came: Date;
  address: string | null;
  subject: string | null;
  note: string | null;
  for_user: string | null;
  unknown_sender: boolean | null;
};

/** What lies together, each told by its first: what waits before what was put away, unknown senders last, the newest first. */
export const bundlesWaiting = (tx: Tx, limit: number): Promise<BundleRow[]> =>
  tx.sql(
    `with w as (select * from arrival a where a.clinic_id = $1 and ${waiting}),
       b as (select bundle_id, count(*)::int as count, count(*) filter (where about->>'kind' = 'paper')::int as papers,
         bool_and(put_away_at is not null) as away,
         max(arrived_at) as came from w group by bundle_id),
       f as (select distinct on (bundle_id) * from w
         order by bundle_id, about->>'kind' = 'paper', (about->'says'->'series'->>'number')::numeric nulls last,
           (about->'says'->'instance'->>'number')::numeric nulls last, file_name, arrival_id)
     select f.arrival_id, f.source, f.from_name, f.room_id, r.name as room, f.user_id, f.original_sha256, f.file_name,
       f.title, f.remark, f.about #- '{origin,fileAttributes}' as about, f.reason, f.taken_at, f.arrived_at, f.given_to,
       f.put_away_at, f.bundle_id, f.bundle_key, f.intake_id, f.picture_id, b.count, b.papers, b.away, b.came,
       i.address, i.subject, i.note, i.for_user, i.unknown_sender
     from f join b using (bundle_id) left join room r using (room_id) left join intake i using (intake_id)
     order by b.away, coalesce(i.unknown_sender, false), b.came desc, f.arrival_id desc limit $2`,
    tx.clinicId,
    limit
  );

export const arrivalRow = (tx: Tx, arrivalId: string, hold = false): Promise<ArrivalRow | undefined> =>
  tx.one(
    `select ${columns} where a.arrival_id = $1 and a.part_of is null ${hold ? 'for update of a' : ''}`,
    arrivalId
  );

/** Those of a list that still wait, held in the order of their numbers so that two who give never block one another. */
export const heldRows = (tx: Tx, arrivalIds: readonly string[]): Promise<ArrivalRow[]> =>
  tx.sql(
    `select ${columns} where a.arrival_id = any($1::uuid[]) and a.part_of is null
     order by a.arrival_id for update of a`,
    arrivalIds
  );

/** How much waits for an owner, how much of it was sent to one person, and who sent the latest. */
export async function waitingCount(
  tx: Tx,
  userId: string
): Promise<{ all: number; mine: number; latest: string | null }> {
  const row = await tx.one<{ all: number; mine: number; latest: string | null }>(
    `select count(*)::int as all, count(*) filter (where i.for_user = $2 and i.source = 'mail')::int as mine,
       (array_agg(a.from_name order by a.arrived_at desc))[1] as latest
     from arrival a left join intake i using (intake_id)
     where a.clinic_id = $1 and ${waiting} and a.put_away_at is null`,
    tx.clinicId,
    userId
  );
  return row!;
}

/** The bundle that something of an intake with this key lies in already. */
export async function bundleOfKey(tx: Tx, intakeId: string, key: string): Promise<string | null> {
  // Two files of one study that come at one moment make one bundle.
  await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 2))', `${intakeId} ${key}`);
  const row = await tx.one<{ bundle_id: string }>(
    'select bundle_id from arrival where clinic_id = $1 and intake_id = $2 and bundle_key = $3 order by arrived_at limit 1',
    tx.clinicId,
    intakeId,
    key
  );
  return row?.bundle_id ?? null;
}

type New = Omit<ArrivalRow, 'room' | 'arrived_at' | 'given_to' | 'put_away_at' | 'picture_id'> & {
  key: string;
  picture_id?: string;
};

export async function insertArrival(tx: Tx, row: New): Promise<void> {
  await tx.sql(
    `insert into arrival (clinic_id, arrival_id, source, from_name, room_id, user_id, original_sha256, file_name, title, remark,
       about, reason, taken_at, bundle_id, bundle_key, intake_id, picture_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11::jsonb, $12, $13, $14, $15, $16, $17)`,
    tx.clinicId,
    row.arrival_id,
    row.source,
    row.from_name,
    row.room_id,
    row.user_id,
    row.original_sha256,
    row.file_name,
    row.title,
    row.remark,
    JSON.stringify(row.about),
    row.reason,
    row.taken_at,
    row.bundle_id,
    row.bundle_key,
    row.intake_id,
    row.picture_id ?? null
  );
  await tx.sql(
    'insert into arrival_key (clinic_id, key, picture_id) values ($1, $2, $3)',
    tx.clinicId,
    row.key,
    row.arrival_id
  );
}

export const shownOf = (tx: Tx, arrivalId: string): Promise<{ shown: Buffer | null } | undefined> =>
  tx.one('select shown from arrival where arrival_id = $1', arrivalId);

export const putShown = (tx: Tx, arrivalId: string, webp: Uint8Array): Promise<unknown> =>
  tx.sql('update arrival set shown = $2 where arrival_id = $1', arrivalId, Buffer.from(webp));

export const markGiven = (tx: Tx, arrivalId: string, visitId: string): Promise<unknown> =>
  tx.sql('update arrival set given_to = $2, put_away_at = null where arrival_id = $1', arrivalId, visitId);

export const markPutAway = (tx: Tx, arrivalIds: readonly string[], away: boolean): Promise<unknown> =>
  tx.sql(
    'update arrival set put_away_at = case when $2::boolean then now() end where arrival_id = any($1::uuid[])',
    arrivalIds,
    away
  );

/** Where the clinic has the same bytes or the same instance already: in somebody's chart, or waiting here. */
export async function hereAlready(
  tx: Tx,
  digest: Buffer,
  instanceUid: string | null
): Promise<{ where: 'chart' | 'bin' | 'arrivals' | 'put away'; whose: string } | null> {
  const picture = await tx.one<{ whose: string; away: string | null }>(
    `select trim(t.given_name || ' ' || t.family_name) as whose, p.away from picture p join patient t using (patient_id)
     where p.clinic_id = $1 and p.away is distinct from 'arrivals'
       and (p.original_sha256 = $2 or p.facts->>'instanceUid' = $3) order by p.away nulls first limit 1`,
    tx.clinicId,
    digest,
    instanceUid
  );
  if (picture) return { where: picture.away ? 'bin' : 'chart', whose: picture.whose };
  const arrival = await tx.one<{ away: boolean }>(
    `select a.put_away_at is not null as away from arrival a where a.clinic_id = $1 and a.given_to is null
       and (a.original_sha256 = $2 or a.about->'origin'->>'instanceUid' = $3) limit 1`,
    tx.clinicId,
    digest,
    instanceUid
  );
  return arrival ? { where: arrival.away ? 'put away' : 'arrivals', whose: '' } : null;
}

/** These lie behind another from now on: they are its frames, or the video that it was made of. */
export const markPartOf = (tx: Tx, arrivalId: string, parts: readonly string[]): Promise<unknown> =>
  tx.sql('update arrival set part_of = $1 where arrival_id = any($2::uuid[])', arrivalId, parts);
