import { inject } from 'vitest';
import { databaseUrls, ensureDatabase } from '../../scripts/cluster.mjs';
import type { ClusterForTests } from './clusterSetup';
import { migrate } from '../../src/lib/server/database/migrate';

let counter = 0;

/** A new, empty database with the tables of today, in the tests' cluster. */
export async function freshDatabase(
  cluster: ClusterForTests = inject('cluster')
): Promise<ReturnType<typeof databaseUrls>> {
  const options = { ...cluster, database: `t${process.pid}_${Date.now()}_${++counter}` };
  await ensureDatabase(options);
  const urls = databaseUrls(options);
  await migrate(urls.OWNER_DATABASE_URL);
  process.env.QUEUE_DATABASE_URL = urls.QUEUE_DATABASE_URL;
  return urls;
}
