import type { Place } from '../../core/anatomy/place';
import type { LayerStep } from '../../core/picture/layerLog';
import type { PictureKind } from '../../core/picture/pictureView';
import type { Raster } from '../../core/raster/raster';
import type { Tx } from '../database/connection';

export interface PictureRow {
  picture_id: string;
  patient_id: string;
  visit_id: string;
  original_sha256: Buffer;
  media_type: string;
  file_name: string;
  source: 'device' | 'file';
  kind: PictureKind;
  width: number;
  height: number;
  channels: 1 | 3;
  bits_stored: number;
  sample_offset: number;
  frames: number;
  frame_ms: number | null;
  /** Bytes of the original. */
  original_size: number;
  facts: unknown;
  first_look: unknown;
  taken_at: Date;
  first_taken_at: Date | null;
  instance_uid: string;
  number: number;
  /** Where it lies; null for a picture that no tray holds. */
  tray_id: string | null;
  slot_id: string | null;
  /** The slot itself where no pattern has it. */
  own_slot: unknown;
  pattern_id: string | null;
  pattern_version: number | null;
  keeper: boolean | null;
  /** Whether it shows exactly what somebody linked it to, even nothing; else what its slot is for. */
  placed: boolean;
  /** Where it is when it is not in its chart. */
  away: 'bin' | 'arrivals' | null;
}

export const pictureColumns = `p.picture_id, p.patient_id, p.visit_id, p.original_sha256, p.media_type, p.file_name, p.source, p.kind,
  p.width, p.height, p.channels, p.bits_stored, p.sample_offset, p.frames, p.frame_ms, b.size::float8 as original_size,
  p.facts, p.first_look, p.taken_at, p.first_taken_at, p.instance_uid, p.number,
  s.tray_id, s.slot_id, s.slot as own_slot, s.pattern_id, s.pattern_version, s.keeper, p.placed, p.away`;

const columns = `${pictureColumns}
  from picture p join blob b on b.clinic_id = p.clinic_id and b.sha256 = p.original_sha256
  left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id`;

/** How the samples of one frame are stored. */
export const shapeOf = (row: PictureRow): Omit<Raster, 'data'> => ({
  width: row.width,
  height: row.height,
  channels: row.channels,
  bitsStored: row.bits_stored,
  offset: row.sample_offset
});

export const pictureById = (tx: Tx, pictureId: string): Promise<PictureRow | undefined> =>
  tx.one(`select ${columns} where p.picture_id = $1`, pictureId);

export const picturesOfVisit = (tx: Tx, visitId: string): Promise<PictureRow[]> =>
  tx.sql(`select ${columns} where p.visit_id = $1 and p.away is null order by p.number`, visitId);

/** Pictures that are in a chart, of whatever visits, in the order they are asked for. */
export async function picturesByIds(tx: Tx, ids: readonly string[]): Promise<PictureRow[]> {
  const rows = await tx.sql<PictureRow>(
    `select ${columns} where p.picture_id = any($1::uuid[]) and p.away is null`,
    ids
  );
  const byId = new Map(rows.map((row) => [row.picture_id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** A patient's pictures of other visits than this one on which a guide was done, newest first. */
export const picturesWithGuides = (
  tx: Tx,
  patientId: string,
  visitId: string,
  limit: number
): Promise<PictureRow[]> =>
  tx.sql(
    `select ${columns} where p.clinic_id = $1 and p.patient_id = $2 and p.away is null and p.visit_id <> $3
       and exists (select 1 from picture_step s where s.picture_id = p.picture_id and s.kind = 'guide')
     order by p.taken_at desc, p.picture_id desc limit $4`,
    tx.clinicId,
    patientId,
    visitId,
    limit
  );

/** Whether a picture `p` shows one of some places: by its links, or, of keepers, by its slot. `keys` is their parameter. */
export const showsOneOf = (keys: string): string => `exists (select 1 from picture_at a
  where a.clinic_id = p.clinic_id and a.picture_id = p.picture_id and a.place_key = any(${keys}::text[]))`;

/** What the slot is called that a picture lies in, by where it stands, `s`; null for one on the bench. */
export const slotName = `coalesce(s.slot->>'name', (select each->>'name' from pattern t, jsonb_array_elements(t.slots) each
  where t.clinic_id = s.clinic_id and t.pattern_id = s.pattern_id and t.version = s.pattern_version and each->>'id' = s.slot_id))`;

/** Keys of the places that a picture shows. */
export async function placeKeysOf(tx: Tx, pictureId: string): Promise<string[]> {
  const row = await tx.one<{ keys: string[] | null }>(
    `select case when p.placed
       then array(select place_key from picture_place where clinic_id = $1 and picture_id = $2)
       else (select place_keys from standing where clinic_id = $1 and picture_id = $2) end as keys
     from picture p where p.picture_id = $2`,
    tx.clinicId,
    pictureId
  );
  return row?.keys ?? [];
}

/** A patient's pictures that show one of some places, newest first, but for those of one visit where one is named. */
export const picturesAtPlaces = (
  tx: Tx,
  patientId: string,
  keys: readonly string[],
  most: number,
  exceptVisitId: string | null = null
): Promise<PictureRow[]> =>
  tx.sql(
    `select ${columns} where p.clinic_id = $1 and p.patient_id = $2 and p.away is null and ${showsOneOf('$3')}
       and ($4::uuid is null or p.visit_id <> $4::uuid)
     order by p.taken_at desc, p.picture_id desc limit $5`,
    tx.clinicId,
    patientId,
    keys,
    exceptVisitId,
    most
  );

/** Loops of a patient, or pictures that show no place anybody named, newest first. */
export const picturesBeside = (
  tx: Tx,
  patientId: string,
  which: 'loops' | 'no place',
  most: number
): Promise<PictureRow[]> =>
  tx.sql(
    `select ${columns} where p.clinic_id = $1 and p.patient_id = $2 and p.away is null and ${
      which === 'loops' ? 'p.frames > 1' : showsNoPlace
    } order by p.taken_at desc, p.picture_id desc limit $3`,
    tx.clinicId,
    patientId,
    most
  );
/** Whether nobody, and no slot, says what a picture `p` shows; `s` is where it stands. */
export const showsNoPlace = `(case when p.placed
  then not exists (select 1 from picture_place l where l.clinic_id = p.clinic_id and l.picture_id = p.picture_id)
  else s.slot_id is null end)`;

/** How many there are of each. */
export async function countBeside(tx: Tx, patientId: string): Promise<{ loops: number; noPlace: number }> {
  const row = await tx.one<{ loops: number; no_place: number }>(
    `select count(*) filter (where p.frames > 1)::int as loops, count(*) filter (where ${showsNoPlace})::int as no_place
     from picture p left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
     where p.clinic_id = $1 and p.patient_id = $2 and p.away is null`,
    tx.clinicId,
    patientId
  );
  return { loops: row?.loops ?? 0, noPlace: row?.no_place ?? 0 };
}

/** How many of a patient's pictures show each place, by links or slots, and when the newest of them was taken. */
export async function placesSeen(
  tx: Tx,
  patientId: string
): Promise<Record<string, { count: number; newest: string }>> {
  const rows = await tx.sql<{ key: string; count: number; newest: Date }>(
    `select place_key as key, count(*)::int as count, max(taken_at) as newest from picture_at
     where clinic_id = $1 and patient_id = $2 group by place_key`,
    tx.clinicId,
    patientId
  );
  return Object.fromEntries(
    rows.map(({ key, count, newest }) => [key, { count, newest: newest.toISOString() }])
  );
}

/** How many of them show each place. */
export const placeCounts = async (tx: Tx, patientId: string): Promise<Record<string, number>> =>
  Object.fromEntries(Object.entries(await placesSeen(tx, patientId)).map(([key, { count }]) => [key, count]));

export async function stepsOf(tx: Tx, pictureIds: readonly string[]): Promise<Map<string, LayerStep[]>> {
  const rows = await tx.sql<LayerStep & { picture_id: string }>(
    `select picture_id, seq, act, made_by as by, kind, item, version, body, undoes from picture_step
     where picture_id = any($1::uuid[]) order by picture_id, seq`,
    pictureIds
  );
  const byPicture = new Map<string, LayerStep[]>();
  for (const { picture_id, ...step } of rows) {
    const known = byPicture.get(picture_id);
    if (known) known.push(step);
    else byPicture.set(picture_id, [step]);
  }
  return byPicture;
}

export async function linksOf(tx: Tx, pictureIds: readonly string[]): Promise<Map<string, Place[]>> {
  const rows = await tx.sql<{ picture_id: string; place: Place }>(
    'select picture_id, place from picture_place where picture_id = any($1::uuid[]) order by place_key',
    pictureIds
  );
  const byPicture = new Map<string, Place[]>();
  for (const { picture_id, place } of rows)
    byPicture.set(picture_id, [...(byPicture.get(picture_id) ?? []), place]);
  return byPicture;
}

/** The picture that came with this key before, if any. One key, one picture, however often it is offered. */
export async function pictureOfKey(tx: Tx, key: string): Promise<string | null> {
  const row = await tx.one<{ picture_id: string }>('select picture_id from arrival_key where key = $1', key);
  return row?.picture_id ?? null;
}

/** Keeps others from storing under the same key until the transaction ends. */
export const holdKey = (tx: Tx, key: string): Promise<unknown> =>
  tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 1))', key);

export interface SameBefore {
  patient_id: string;
  patient_name: string;
  record_number: string;
  brought_at: Date;
  /** The same bytes; else the same instance by its UID. */
  same_file: boolean;
}

/** Pictures of the clinic with the same original, or that are the same instance by what their file says; the newest first. */
export const sameBefore = (tx: Tx, digest: Buffer, instanceUid: string | null): Promise<SameBefore[]> =>
  tx.sql(
    `select p.patient_id, trim(t.given_name || ' ' || t.family_name) as patient_name, t.record_number,
       p.stored_at as brought_at, p.original_sha256 = $2 as same_file
     from picture p join patient t using (patient_id)
     where p.clinic_id = $1 and p.away is null and (p.original_sha256 = $2 or p.facts->>'instanceUid' = $3)
     order by same_file desc, p.picture_id desc limit 20`,
    tx.clinicId,
    digest,
    instanceUid
  );

/** Holds a picture's log until the transaction ends. */
export const holdLog = (tx: Tx, pictureId: string): Promise<unknown> =>
  tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 0))', pictureId);

export type NewStep = Omit<LayerStep, 'seq'>;

/** @returns the number of the newest step */
export async function appendSteps(tx: Tx, pictureId: string, steps: readonly NewStep[]): Promise<number> {
  const row = await tx.one<{ seq: number }>(
    `with last as (select coalesce(max(seq), 0) as seq from picture_step where picture_id = $1),
       added as (insert into picture_step (clinic_id, picture_id, seq, act, made_by, kind, item, version, body, undoes)
         select $2, $1, last.seq + n, each->>'act', (each->>'by')::uuid, each->>'kind', each->>'item',
           (each->>'version')::int, nullif(each->'body', 'null'), (each->>'undoes')::int
         from last, jsonb_array_elements($3::jsonb) with ordinality as of (each, n) returning seq)
     select coalesce(max(seq), 0)::int as seq from added`,
    pictureId,
    tx.clinicId,
    JSON.stringify(steps)
  );
  return row!.seq;
}

/** When a picture was taken as somebody says; null for what its file or device said. */
export const putTaken = (tx: Tx, pictureId: string, at: string | null): Promise<unknown> =>
  tx.sql(
    `update picture set taken_at = coalesce($2::timestamptz, first_taken_at, taken_at),
       first_taken_at = case when $2::timestamptz is null then null else coalesce(first_taken_at, taken_at) end
     where picture_id = $1`,
    pictureId,
    at
  );
