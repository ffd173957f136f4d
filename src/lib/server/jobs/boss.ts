import PgBoss from 'pg-boss';
import { QueryTypes } from 'sequelize';
import { databaseUrl } from '../config';
import { type Tx, sequelize } from '../database/connection';

export const queues = { deliver: 'deliver', settle: 'settle' } as const;
/** A worker that was killed holds its job no longer than this; then another takes it. */
export const jobSeconds = 45;

let boss: PgBoss | null = null;

/** Makes the queue's own tables, and the queues. Once per start; safe to repeat and to run in several processes. */
export async function startQueue(): Promise<PgBoss> {
  const starting = new PgBoss({
    connectionString: databaseUrl(),
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
  await starting.start();
  for (const name of Object.values(queues)) await starting.createQueue(name).catch(() => {});
  boss = starting;
  return starting;
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
  options: { startAfterSeconds?: number; once?: string } = {}
): Promise<void> {
  if (!boss) throw new Error('the queue was not started');
  await boss.send(queue, data, {
    startAfter: options.startAfterSeconds,
    singletonKey: options.once,
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
