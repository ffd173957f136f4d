import { inClinic } from '../database/connection';
import { log } from '../log';
import type { Caller } from '../people/caller';
import { Problem } from '../problem';
import { type AuditAct, type By, writeAudit } from './write';

interface Look {
  clinicId: string;
  by: By & { userId?: string };
  act: AuditAct;
  subject: string;
  details: Record<string, unknown>;
  patientId: string | null;
  count: number;
  /** When it was last added to, by the clock of this process. */
  at: number;
}

/** One and the same look, or refusal, is one line for so long. */
const sameLookMs = 5 * 60_000;
/** A line is written once nothing was added to it for so long: a search is typed letter by letter. */
const quietMs = 900;
const mostWaiting = 5_000;

const waiting = new Map<string, Look>();
const seen = new Map<string, number>();
let timer: NodeJS.Timeout | null = null;
let writing: Promise<void> = Promise.resolve();

/** A picture, a visit or a search that somebody looked at; written soon, beside the answer and not before it. */
export function noteLook(
  caller: Caller,
  act: AuditAct,
  subject: string,
  more: { patientId?: string | null; details?: Record<string, unknown>; key?: string } = {}
): void {
  const key = `${caller.session} ${act} ${more.key ?? subject}`;
  const now = Date.now();
  if (more.key === undefined) {
    if (now - (seen.get(key) ?? -Infinity) < sameLookMs) return;
    seen.set(key, now);
    if (seen.size > mostWaiting) for (const [old, at] of seen) if (now - at > sameLookMs) seen.delete(old);
  }
  note(key, {
    clinicId: caller.clinicId,
    by: { session: caller.session, userId: caller.userId },
    act,
    subject,
    details: more.details ?? {},
    patientId: more.patientId ?? null
  });
}

/** Something that was refused: of which clinic, to whom where that is known, and what. Many of one kind are one line. */
export function noteRefusal(clinicId: string, caller: Caller | null, subject: string, reason: string): void {
  note(`${clinicId} ${caller?.session ?? ''} ${subject} ${reason}`, {
    clinicId,
    by: caller ? { session: caller.session, userId: caller.userId } : { system: 'door' },
    act: 'refused',
    subject,
    details: { reason },
    patientId: null
  });
}

function note(key: string, look: Omit<Look, 'count' | 'at'>): void {
  const known = waiting.get(key);
  if (!known && waiting.size >= mostWaiting) return;
  waiting.set(key, { ...look, count: (known?.count ?? 0) + 1, at: Date.now() });
  timer ??= setInterval(() => void flushLooks(quietMs), quietMs);
  timer.unref();
}

/** Writes what nothing was added to for a while; all of it with 0. Never fails: what can't be written now waits. */
export function flushLooks(quiet = 0): Promise<void> {
  const due = [...waiting].filter(([, { at }]) => Date.now() - at >= quiet);
  for (const [key] of due) waiting.delete(key);
  writing = writing.then(async () => {
    for (const [key, look] of due) await written(key, look);
  });
  return writing;
}

async function written(key: string, look: Look): Promise<void> {
  const { clinicId, by, act, subject, details, patientId, count } = look;
  const more = { ...details, ...(count > 1 ? { times: count } : {}), patientId };
  const write = (who: By, extra: object) =>
    inClinic(clinicId, (tx) => writeAudit(tx, who, act, subject, { ...more, ...extra }));
  const isOver = (error: unknown) => error instanceof Problem && error.code === 'signed-out';
  try {
    await write(by, {}).catch((error: unknown) => {
      if (!isOver(error)) throw error;
      // The session ended meanwhile: the line says who it was.
      return write({ system: 'door' }, { user: by.userId });
    });
  } catch (error) {
    // The records are away or busy: it is written when they are back.
    if (error instanceof Problem) putBack(key, look);
    else log.error({ err: error }, 'a look could not be written');
  }
}

function putBack(key: string, look: Look): void {
  const since = waiting.get(key);
  waiting.set(key, since ? { ...since, count: since.count + look.count } : { ...look, at: Date.now() });
}

/** For the end of the process: nothing that was looked at is forgotten. */
export async function stopLooks(): Promise<void> {
  if (timer) clearInterval(timer);
  timer = null;
  await flushLooks();
}
