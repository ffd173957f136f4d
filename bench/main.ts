// ./yonder bench: every figure as a ratio against something measured in the same run. Names of parts run those alone.
import fs from 'node:fs';
import path from 'node:path';
import { password } from '../demo/clinic';
import { Browser } from '../e2e/harness/browser';
import type { ClusterForTests } from '../e2e/harness/clusterSetup';
import { RunningClinic } from '../e2e/harness/running';
import { ensureCluster, freePort, newPassword, startCluster } from '../scripts/cluster.mjs';
import { benchColdSeries, benchTogether } from './chair';
import { benchCharts, benchFinding } from './charts';
import { benchCorneas, truthOfCorneas } from './corneas';
import { benchDeidentify } from './deidentify';
import { benchDemo } from './demo';
import { benchDisc } from './disc';
import { benchExport } from './exporting';
import { benchExposures } from './exposures';
import { benchFrames } from './frames';
import { fullMouthVisit } from './fullMouthVisit';
import { truthOfGuides } from './guides';
import { studyHostile } from './hostile';
import { benchIntake } from './intake';
import {
  benchMeasuring,
  printTruth,
  truthOfAdvice,
  truthOfAdviceOnLimbs,
  truthOfAdviceOnOtherMakes,
  truthOfMarkers,
  truthOfOtherMakes,
  truthOfUsualDose
} from './measuring';
import { truthOfLeadLetters } from './leadLetters';
import { truthOfLettering } from './lettering';
import { benchNeighbours } from './neighbours';
import { benchPackages } from './packages';
import { benchPapers } from './papers';
import { benchPhantom } from './phantom';
import { benchFaultyArchive, benchKills } from './kills';
import { type Row, print } from './report';
import { truthOfEyes, truthOfProposals, truthOfRoots, truthOfSharpening } from './proposals';
import { truthOfSamePlaces } from './samePlaces';
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
async function onClinic(
  work: (clinic: RunningClinic, browser: Browser) => Promise<Row[]>,
  more: Parameters<typeof RunningClinic.start>[0] = {}
): Promise<void> {
  const clinic = await RunningClinic.start({ sensor: false, cluster, ...more });
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
  together: () =>
    onClinic(async (clinic) => {
      const { row, truth } = await benchTogether(clinic);
      printTruth(truth);
      return [row];
    }),
  series: () => onClinic(benchColdSeries, { past: fullMouthVisit }),
  frames: () => onClinic(benchFrames),
  neighbours: () => onClinic(benchNeighbours),
  disc: () => onClinic((clinic) => benchDisc(clinic, folder)),
  search: () => onClinic((clinic) => benchSearch(clinic)),
  charts: () => onClinic(benchCharts),
  finding: () => onClinic((clinic) => benchFinding(clinic)),
  deidentify: async () => printAll(await benchDeidentify(folder)),
  measuring: async () => {
    printAll(await benchMeasuring());
    for (const truth of [...truthOfMarkers(), ...truthOfAdvice()]) printTruth(truth);
  },
  makes: async () => {
    for (const truths of [
      truthOfOtherMakes,
      truthOfAdviceOnOtherMakes,
      truthOfUsualDose,
      truthOfAdviceOnLimbs
    ])
      truths().forEach(printTruth);
  },
  guides: async () => truthOfGuides().forEach(printTruth),
  proposals: async () =>
    [...truthOfProposals(), ...truthOfEyes(), ...truthOfSharpening(), ...truthOfRoots()].forEach(printTruth),
  samePlaces: async () => truthOfSamePlaces().forEach(printTruth),
  lettering: async () => {
    for (const truths of [truthOfLettering, truthOfLeadLetters]) (await truths()).forEach(printTruth);
  },
  corneas: async () => {
    printAll(await benchCorneas());
    for (const truth of truthOfCorneas()) printTruth(truth);
  },
  exporting: () => onClinic((clinic) => benchExport(clinic, folder)),
  papers: () => onClinic((clinic) => benchPapers(clinic), { past: fullMouthVisit }),
  packages: async () => printAll(await benchPackages()),
  phantom: async () => printAll(await benchPhantom()),
  demo: async () => print(await benchDemo(cluster))
};

/** Studies that take long: they run when they are asked for. */
const long: Record<string, () => Promise<void>> = {
  kills: () => benchKills(folder),
  faults: () =>
    onClinic(async (clinic) => {
      await benchFaultyArchive(clinic);
      return [];
    }),
  hostile: async () => studyHostile()
};

const asked = process.argv.slice(2).filter((each) => each !== '--long');
const withLong = process.argv.includes('--long');
Object.assign(parts, withLong ? long : {});
const unknown = asked.filter((name) => !(name in parts));
try {
  if (unknown.length > 0)
    throw new Error(`there is no ${unknown.join(', ')}; parts: ${Object.keys(parts).join(' ')}`);
  for (const [name, run] of Object.entries(parts))
    if (asked.length === 0 || asked.includes(name)) await run();
} catch (error) {
  // Before the database goes, which everything that is still connected would complain of instead.
  console.error(error);
  process.exitCode = 1;
} finally {
  await database.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}
process.exit();
