import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ensureCluster, freePort, newPassword, startCluster } from './cluster.mjs';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-cluster-'));
const password = newPassword();
let cluster: Awaited<ReturnType<typeof startCluster>>;
let port = 0;

beforeAll(async () => {
  fs.chmodSync(folder, 0o755);
  port = await freePort();
  ensureCluster(folder, password);
  cluster = await startCluster(folder, port);
});
afterAll(async () => {
  await cluster?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
});

async function connected(): Promise<pg.Client> {
  const client = new pg.Client({
    host: '127.0.0.1',
    port,
    user: 'yonder_owner',
    password,
    database: 'postgres'
  });
  // It is cut off on purpose.
  client.on('error', () => {});
  await client.connect();
  return client;
}

it('a database that was killed starts again, also while one of its processes is still at a long question', async () => {
  const busy = await connected();
  const answer = busy.query('select sum(sqrt(i)) from generate_series(1, 12000000) i').catch(() => null);
  const watching = await connected();
  const isBusy = async () => {
    const { rows } = await watching.query(
      `select 1 from pg_stat_activity where state = 'active' and query like 'select sum(sqrt%'`
    );
    return rows.length > 0;
  };
  await expect.poll(isBusy).toBe(true);
  await cluster.stop('SIGKILL');
  cluster = await startCluster(folder, port);
  await answer;
  const again = await connected();
  expect((await again.query('select 1 as one')).rows).toEqual([{ one: 1 }]);
  await again.end();
  expect(fs.readFileSync(path.join(folder, 'postgres.log'), 'utf8')).toContain('still in use');
});
