import fs from 'node:fs';
import path from 'node:path';
import type { TestProject } from 'vitest/node';
import { ensureCluster, findBinaries, freePort, newPassword, startCluster } from '../../scripts/cluster.mjs';

export interface ClusterForTests {
  port: number;
  ownerPassword: string;
  appPassword: string;
  folder: string;
}

declare module 'vitest' {
  interface ProvidedContext {
    cluster: ClusterForTests;
  }
}

/** A PostgreSQL of the tests' own, in a folder of its own, gone when they are done. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  findBinaries();
  const folder = path.resolve('.test', `cluster-${process.pid}-${Date.now()}`);
  fs.mkdirSync(folder, { recursive: true });
  const ownerPassword = newPassword();
  ensureCluster(folder, ownerPassword);
  const cluster = await startCluster(folder, await freePort());
  project.provide('cluster', { port: cluster.port, ownerPassword, appPassword: newPassword(), folder });
  return async () => {
    await cluster.stop();
    fs.rmSync(folder, { recursive: true, force: true });
  };
}
