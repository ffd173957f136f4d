/**
 * An outcome that a person can act on: what happened and why, and what to do. Anything else that is thrown is a bug.
 */
export class Problem extends Error {
  constructor(
    readonly code: string,
    /** What and why, one plain sentence. */
    readonly sentence: string,
    /** What to do next. */
    readonly next: string,
    readonly status = 400
  ) {
    super(sentence);
    this.name = 'Problem';
  }
}

export const notFound = (what: string): Problem =>
  new Problem(
    'not-found',
    `${what} is not in this clinic’s records.`,
    'Go back to Today and open it from there.',
    404
  );

export const signedOut = (): Problem =>
  new Problem('signed-out', 'You are not signed in, or the session is over.', 'Sign in again.', 401);

export const databaseUnreachable = (): Problem =>
  new Problem(
    'database-away',
    'The clinic’s records can’t be reached just now.',
    'Nothing is lost: devices keep their exposures and offer them again. This page goes on by itself when the records are back.',
    503
  );

const connectionCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08003'
]);

/** Somebody else works on the same thing for longer than anybody should have to wait. */
const busy = (): Problem =>
  new Problem(
    'busy',
    'Somebody else is changing the same thing just now, and it takes longer than it should.',
    'Nothing is lost. It is tried again by itself; if it stays so, tell an administrator.',
    503
  );

/** PostgreSQL's codes for a lock that was not had in time, a deadlock, and a statement that took too long. */
const busyCodes = new Set(['55P03', '40P01', '57014']);
const diskFullCodes = new Set(['53100', 'ENOSPC']);

const diskFull = (): Problem =>
  new Problem(
    'disk-full',
    'The disk that holds the clinic’s records is full.',
    'Nothing is lost: what you made waits and is kept as soon as there is room. Tell an administrator now.',
    503
  );

/** What an error of the database or the disk means to a person, where it means something; null for a bug. */
export function troubleInWords(error: unknown): Problem | null {
  for (
    let at = error as Caused | undefined, depth = 0;
    at && depth < 8;
    at = at.parent ?? at.cause, depth++
  ) {
    if (busyCodes.has(at.code ?? '')) return busy();
    if (diskFullCodes.has(at.code ?? '')) return diskFull();
  }
  return isDatabaseUnreachable(error) ? databaseUnreachable() : null;
}

interface Caused {
  code?: string;
  parent?: Caused;
  cause?: Caused;
}

/** Whether an error means that the database is away, wherever in its causes that is said. */
export function isDatabaseUnreachable(error: unknown): boolean {
  for (
    let at = error as { name?: string; code?: string; message?: string; cause?: unknown; parent?: unknown };
    at;
  ) {
    if (/^Sequelize(Connection|HostNotReachable|AccessDenied)/.test(at.name ?? '')) return true;
    if (at.code && connectionCodes.has(at.code)) return true;
    if (
      /Connection terminated|terminating connection|Client has encountered a connection error/.test(
        at.message ?? ''
      )
    ) {
      return true;
    }
    at = (at.parent ?? at.cause) as typeof at;
  }
  return false;
}
