import pg from 'pg';
import { QueryTypes, Sequelize, type Transaction, type TransactionOptions } from 'sequelize';
import { databaseUrl } from '../config';
import { Problem, troubleInWords } from '../problem';
import { defineModels } from './models';

/**
 * Nothing waits for the database for ever: a connection that died without a word, a lock that nobody lets go of, or a
 * transaction that was forgotten ends by itself, and whoever asked tries again. In milliseconds.
 */
const limits = {
  keepAlive: true,
  connectionTimeoutMillis: 7_000,
  lock_timeout: 8_000,
  idle_in_transaction_session_timeout: 12_000,
  statement_timeout: 25_000,
  query_timeout: 30_000
};

/**
 * A connection that the database ends with its very first words, as one that is being stopped does, ends alone: Sequelize
 * listens a moment too late, and what nobody hears would end the process.
 */
class HeardClient extends pg.Client {
  /** Sequelize's own mark of a connection that it gives to nobody any more. */
  _invalid = false;

  constructor(config: pg.ClientConfig) {
    super(config);
    this.on('error', () => (this._invalid = true));
  }
}

let pool: Sequelize | null = null;

/** A worker needs two or three; a web process that many people ask at once more. */
const mostConnections = () => Number(process.env.YONDER_CONNECTIONS ?? 12);

export function sequelize(): Sequelize {
  if (!pool) {
    pool = new Sequelize(databaseUrl(), {
      dialect: 'postgres',
      dialectModule: { ...pg, Client: HeardClient },
      logging: false,
      pool: { max: mostConnections(), min: 0, idle: 30_000, acquire: 10_000 },
      dialectOptions: limits,
      retry: { max: 0 },
      define: { underscored: true, timestamps: false }
    });
    defineModels(pool);
    beginInside(pool);
  }
  return pool;
}

/** Whose transaction it is, from before it has begun. */
interface Inside {
  clinicId?: string;
}

/**
 * A transaction begins inside its clinic's fence, in one message to the database: every act and every question has one,
 * and each message costs both sides about as much as a small question.
 */
function beginInside(on: Sequelize): void {
  const { queryGenerator } = on.getQueryInterface() as unknown as {
    queryGenerator: { startTransactionQuery(transaction: { options: Inside }): string };
  };
  const plain = queryGenerator.startTransactionQuery.bind(queryGenerator);
  queryGenerator.startTransactionQuery = (transaction) => {
    const { clinicId } = transaction.options;
    const begun = plain(transaction);
    return clinicId === undefined ? begun : `${begun} set local yonder.clinic_id = '${clinicId}';`;
  };
}

export async function closeDatabase(): Promise<void> {
  const closing = pool;
  pool = null;
  await closing?.close();
}

/** One transaction, inside the fence of one clinic. Whatever the services ask or write goes through it. */
export interface Tx {
  clinicId: string;
  transaction: Transaction;
  sql<Row extends object>(text: string, ...values: unknown[]): Promise<Row[]>;
  /** The first row, or undefined. */
  one<Row extends object>(text: string, ...values: unknown[]): Promise<Row | undefined>;
}

/** What a model's call needs to take part in a transaction. */
export const within = (tx: Tx): { transaction: Transaction } => ({ transaction: tx.transaction });

async function query<Row extends object>(
  text: string,
  values: unknown[],
  transaction: Transaction | undefined
): Promise<Row[]> {
  return sequelize().query<Row>(text, { bind: values, type: QueryTypes.SELECT, raw: true, transaction });
}

function txOf(clinicId: string, transaction: Transaction): Tx {
  return {
    clinicId,
    transaction,
    sql: (text, ...values) => query(text, values, transaction),
    one: async (text, ...values) => (await query<never>(text, values, transaction))[0]
  };
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Its number becomes part of a statement: nothing else is let in, and no connection taken for it. */
function inside(clinicId: string): TransactionOptions & Inside {
  if (!uuid.test(clinicId)) throw new Error('a clinic is told by a UUID');
  return { clinicId };
}

/**
 * Runs one act in a transaction that sees only one clinic's rows (row-level security reads the setting).
 * A database that is away becomes a Problem in words.
 */
export async function inClinic<T>(clinicId: string, act: (tx: Tx) => Promise<T>): Promise<T> {
  try {
    return await sequelize().transaction(inside(clinicId), async (transaction) =>
      act(txOf(clinicId, transaction))
    );
  } catch (error) {
    throw errorInWords(error);
  }
}

/** The same for an act that waits for something else before it may be committed; whoever begins it ends it. */
export const beginInClinic = async (clinicId: string): Promise<Tx> =>
  txOf(clinicId, await sequelize().transaction(inside(clinicId)));

/** For the few questions that come before a clinic is known; they go through functions that answer nothing else. */
export async function beforeClinic<Row extends object>(text: string, ...values: unknown[]): Promise<Row[]> {
  try {
    return await query<Row>(text, values, undefined);
  } catch (error) {
    throw errorInWords(error);
  }
}

export function errorInWords(error: unknown): unknown {
  if (error instanceof Problem) return error;
  return troubleInWords(error) ?? error;
}
