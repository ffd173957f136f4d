import pg from 'pg';
import { inject } from 'vitest';
import { databaseUrls, ensureDatabase } from '../../scripts/cluster.mjs';
import { migrate } from '../../src/lib/server/database/migrate';
import { startQueue, stopQueue } from '../../src/lib/server/jobs/boss';
import type { ClusterForTests } from './clusterSetup';

let counter = 0;
/** The tables of today and the queue's own, made once for a cluster; what tests work on are copies of it. */
const ready = 'ready_to_copy';

/** What databases are copied of: made by whoever wants it first, the others wait. */
interface Template {
  name: string;
  /** The one that it begins as; none for an empty one. */
  of?: string;
  make: (urls: ReturnType<typeof databaseUrls>) => Promise<void>;
}
const readyTemplate: Template = {
  name: ready,
  async make(urls) {
    await migrate(urls.OWNER_DATABASE_URL);
    process.env.QUEUE_DATABASE_URL = urls.QUEUE_DATABASE_URL;
    await startQueue();
    await stopQueue();
  }
};

/** A new database with the tables of today, in the tests' cluster: empty, or with what a template of them has. */
export async function freshDatabase(
  cluster: ClusterForTests = inject('cluster'),
  filled?: Omit<Template, 'of'>
): Promise<ReturnType<typeof databaseUrls>> {
  const options = { ...cluster, database: `t${process.pid}_${Date.now()}_${++counter}` };
  const server = new pg.Client({
    host: '127.0.0.1',
    port: cluster.port,
    user: 'yonder_owner',
    password: cluster.ownerPassword,
    database: 'postgres'
  });
  await server.connect();
  try {
    await made(cluster, server, readyTemplate);
    if (filled) await made(cluster, server, { ...filled, of: ready });
    await copied(server, filled?.name ?? ready, options.database);
  } finally {
    await server.end();
  }
  await ensureDatabase(options);
  const urls = databaseUrls(options);
  process.env.QUEUE_DATABASE_URL = urls.QUEUE_DATABASE_URL;
  return urls;
}

/** Two copies at once of one database would disturb each other. */
async function copied(server: pg.Client, from: string, to: string): Promise<void> {
  await locked(server, from, () => server.query(`create database ${to} template ${from}`));
}

async function locked<T>(server: pg.Client, what: string, work: () => Promise<T>): Promise<T> {
  await server.query('select pg_advisory_lock(hashtext($1))', [what]);
  try {
    return await work();
  } finally {
    await server.query('select pg_advisory_unlock(hashtext($1))', [what]);
  }
}

/** Makes a template where there is none; nobody may be connected to what is copied. */
function made(cluster: ClusterForTests, server: pg.Client, { name, of, make }: Template): Promise<void> {
  return locked(server, `making ${name}`, async () => {
    const { rowCount } = await server.query('select 1 from pg_database where datname = $1', [name]);
    if (rowCount) return;
    const making = { ...cluster, database: `${name}_soon` };
    if (of) await copied(server, of, making.database);
    await ensureDatabase(making);
    await make(databaseUrls(making));
    await server.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [
      making.database
    ]);
    await server.query(`alter database ${making.database} rename to ${name}`);
  });
}
