import { spawnSync } from 'node:child_process';
import type { ClusterForTests } from '../e2e/harness/clusterSetup';
import { freshDatabase } from '../e2e/harness/database';
import type { Row } from './report';

const mostMs = 120_000;

/** The whole demo clinic, built anew in a process of its own as the first start does, against the two minutes allowed. */
export async function benchDemo(cluster: ClusterForTests): Promise<Row> {
  const urls = await freshDatabase(cluster);
  const start = performance.now();
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/prepare.ts'], {
    env: { ...process.env, ...urls, ARCHIVE_URL: 'http://127.0.0.1:9', ENROLMENT_CODE: 'bench' },
    stdio: 'ignore'
  });
  if (status !== 0) throw new Error('the demo clinic was not built');
  return {
    name: 'The whole demo clinic, from nothing',
    oursMs: performance.now() - start,
    reference: 'two minutes',
    referenceMs: mostMs,
    limit: 1
  };
}
