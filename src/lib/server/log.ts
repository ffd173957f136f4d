import pino from 'pino';

/** Errors of the language itself, whose words name code and no data. */
const wordsAreSafe = new Set(['TypeError', 'ReferenceError']);
const mostCauses = 4;

export interface LoggedError {
  name: string;
  /** Only where it can't repeat what somebody entered or what stands in the records. */
  message?: string;
  code?: string;
  table?: string;
  constraint?: string;
  /** Where in the program, without the words in front. */
  at: string[];
  cause?: LoggedError;
}

/**
 * An error as a log may hold it: what kind, and where. Words of errors repeat values (a name in a statement, a text that
 * is no JSON), and what hangs on them holds whole pictures, so neither goes along.
 */
export function loggedError(error: unknown, depth = 0): LoggedError {
  if (!(error instanceof Error)) return { name: typeof error, at: [] };
  const { name, message, stack = '' } = error;
  const more = error as Error & Record<'code' | 'table' | 'constraint', unknown> & { parent?: unknown };
  const text = (value: unknown) => (typeof value === 'string' ? value.slice(0, 80) : undefined);
  const cause = more.parent ?? error.cause;
  return {
    name,
    message: wordsAreSafe.has(name) ? message.slice(0, 200) : undefined,
    code: text(more.code),
    table: text(more.table),
    constraint: text(more.constraint),
    at: stack
      .split('\n')
      .filter((line) => /^\s+at /.test(line))
      .slice(0, 12)
      .map((line) => line.trim()),
    cause: cause && depth < mostCauses ? loggedError(cause, depth + 1) : undefined
  };
}

export const log = pino({ base: undefined, serializers: { err: loggedError } });

/** What nobody caught ends the process, as it would anyway, but with nothing in the log that should not be there. */
export function endOnFaults(): void {
  const end = (error: unknown) => {
    log.fatal({ err: error }, 'ended by a fault');
    process.exit(1);
  };
  process.on('uncaughtException', end);
  process.on('unhandledRejection', end);
}
