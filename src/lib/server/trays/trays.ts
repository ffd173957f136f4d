import { z } from 'zod';
import { type TrayEvent, readTrayEvent } from '../../core/tray/events/all';
import { type NumberedEvent, liveEvents, needsWholeLog } from '../../core/tray/log';
import type { PatternBook } from '../../core/tray/pattern';
import { fold, reduce } from '../../core/tray/reduce';
import { changedStanding, standingOf } from '../../core/tray/standing';
import { type Tray, emptyTray } from '../../core/tray/tray';
import type { TrayView } from '../../core/visit/visitView';
import { type By, writeAudit } from '../audit/write';
import type { Tx } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { Unreadable } from '../../core/versioned';
import { Problem, notFound } from '../problem';
import { alignDevices } from '../devices/arming';
import { bookFor } from './patterns';
import {
  type EventRow,
  type TrayRow,
  eventsOf,
  insertEvents,
  insertTray,
  putStanding,
  trayRow,
  traysBehind,
  traysOf
} from './queries';

/** Who does something: a user, or a device, which is none. */
export interface Actor {
  name: string;
  userId: string | null;
}

export interface StoredTray {
  trayId: string;
  visitId: string;
  number: number;
  seq: number;
  tray: Tray;
  /** Its events as they are stored, those that were taken back too. */
  log: LoggedEvent[];
  /** The patterns that its events name. */
  book: PatternBook;
  /** How many events could not be read, where it is only looked at. */
  unread?: number;
}

/** An event with who did it, and in which act. */
export interface LoggedEvent extends NumberedEvent {
  userId: string | null;
  act: string | null;
}

/** @throws Unreadable for an event that this program can't read */
export async function readEvents(
  tx: Tx,
  rows: readonly Omit<EventRow, 'tray_id'>[]
): Promise<{ log: LoggedEvent[]; book: PatternBook }> {
  const log = rows.map((row) => ({
    seq: row.seq,
    event: readTrayEvent(row),
    userId: row.user_id ?? null,
    act: row.act ?? null
  }));
  return {
    log,
    book: await bookOfEvents(
      tx,
      log.map(({ event }) => event)
    )
  };
}

function bookOfEvents(tx: Tx, events: readonly TrayEvent[]): Promise<PatternBook> {
  const laid = events.flatMap((event) => (event.kind === 'tray-laid' ? [event] : []));
  return bookFor(tx, {
    patterns: laid.map((event) => event.pattern),
    routes: laid.map((event) => event.route)
  });
}

/** Trays to be looked at: what can be read of them, and how much can't. */
async function readable(tx: Tx, rows: readonly TrayRow[]): Promise<StoredTray[]> {
  const all = await eventsOf(
    tx,
    rows.map((row) => row.tray_id)
  );
  const unread = new Map<string, number>();
  const read = all.filter((row) => {
    try {
      readTrayEvent(row);
      return true;
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      unread.set(row.tray_id, (unread.get(row.tray_id) ?? 0) + 1);
      return false;
    }
  });
  const trays = await folded(tx, rows, read);
  return trays.map((tray) => ({ ...tray, unread: unread.get(tray.trayId) ?? 0 }));
}

/** @throws Problem in words: nobody adds to a tray of which something is not known */
async function whole(tx: Tx, row: TrayRow): Promise<StoredTray> {
  try {
    const [tray] = await folded(tx, [row], await eventsOf(tx, [row.tray_id]));
    return tray;
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    throw new Problem(
      'unreadable-tray',
      'This tray holds something that this program can’t read, so nothing can be added to it.',
      'Begin another tray for this visit, and tell an administrator.',
      409
    );
  }
}

async function folded(
  tx: Tx,
  rows: readonly TrayRow[],
  eventRows: readonly EventRow[]
): Promise<StoredTray[]> {
  const { log, book } = await readEvents(tx, eventRows);
  return rows.map((row) => {
    const ofTray = log.filter((_, i) => eventRows[i].tray_id === row.tray_id);
    return {
      trayId: row.tray_id,
      visitId: row.visit_id,
      number: row.number,
      seq: ofTray.at(-1)?.seq ?? 0,
      tray: fold(liveEvents(ofTray), book),
      log: ofTray,
      book
    };
  });
}

/** The trays of visits as their events make them, in four questions however many they are. */
export async function traysOfVisits(tx: Tx, visitIds: readonly string[]): Promise<StoredTray[]> {
  return readable(tx, await traysOf(tx, visitIds));
}

/** One tray; held, so that nobody else adds events until the transaction ends. */
export async function heldTray(tx: Tx, trayId: string): Promise<StoredTray> {
  const row = z.uuid().safeParse(trayId).success ? await trayRow(tx, trayId, true) : undefined;
  if (!row) throw notFound('This tray');
  return whole(tx, row);
}

/** Several trays, held in one order whoever asks, so that two never wait for one another for ever. */
export async function heldTrays(tx: Tx, trayIds: readonly string[]): Promise<Map<string, StoredTray>> {
  const held = new Map<string, StoredTray>();
  for (const id of [...new Set(trayIds)].toSorted()) held.set(id, await heldTray(tx, id));
  return held;
}

/** The visit's first tray, held. Every visit has one. */
export async function heldFirstTray(tx: Tx, visitId: string): Promise<StoredTray> {
  const [row] = z.uuid().safeParse(visitId).success ? await traysOf(tx, [visitId]) : [];
  if (!row) throw notFound('This visit');
  return heldTray(tx, row.tray_id);
}

export const trayView = ({ trayId, number, seq, tray, unread }: StoredTray): TrayView => ({
  trayId,
  number,
  seq,
  tray,
  unread
});

/**
 * Adds events to a tray that this transaction holds, notes where its takes lie now, and brings the devices that work for
 * it in line. Events that change nothing are not stored.
 */
export async function addToTray(
  tx: Tx,
  before: StoredTray,
  events: readonly TrayEvent[],
  by: Actor,
  options: { exposedBy?: string; act?: string } = {}
): Promise<StoredTray> {
  const lays = events.some((event) => event.kind === 'tray-laid');
  const book = lays
    ? await bookOfEvents(tx, [...before.log.map(({ event }) => event), ...events])
    : before.book;
  const act = options.act ?? null;
  let { tray } = before;
  const log = [...before.log];
  const effective: TrayEvent[] = [];
  for (const event of events) {
    const logged = { seq: before.seq + effective.length + 1, event, userId: by.userId, act };
    const next =
      event.kind === 'taken-back' ? fold(liveEvents([...log, logged]), book) : reduce(tray, event, book);
    if (next === tray) continue;
    tray = next;
    log.push(logged);
    effective.push(event);
  }
  const after = { ...before, book, tray, log, seq: before.seq + effective.length };
  if (effective.length > 0) {
    await insertEvents(tx, before.trayId, before.seq + 1, effective, by, act);
    await putStanding(tx, after, changedStanding(before.tray, tray));
  }
  if (effective.length > 0 || options.exposedBy) {
    await alignDevices(tx, before.trayId, tray, by.userId, options.exposedBy);
    await announce(tx, {
      topic: 'tray',
      visitId: before.visitId,
      trayId: before.trayId,
      seq: after.seq,
      events: effective.some(needsWholeLog) ? null : effective
    });
  }
  return after;
}

/** Lays another tray for a visit, empty. */
export async function makeTray(tx: Tx, visitId: string): Promise<StoredTray> {
  const trayId = newId();
  const number = await insertTray(tx, trayId, visitId);
  const book = await bookFor(tx, { patterns: [], routes: [] });
  return { trayId, visitId, number, seq: 0, tray: emptyTray, log: [], book };
}

/** What a person does to a tray: stored, in the audit, and told to whoever follows the visit. */
export async function changeTray(
  tx: Tx,
  before: StoredTray,
  events: readonly TrayEvent[],
  by: Actor & By,
  act?: string
): Promise<StoredTray> {
  const after = await addToTray(tx, before, events, by, { act });
  if (after.seq !== before.seq) {
    await writeAudit(tx, by, 'tray changed', before.visitId, {
      tray: before.number,
      events: events.map((event) => event.kind)
    });
  }
  return after;
}

/** Notes anew where takes lie, for trays where that is behind their events. */
export async function noteStandings(tx: Tx): Promise<number> {
  const behind = await traysBehind(tx);
  for (const each of await readable(tx, behind)) await putStanding(tx, each, standingOf(each.tray));
  return behind.length;
}
