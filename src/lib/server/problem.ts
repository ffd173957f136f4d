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

export const databaseAway = (): Problem =>
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

/** Whether an error means that the database is away, wherever in its causes that is said. */
export function meansDatabaseAway(error: unknown): boolean {
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
