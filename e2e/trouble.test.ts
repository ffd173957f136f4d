import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { ensureCluster, freePort, newPassword, startCluster } from '../scripts/cluster.mjs';
import { Browser } from './harness/browser';
import { TestDevice, accountOf, anchoredVisit } from './harness/device';
import { RunningClinic } from './harness/running';

const folder = path.resolve('.test', `trouble-${process.pid}`);
let database: Awaited<ReturnType<typeof startCluster>>;
let clinic: RunningClinic;
let browser: Browser;

beforeAll(async () => {
  fs.mkdirSync(folder, { recursive: true });
  const [ownerPassword, port] = [newPassword(), await freePort()];
  ensureCluster(folder, ownerPassword);
  database = await startCluster(folder, port);
  clinic = await RunningClinic.start({
    cluster: { port, ownerPassword, appPassword: newPassword(), folder }
  });
  browser = await Browser.open(clinic.origin);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  await database?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
});

const says = (words: RegExp) =>
  browser.until(`the page says ${words}`, async () =>
    words.test(await browser.run<string>('return document.body.innerText'))
  );

describe('when something goes wrong, the page says so where the person looks', () => {
  it('a wrong password', async () => {
    await browser.go('/sign-in');
    await browser.untilLive();
    await (await browser.find('input[name=name]')).sendKeys('mara');
    await (await browser.find('input[name=password]')).sendKeys('wrong');
    await browser.click('form button.main');
    await says(/Name and password don’t fit together/);
  });

  it('files that can’t be used leave nothing behind, and a sound one goes through after them', async () => {
    await browser.signIn('mara', password);
    await browser.click('[data-record=QS-1060]');
    const drop = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-bad-'));
    const bad = path.join(drop, 'scan.png');
    fs.writeFileSync(bad, Buffer.from('%PDF-1.7 not a picture'));
    await (await browser.find('[data-testid=file-picker]')).sendKeys(bad);
    await says(/This is a PDF document, not a picture that can be opened/);
    expect(await browser.all('[data-testid=bench-take]')).toHaveLength(0);
    await browser.click('[aria-label="Remove scan.png"]');
    await browser.untilCount('[data-testid=coming-refused]', 0);
    fs.rmSync(drop, { recursive: true });
  });

  it('a sensor that vanishes is shown as not connected, and is back by itself', async () => {
    await browser.until(
      'the sensor is there',
      async () => (await browser.all('[data-lamp=resting]')).length > 0
    );
    await clinic.kill('sensor');
    await browser.until(
      'it is missed',
      async () => (await browser.all('[data-lamp=absent]')).length > 0,
      40_000
    );
    await says(/Not connected/);
    clinic.startSensor();
    await browser.until('it is back', async () => (await browser.all('[data-lamp=resting]')).length > 0);
  });

  it('an exposure while the database is away is kept by the sensor and comes by itself, once', async () => {
    await browser.click('[data-testid=wide-button]');
    await browser.until('ready', async () => (await browser.all('[data-lamp=ready]')).length > 0);
    await browser.click('[data-testid=demo-expose]');
    await browser.until(
      'the sensor has caught it',
      async () => (await browser.all('[data-lamp=exposing], [data-lamp=reading]')).length > 0
    );
    await database.stop('SIGQUIT');
    await new Promise((done) => setTimeout(done, 2500));
    database = await startCluster(folder, database.port);
    await browser.until(
      'the take is there',
      async () => (await browser.text('[data-testid=station-acquire]')).includes('3 empty'),
      40_000
    );
  });

  it('an archive that refuses: the reason and the next try are in view, then it is delivered', async () => {
    await clinic.archiveFault('refuse', 2);
    await browser.click('[data-testid=station-file]');
    await browser.click('[data-testid=send]');
    await says(/The archive refused for now \(503\)/);
    await browser.untilCount('[data-testid=delivery][data-state=delivered]', 1);
    expect(Object.values(await clinic.receipts())).toEqual([1]);
  });

  it('records that are held too long: the page says so, and comes by itself once they are free', async () => {
    await browser.go('/');
    await browser.untilLive();
    await browser.signOut();
    await browser.signIn('wren', password);
    const letGo = await clinic.hold('audit_checked');
    await browser.go('/audit');
    await browser.untilSays('h1', 'Somebody else is changing the same thing');
    await letGo();
    await browser.untilSays('h1', 'none was changed, none is missing');
  });
});

it('the database is stopped and killed, and the device too, while exposures come in: none lost, none doubled', async () => {
  let device = new TestDevice(clinic, path.join(folder, 'device'));
  await device.start();
  const { visitId, armingId } = await anchoredVisit(clinic, device);
  const exposures = 12;
  for (let number = 1; number <= exposures; number++) {
    device.expose(armingId, number);
    if (number % 5 === 0) device = device.startedAgain();
    if (number % 3 === 0) {
      await database.stop((['SIGKILL', 'SIGINT', 'SIGKILL', 'SIGQUIT'] as const)[number / 3 - 1]);
      await new Promise((done) => setTimeout(done, 400));
      database = await startCluster(folder, database.port);
    }
  }
  await device.untilEmpty(180_000);
  device.stop();
  const account = await accountOf(clinic, visitId);
  expect(account.numbers).toEqual(Array.from({ length: exposures }, (_, i) => i + 1));
  expect(account).toMatchObject({ takes: exposures, lines: exposures, keys: exposures });
  await clinic.untilHealthy();
});
