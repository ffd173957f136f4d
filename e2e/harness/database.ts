import pg from 'pg';
import { inject } from 'vitest';
import { databaseUrls, ensureDatabase } from '../../scripts/cluster.mjs';
import { migrate } from '../../src/lib/server/database/migrate';
import { startQueue, stopQueue } from '../../src/lib/server/jobs/boss';
import type { ClusterForTests } from './clusterSetup';

let counter = 0;
/** The tables of today and the queue's own, made once for a cluster; what tests work on are copies of it. */
const ready = 'ready_to_copy';
const readyLock = 7202;

/** A new, empty database with the tables of today, in the tests' cluster. */
export async function freshDatabase(
  cluster: ClusterForTests = inject('cluster')
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
    // Whoever comes first makes it; the others wait. Nobody may be connected to what is copied.
    await server.query('select pg_advisory_lock($1)', [readyLock]);
    const { rowCount } = await server.query('select 1 from pg_database where datname = $1', [ready]);
    if (rowCount === 0) await makeReady(cluster, server);
    await server.query(`create database ${options.database} template ${ready}`);
  } finally {
    await server.end();
  }
  await ensureDatabase(options);
  const urls = databaseUrls(options);
  process.env.QUEUE_DATABASE_URL = urls.QUEUE_DATABASE_URL;
  return urls;
}

async function makeReady(cluster: ClusterForTests, server: pg.Client): Promise<void> {
  const making = { ...cluster, database: `${ready}_soon` };
  await ensureDatabase(making);
  const urls = databaseUrls(making);
  await migrate(urls.OWNER_DATABASE_URL);
  process.env.QUEUE_DATABASE_URL = urls.QUEUE_DATABASE_URL;
  await startQueue();
  await stopQueue();
  await server.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [
    making.database
  ]);
  await server.query(`alter database ${making.database} rename to ${ready}`);
}
