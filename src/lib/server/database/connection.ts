import { QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { databaseUrl } from '../config';
import { Problem, databaseAway, meansDatabaseAway } from '../problem';

/**
 * Nothing waits for the database for ever: a connection that died without a word, a lock that nobody lets go of, or a
 * transaction that was forgotten ends by itself, and whoever asked tries again. In milliseconds.
 */
const limits = {
  keepAlive: true,
  connectionTimeoutMillis: 4_000,
  lock_timeout: 8_000,
  idle_in_transaction_session_timeout: 12_000,
  statement_timeout: 25_000,
  query_timeout: 30_000
};

let pool: Sequelize | null = null;

export function sequelize(): Sequelize {
  pool ??= new Sequelize(databaseUrl(), {
    dialect: 'postgres',
    logging: false,
    pool: { max: 12, min: 0, idle: 10_000, acquire: 8_000 },
    dialectOptions: limits,
    retry: { max: 0 }
  });
  return pool;
}

export async function closeDatabase(): Promise<void> {
  const closing = pool;
  pool = null;
  await closing?.close();
}

/** One transaction, inside the fence of one clinic. All SQL of the services goes through it. */
export interface Tx {
  clinicId: string;
  transaction: Transaction;
  sql<Row extends object>(text: string, ...values: unknown[]): Promise<Row[]>;
  /** The first row, or undefined. */
  one<Row extends object>(text: string, ...values: unknown[]): Promise<Row | undefined>;
}

async function query<Row extends object>(
  text: string,
  values: unknown[],
  transaction: Transaction | undefined
): Promise<Row[]> {
  return sequelize().query<Row>(text, { bind: values, type: QueryTypes.SELECT, raw: true, transaction });
}

/**
 * Runs one act in a transaction that sees only one clinic's rows (row-level security reads the setting).
 * A database that is away becomes a Problem in words.
 */
export async function inClinic<T>(clinicId: string, act: (tx: Tx) => Promise<T>): Promise<T> {
  try {
    return await sequelize().transaction(async (transaction) => {
      const tx: Tx = {
        clinicId,
        transaction,
        sql: (text, ...values) => query(text, values, transaction),
        one: async (text, ...values) => (await query<never>(text, values, transaction))[0]
      };
      await tx.sql(`select set_config('yonder.clinic_id', $1, true)`, clinicId);
      return act(tx);
    });
  } catch (error) {
    throw meantInWords(error);
  }
}

/** For the few questions that come before a clinic is known; they go through functions that answer nothing else. */
export async function beforeClinic<Row extends object>(text: string, ...values: unknown[]): Promise<Row[]> {
  try {
    return await query<Row>(text, values, undefined);
  } catch (error) {
    throw meantInWords(error);
  }
}

function meantInWords(error: unknown): unknown {
  if (error instanceof Problem) return error;
  return meansDatabaseAway(error) ? databaseAway() : error;
}
