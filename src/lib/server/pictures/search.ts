import { z } from 'zod';
import type {
  FoundPicture,
  ListedPicture,
  PictureFacets,
  PictureSearch,
  Sorting
} from '../../core/picture/pictureSearch';
import { noteLook } from '../audit/looks';
import { type Tx, inClinic } from '../database/connection';
import { containing } from '../database/containing';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { categoriesOf } from './categoryQueries';
import { type PictureRow, pictureColumns, showsNoPlace, showsOneOf, slotName } from './queries';
import { viewsOf } from './views';

const foundAtOnce = 60;

/** One page of a list of pictures. */
export interface PicturePage {
  pictures: ListedPicture[];
  /** Where the next page begins; null where this is the last. */
  older: string | null;
}

type FoundRow = PictureRow & { by_name: string; taken_us: string; tray_number: number | null };

/** What a person calls a picture, as far as the records alone know it. */
const nameOf = `coalesce(nullif(p.told->>'name', ''), ${slotName}, nullif(p.file_name, ''), '')`;
const deviceOf = `coalesce(p.facts->>'from', '')`;
const gradeOf = `coalesce(p.told->>'grade', '')`;
const keepsViews = `(p.told->>'kept')::int > 0`;
const sortBy: Record<Exclude<Sorting, 'date'>, string> = {
  kind: 'p.kind',
  name: `lower(${nameOf})`,
  device: `lower(${deviceOf})`,
  grade: `array_position(array['diagnostic', 'limited', 'not diagnostic', ''], ${gradeOf})`,
  who: 'lower(p.by_name)'
};

/** The conditions of a search, but for places, with their values. `p` is the picture, `s` where it stands. */
function conditions(search: PictureSearch, value: (of: unknown) => string): string[] {
  const like = (text: string) => value(containing(text));
  const all = [
    search.kinds.length > 0 && `p.kind = any(${value(search.kinds)}::text[])`,
    search.from && `p.taken_at >= ${value(search.from)}::timestamptz`,
    search.until && `p.taken_at < ${value(search.until)}::timestamptz`,
    search.categoryId &&
      `exists (select 1 from picture_category c where c.clinic_id = p.clinic_id and c.picture_id = p.picture_id
         and c.category_id = ${value(search.categoryId)}::uuid and c.filed)`,
    search.device && `${deviceOf} = ${value(search.device)}`,
    search.who && `p.by_name = ${value(search.who)}`,
    // As the index has it, so that it is used.
    search.grade && `p.told->>'grade' = ${value(search.grade)}`,
    search.words &&
      `concat_ws(' ', p.told->>'name', p.told->>'words', p.file_name, ${slotName}) ilike ${like(search.words)}`,
    search.beside === 'loops' && 'p.frames > 1',
    search.beside === 'kept views' && keepsViews,
    search.beside === 'no place' && showsNoPlace
  ];
  return all.filter((each): each is string => typeof each === 'string' && each !== '');
}

/** Microseconds, as the records hold them: of many pictures of one moment none is left out between two pages. */
const cursorSchema = z.tuple([z.string().regex(/^-?\d{1,17}$/), z.uuid()]);

export function noSuchPage(): Problem {
  return new Problem('not-understood', 'There is no such page of pictures.', 'Open the chart again.', 400);
}

/**
 * One page of a patient's pictures, or of all the clinic's where none is named, as they are searched for. By date each
 * page begins after the last picture of the one before, however many there are; by anything else, which only a chart can
 * be sorted by, after so many.
 */
export async function searchPictures(
  tx: Tx,
  caller: Caller,
  patientId: string | null,
  search: PictureSearch,
  after: string | null,
  limit: number
): Promise<PicturePage> {
  const values: unknown[] = [tx.clinicId];
  const value = (of: unknown) => `$${values.push(of)}`;
  const byDate = search.sort === 'date' || patientId === null;
  const way = search.up ? 'asc' : 'desc';
  const where = [
    'p.clinic_id = $1',
    'p.away is null',
    ...(patientId ? [`p.patient_id = ${value(patientId)}`] : []),
    ...conditions(search, value)
  ];
  let offset = 0;
  /** After the last of the page before, of the table called so. */
  let later: ((of: string) => string) | null = null;
  if (after !== null && byDate) {
    const read = cursorSchema.safeParse(after.split('_'));
    if (!read.success) throw noSuchPage();
    const [at, id] = read.data;
    const last = `(timestamptz 'epoch' + ${value(at)}::bigint * interval '1 microsecond', ${value(id)}::uuid)`;
    later = (of) => `(${of}.taken_at, ${of}.picture_id) ${search.up ? '>' : '<'} ${last}`;
  } else if (after !== null) {
    offset = Number(after);
    if (!Number.isSafeInteger(offset) || offset < 0) throw noSuchPage();
  }
  const order = byDate
    ? `p.taken_at ${way}, p.picture_id ${way}`
    : `${sortBy[search.sort as Exclude<Sorting, 'date'>]} ${search.up ? 'asc' : 'desc'}, p.taken_at desc, p.picture_id desc`;
  const most = value(limit + 1);
  const condition = [...where, ...(later ? [later('p')] : [])];
  const from =
    search.places.length > 0 && byDate
      ? `(${atPlaces(search, patientId, value, later, way, most)}) f join picture p on p.clinic_id = $1 and p.picture_id = f.picture_id`
      : 'picture p';
  if (search.places.length > 0 && !byDate) condition.push(showsOneOf(value(search.places)));
  const rows = await tx.sql<FoundRow>(
    `select ${pictureColumns}, p.by_name, (extract(epoch from p.taken_at) * 1000000)::bigint::text as taken_us,
       (select t.number from tray t where t.tray_id = s.tray_id) as tray_number from ${from}
     join blob b on b.clinic_id = p.clinic_id and b.sha256 = p.original_sha256
     left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
     where ${condition.join(' and ')} order by ${order} limit ${most} offset ${value(offset)}`,
    ...values
  );
  const page = rows.slice(0, limit);
  const last = page.at(-1);
  const more = rows.length > limit && last;
  const next = byDate ? last && `${last.taken_us}_${last.picture_id}` : String(offset + limit);
  return { pictures: await listed(tx, caller, page), older: more ? next! : null };
}

/**
 * The newest pictures at each of some places, found along one stretch of an index each. What else is asked for is looked
 * at in what they find; where that throws away much, all of a place's pictures are looked through.
 */
function atPlaces(
  search: PictureSearch,
  patientId: string | null,
  value: (of: unknown) => string,
  later: ((of: string) => string) | null,
  way: string,
  most: string
): string {
  const throwsAway =
    search.categoryId || search.device || search.who || search.grade || search.words || search.beside;
  const kinds = search.kinds.length > 0 && patientId === null;
  const limits = [
    'a.clinic_id = $1',
    'a.place_key = k.key',
    ...(kinds ? ['a.kind = d.kind'] : []),
    ...(patientId ? [`a.patient_id = ${value(patientId)}`] : []),
    ...(search.from ? [`a.taken_at >= ${value(search.from)}::timestamptz`] : []),
    ...(search.until ? [`a.taken_at < ${value(search.until)}::timestamptz`] : []),
    ...(later ? [later('a')] : []),
    ...(!kinds && search.kinds.length > 0 ? [`a.kind = any(${value(search.kinds)}::text[])`] : [])
  ];
  return `select distinct each.picture_id from unnest(${value(search.places)}::text[]) k(key)
    ${kinds ? `cross join unnest(${value(search.kinds)}::text[]) d(kind)` : ''}
    cross join lateral (select a.picture_id from picture_at a where ${limits.join(' and ')}
      order by a.taken_at ${way}, a.picture_id ${way} ${throwsAway ? '' : `limit ${most}`}) each`;
}

/** Pictures of all charts of the clinic, with whose they are: what Find pictures shows. */
export async function findPictures(
  caller: Caller,
  search: PictureSearch,
  after: string | null
): Promise<{ pictures: FoundPicture[]; older: string | null }> {
  await demand(caller, 'view charts', 'pictures');
  return inClinic(caller.clinicId, async (tx) => {
    const { pictures, older } = await searchPictures(tx, caller, null, search, after, foundAtOnce);
    const rows = await tx.sql<{ patient_id: string; name: string; record_number: string }>(
      `select patient_id, trim(given_name || ' ' || family_name) as name, record_number from patient
       where patient_id = any($1::uuid[])`,
      [...new Set(pictures.map(({ patientId }) => patientId))]
    );
    const whose = new Map(rows.map((row) => [row.patient_id, row]));
    for (const { patient_id } of rows)
      noteLook(caller, 'searched', patient_id, { key: `pictures ${patient_id}`, patientId: patient_id });
    return {
      pictures: pictures.map((picture) => {
        const { name, record_number } = whose.get(picture.patientId)!;
        return { ...picture, patient: name, recordNumber: record_number };
      }),
      older
    };
  });
}

async function listed(tx: Tx, caller: Caller, rows: readonly FoundRow[]): Promise<ListedPicture[]> {
  const views = await viewsOf(tx, rows, caller.userId);
  const categories = await categoriesOf(
    tx,
    rows.map((row) => row.picture_id)
  );
  return views.map((view, i) => ({
    ...view,
    who: rows[i].by_name,
    trayNumber: rows[i].tray_number,
    categories: categories.get(view.pictureId) ?? []
  }));
}

/** What a patient's pictures can be limited to, counted over all of them. */
export async function facetsOf(tx: Tx, patientId: string): Promise<PictureFacets> {
  const rows = await tx.sql<{ what: keyof PictureFacets; value: string; count: number }>(
    `with own as (select p.picture_id, p.kind, ${deviceOf} as device, p.by_name as who, ${gradeOf} as grade,
         p.frames > 1 as loop, coalesce(${keepsViews}, false) as keeps, ${showsNoPlace} as nowhere
       from picture p left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id where p.clinic_id = $1 and p.patient_id = $2 and p.away is null)
     select case when grouping(kind) = 0 then 'kinds' when grouping(device) = 0 then 'devices'
         when grouping(who) = 0 then 'people' else 'grades' end as what,
       coalesce(kind, device, who, grade) as value, count(*)::int as count
     from own group by grouping sets (kind, device, who, grade)
     union all select 'categories', c.category_id::text, count(*)::int
       from own join picture_category c on c.clinic_id = $1 and c.picture_id = own.picture_id and c.filed group by 2
     union all select 'beside', v.name, v.count from (select count(*) filter (where loop)::int as loops,
         count(*) filter (where keeps)::int as keeps, count(*) filter (where nowhere)::int as nowhere from own) n
       cross join lateral (values ('loops', n.loops), ('kept views', n.keeps), ('no place', n.nowhere)) v(name, count)
       where v.count > 0`,
    tx.clinicId,
    patientId
  );
  const facets: PictureFacets = {
    kinds: {},
    devices: {},
    people: {},
    grades: {},
    categories: {},
    beside: {}
  };
  for (const { what, value, count } of rows)
    if (value !== '') (facets[what] as Record<string, number>)[value] = count;
  return facets;
}

/** How many of a patient's pictures a search finds. */
export async function countFound(tx: Tx, patientId: string, search: PictureSearch): Promise<number> {
  const values: unknown[] = [tx.clinicId, patientId];
  const value = (of: unknown) => `$${values.push(of)}`;
  const where = conditions(search, value);
  if (search.places.length > 0) where.push(showsOneOf(value(search.places)));
  const row = await tx.one<{ count: number }>(
    `select count(*)::int as count from picture p
     left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
     where p.clinic_id = $1 and p.patient_id = $2 and p.away is null ${where.map((each) => `and ${each}`).join(' ')}`,
    ...values
  );
  return row!.count;
}
