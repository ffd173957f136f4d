import PgBoss from 'pg-boss';
import { QueryTypes } from 'sequelize';
import { queueDatabaseUrl } from '../config';
import { type Tx, sequelize } from '../database/connection';
import { isDatabaseUnreachable } from '../problem';

export const queues = {
  deliver: 'deliver',
  pack: 'pack',
  settle: 'settle',
  advise: 'advise',
  file: 'file',
  shelve: 'shelve',
  tell: 'tell'
} as const;
/** A worker that was killed holds its job no longer than this; then another takes it. */
export const jobSeconds = Number(process.env.YONDER_JOB_SECONDS ?? 45);

let boss: PgBoss | null = null;

/** A database that is just being started again is waited for so long. */
const patienceMs = 60_000;
const askAgainMs = 400;

/**
 * Makes the queue's own tables, and the queues. Once per start; safe to repeat and to run in several processes.
 * @throws the database's own error where it stays away
 */
export async function startQueue(): Promise<PgBoss> {
  for (const until = Date.now() + patienceMs; ;) {
    try {
      return await started();
    } catch (error) {
      if (!isDatabaseUnreachable(error) || Date.now() > until) throw error;
      await new Promise((again) => setTimeout(again, askAgainMs));
    }
  }
}

async function started(): Promise<PgBoss> {
  const starting = new PgBoss({
    connectionString: queueDatabaseUrl(),
    schema: 'pgboss',
    max: 3,
    expireInSeconds: jobSeconds,
    retryLimit: 20,
    retryDelay: 2,
    maintenanceIntervalSeconds: 15,
    schedule: false
  });
  starting.on('error', () => {
    // The database is away; pg-boss tries again by itself.
  });
  try {
    await starting.start();
    await letJobsIn(starting);
  } catch (error) {
    await starting.stop({ graceful: false }).catch(() => {});
    throw error;
  }
  for (const name of Object.values(queues)) await starting.createQueue(name).catch(() => {});
  boss = starting;
  return starting;
}

/** The services put jobs in with their own transactions, and can neither read nor change those that are there. */
async function letJobsIn(starting: PgBoss): Promise<void> {
  const asked = `select has_column_privilege('yonder_app', 'pgboss.job', 'id', 'select') as may`;
  const { rows } = (await starting.getDb().executeSql(asked, [])) as { rows: { may: boolean }[] };
  if (rows[0].may) return;
  // Two processes that start at one moment both give the same.
  await starting.getDb().executeSql(
    `select pg_advisory_xact_lock(7304813); grant usage on schema pgboss to yonder_app;
       grant insert, select (id) on pgboss.job to yonder_app; grant select on pgboss.queue to yonder_app`,
    undefined as unknown as unknown[]
  );
}

export async function stopQueue(): Promise<void> {
  const stopping = boss;
  boss = null;
  await stopping?.stop({ graceful: true, timeout: 3000, wait: true }).catch(() => {});
}

/** Puts a job into the queue as part of a transaction: it exists when the act is committed, and only then. */
export async function enqueue(
  tx: Tx,
  queue: (typeof queues)[keyof typeof queues],
  data: object,
  options: { startAfterSeconds?: number; once?: string; expireInSeconds?: number } = {}
): Promise<void> {
  if (!boss) throw new Error('the queue was not started');
  await boss.send(queue, data, {
    startAfter: options.startAfterSeconds,
    singletonKey: options.once,
    ...(options.expireInSeconds ? { expireInSeconds: options.expireInSeconds } : {}),
    db: {
      executeSql: async (text: string, values: unknown[]) => {
        const rows = await sequelize().query(text, {
          bind: values.map((value) => value ?? null),
          type: QueryTypes.SELECT,
          transaction: tx.transaction
        });
        return { rows };
      }
    }
  });
}
