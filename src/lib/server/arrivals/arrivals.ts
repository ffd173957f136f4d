import { z } from 'zod';
import type { ArrivalView, InFile, NearVisit } from '../../core/arrivals/arrivalView';
import { type Says, nameAsRead, nothingSaid } from '../../core/arrivals/says';
import { shownIn } from '../../core/arrivals/shows';
import { naturally } from '../../core/text';
import { dayInWords } from '../../core/time/clinicTime';
import type { Writing } from '../../core/time/language';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { readOrigin } from '../pictures/origin';
import { notFound } from '../problem';
import { visitsAround } from '../visits/visitList';
import { isPicture, readAbout, saysOfAbout } from './about';
import { type ArrivalRow, arrivalRow, bundleRows } from './queries';

const mostInBundle = 5_000;

const noPlaces = { name: '', places: [], why: [], lacks: null };

function viewOf(row: ArrivalRow, neighbours: readonly Says[], by: Writing): ArrivalView {
  const about = readAbout(row.about);
  const says = saysOfAbout(about) ?? nothingSaid;
  const taken = isPicture(about) ? about : null;
  return {
    arrivalId: row.arrival_id,
    bundleId: row.bundle_id,
    source: row.source,
    from: row.from_name,
    room: row.room,
    roomId: row.room_id,
    fileName: row.file_name,
    title: row.title,
    remark: row.remark,
    reason: row.reason,
    kind: about.kind,
    frames: isPicture(about) ? about.frames : about.pages,
    parts: row.parts ?? 0,
    takenAt: row.taken_at.toISOString(),
    dated: taken?.dated ?? false,
    arrivedAt: row.arrived_at.toISOString(),
    remarks: [...(taken ? readOrigin(taken.origin).remarks : []), ...dateRemarks(row, by)],
    inFile: inFileOf(row),
    series: says.series.description || (says.series.number === null ? '' : `Series ${says.series.number}`),
    shows: taken ? shownIn(says, row.file_name.split('/').at(-1) ?? '', neighbours) : noPlaces,
    putAway: row.put_away_at !== null
  };
}

const dayMs = 86_400_000;
/** A picture can't have been taken after it came. */
const dateRemarks = ({ taken_at, arrived_at }: ArrivalRow, by: Writing): string[] =>
  taken_at.getTime() > arrived_at.getTime() + dayMs / 2
    ? [`It says it was taken on ${dayInWords(taken_at, by)}, which is still to come. Put the date right.`]
    : [];

/** Whose the file says it is, as people read it. */
export function inFileOf(row: Pick<ArrivalRow, 'about'>): InFile | null {
  const about = readAbout(row.about);
  if (!isPicture(about)) return null;
  const { says, inFile } = about;
  if (!says) return inFile && { ...inFile, name: inFile.name.replaceAll('^', ' ').trim() };
  const { name, id, birthDate } = says.person;
  return name || id
    ? { name: nameAsRead(name), id, birthDate: birthDate || (inFile?.birthDate ?? '') }
    : null;
}

/** All of one bundle, in the order it is looked through: by series, then by where slices lie, then by number and name. */
export async function arrivalsOfBundle(caller: Caller, bundleId: string): Promise<ArrivalView[]> {
  await demand(caller, 'view charts', bundleId);
  return inClinic(caller.clinicId, async (tx) => {
    const known = z.uuid().safeParse(bundleId).success;
    const rows = known ? inOrder(await bundleRows(tx, bundleId, mostInBundle)) : [];
    if (rows.length === 0) throw notFound('This bundle');
    const said = rows.flatMap(({ about }) => saysOfAbout(readAbout(about)) ?? []);
    const bySeries = new Map<string, Says[]>();
    for (const says of said) {
      const beside = bySeries.get(says.series.uid);
      if (beside) beside.push(says);
      else bySeries.set(says.series.uid, [says]);
    }
    return rows.map((row) => {
      const uid = saysOfAbout(readAbout(row.about))?.series.uid ?? '';
      return viewOf(row, uid === '' ? [] : (bySeries.get(uid) ?? []), caller);
    });
  });
}

function inOrder(rows: readonly ArrivalRow[]): ArrivalRow[] {
  const keyed = rows.map((row) => {
    const says = saysOfAbout(readAbout(row.about)) ?? nothingSaid;
    return { row, last: isPicture(readAbout(row.about)) ? 0 : 1, ...says };
  });
  return keyed
    .toSorted((a, b) => {
      if (a.last !== b.last) return a.last - b.last;
      if (a.series.uid !== b.series.uid)
        return (a.series.number ?? 0) - (b.series.number ?? 0) || (a.series.uid < b.series.uid ? -1 : 1);
      const [p, q] = [a.instance, b.instance];
      if (p.alongMm !== null && q.alongMm !== null && p.alongMm !== q.alongMm) return p.alongMm - q.alongMm;
      if (p.number !== null && q.number !== null && p.number !== q.number) return p.number - q.number;
      return naturally(a.row.file_name, b.row.file_name);
    })
    .map(({ row }) => row);
}

export async function found(tx: Tx, arrivalId: string, hold = false): Promise<ArrivalRow> {
  const row = z.uuid().safeParse(arrivalId).success ? await arrivalRow(tx, arrivalId, hold) : undefined;
  if (!row) throw notFound('This arrival');
  return row;
}

/** Whose it may be, by where its device stands and what went on there: never more than a proposal. */
export async function visitsNear(caller: Caller, arrivalId: string): Promise<NearVisit[]> {
  await demand(caller, 'view charts', arrivalId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await found(tx, arrivalId);
    return row.room_id ? visitsAround(tx, row.room_id, row.taken_at, caller.timeZone) : [];
  });
}
