import path from 'node:path';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { seededRandom } from '../src/lib/core/random';
import { TestDevice, accountOf, anchoredVisit } from './harness/device';
import { RunningClinic } from './harness/running';

const exposures = 40;
let clinic: RunningClinic;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false });
});
afterAll(() => clinic?.stop());

it(`${exposures} exposures while the server is killed at random moments: none lost, none doubled`, async () => {
  const device = new TestDevice(clinic, path.join(inject('cluster').folder, 'device'));
  await device.start();
  const { visitId, armingId } = await anchoredVisit(clinic, device);
  const random = seededRandom(41);
  let going = true;
  let kills = 0;
  const killer = (async () => {
    // A machine that takes long to start the server takes as long to store what waits for it.
    let startMs = 350;
    while (going) {
      await new Promise((done) => setTimeout(done, 30 + 2 * startMs * random.uniform()));
      await clinic.kill('server', 'SIGKILL');
      kills += 1;
      const started = performance.now();
      clinic.startServer();
      await clinic.untilHealthy();
      startMs = Math.max(350, performance.now() - started);
    }
  })();
  for (let number = 1; number <= exposures; number++) {
    device.expose(armingId, number);
    await new Promise((done) => setTimeout(done, 250 * random.uniform()));
    while (device.spool.count() > 3) await new Promise((done) => setTimeout(done, 20));
  }
  await device.untilEmpty(120_000);
  going = false;
  await killer;
  device.stop();
  const account = await accountOf(clinic, visitId);
  expect(account.numbers).toEqual(Array.from({ length: exposures }, (_, i) => i + 1));
  expect(account).toMatchObject({ takes: exposures, lines: exposures, keys: exposures });
  expect(kills).toBeGreaterThan(5);
  expect(device.offers).toBeGreaterThan(exposures);
});
