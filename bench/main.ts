// ./yonder bench: every figure as a ratio against something measured in the same run.
import fs from 'node:fs';
import path from 'node:path';
import { password } from '../demo/clinic';
import { Browser } from '../e2e/harness/browser';
import type { ClusterForTests } from '../e2e/harness/clusterSetup';
import { RunningClinic } from '../e2e/harness/running';
import { ensureCluster, freePort, newPassword, startCluster } from '../scripts/cluster.mjs';
import { benchCorneas, truthOfCorneas } from './corneas';
import { benchDeidentify } from './deidentify';
import { benchExposures } from './exposures';
import { benchFrames } from './frames';
import { benchDemo } from './demo';
import { benchPhantom } from './phantom';
import { benchMeasuring, printTruth, truthOfAdvice, truthOfMarkers } from './measuring';
import { print } from './report';

const folder = path.resolve('.test', `bench-${process.pid}`);
fs.mkdirSync(folder, { recursive: true });
const cluster: ClusterForTests = {
  folder,
  ownerPassword: newPassword(),
  appPassword: newPassword(),
  port: await freePort()
};
ensureCluster(folder, cluster.ownerPassword);
const database = await startCluster(folder, cluster.port);
const demo = await benchDemo(cluster);
const clinic = await RunningClinic.start({ sensor: false, cluster });
const browser = await Browser.open(clinic.origin);
try {
  await browser.signIn('orsin', password);
  for (const row of await benchExposures(clinic, browser, folder)) print(row);
  for (const row of await benchFrames(clinic, browser)) print(row);
  for (const row of await benchDeidentify(folder)) print(row);
  for (const row of await benchMeasuring()) print(row);
  for (const truth of [...truthOfMarkers(), ...truthOfAdvice()]) printTruth(truth);
  for (const row of await benchCorneas()) print(row);
  for (const truth of truthOfCorneas()) printTruth(truth);
  for (const row of await benchPhantom()) print(row);
  print(demo);
} finally {
  await browser.close();
  await clinic.stop();
  await database.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}
process.exit(0);
