// ./yonder bench: every figure as a ratio against something measured in the same run. Names of parts run those alone.
import fs from 'node:fs';
import path from 'node:path';
import { password } from '../demo/clinic';
import { Browser } from '../e2e/harness/browser';
import type { ClusterForTests } from '../e2e/harness/clusterSetup';
import { RunningClinic } from '../e2e/harness/running';
import { ensureCluster, freePort, newPassword, startCluster } from '../scripts/cluster.mjs';
import { benchCorneas, truthOfCorneas } from './corneas';
import { benchDeidentify } from './deidentify';
import { benchDemo } from './demo';
import { benchExposures } from './exposures';
import { benchFrames } from './frames';
import { benchIntake } from './intake';
import { benchMeasuring, printTruth, truthOfAdvice, truthOfMarkers } from './measuring';
import { benchPackages } from './packages';
import { benchPhantom } from './phantom';
import { type Row, print } from './report';
import { benchSearch } from './search';

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

const printAll = (rows: readonly Row[]) => rows.forEach(print);

/** What needs the built server and a page. */
async function onClinic(work: (clinic: RunningClinic, browser: Browser) => Promise<Row[]>): Promise<void> {
  const clinic = await RunningClinic.start({ sensor: false, cluster });
  const browser = await Browser.open(clinic.origin);
  try {
    await browser.signIn('orsin', password);
    printAll(await work(clinic, browser));
  } finally {
    await browser.close();
    await clinic.stop();
  }
}

const parts: Record<string, () => Promise<void>> = {
  exposures: () => onClinic((clinic, browser) => benchExposures(clinic, browser, folder)),
  intake: () => onClinic((clinic) => benchIntake(clinic, folder)),
  frames: () => onClinic(benchFrames),
  search: () => onClinic((clinic) => benchSearch(clinic)),
  deidentify: async () => printAll(await benchDeidentify(folder)),
  measuring: async () => {
    printAll(await benchMeasuring());
    for (const truth of [...truthOfMarkers(), ...truthOfAdvice()]) printTruth(truth);
  },
  corneas: async () => {
    printAll(await benchCorneas());
    for (const truth of truthOfCorneas()) printTruth(truth);
  },
  packages: async () => printAll(await benchPackages()),
  phantom: async () => printAll(await benchPhantom()),
  demo: async () => print(await benchDemo(cluster))
};

const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in parts));
try {
  if (unknown.length > 0)
    throw new Error(`there is no ${unknown.join(', ')}; parts: ${Object.keys(parts).join(' ')}`);
  for (const [name, run] of Object.entries(parts))
    if (asked.length === 0 || asked.includes(name)) await run();
} finally {
  await database.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}
process.exit(0);
